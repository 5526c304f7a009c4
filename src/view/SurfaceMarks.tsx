import { useEffect, useMemo } from 'react';
import {
  BufferAttribute,
  BufferGeometry,
  Color,
  LineBasicMaterial,
  LineSegments,
  Matrix4,
  Mesh,
  MeshLambertMaterial,
  Vector3,
  type Object3D,
} from 'three';
import type { SurfaceMarks as Kind } from './viewState';

/** Pictures leave it out. */
const AID = { aid: true };

/** More hairs than this are thinned out. */
const MOST = 3000;
const COLORS = { normal: '#2C5F86', u: '#B4472F', v: '#2C5F86' };

/** What is shown on a surface beside its looks: normals as hairs, the ways of u and v, or its slope in colours. */
export function SurfaceMarks({
  geometry,
  matrix,
  kind,
  version,
}: {
  geometry: BufferGeometry;
  /** From the geometry to the scene. */
  matrix: ArrayLike<number> | null;
  kind: Kind;
  /** Changes when the vertices moved. */
  version: string;
}) {
  const object = useMemo(() => {
    const m = new Matrix4();
    if (matrix) m.fromArray(Array.from(matrix));
    if (kind === 'slope') return slopes(geometry, m);
    return kind === 'uv' ? ways(geometry, m) : hairs(geometry, m);
    // The version stands for what the geometry holds.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [geometry, kind, version]);
  useEffect(
    () => () =>
      object.traverse((o) => {
        (o as Mesh).geometry?.dispose();
        ((o as Mesh).material as MeshLambertMaterial | undefined)?.dispose();
      }),
    [object],
  );
  return <primitive object={object} dispose={null} userData={AID} />;
}

function lines(points: number[], color: string): LineSegments {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(points), 3));
  const made = new LineSegments(geometry, new LineBasicMaterial({ color }));
  made.frustumCulled = false;
  return made;
}

/** About a fortieth of the surface's size, so that they read at any scale. */
function lengthOf(geometry: BufferGeometry, m: Matrix4): number {
  if (!geometry.boundingSphere) geometry.computeBoundingSphere();
  return geometry.boundingSphere!.radius * m.getMaxScaleOnAxis() * 0.045;
}

function hairs(geometry: BufferGeometry, m: Matrix4): Object3D {
  const position = geometry.getAttribute('position');
  const normal = geometry.getAttribute('normal');
  const length = lengthOf(geometry, m);
  const step = Math.max(1, Math.ceil(position.count / MOST));
  const points: number[] = [];
  const [p, n] = [new Vector3(), new Vector3()];
  for (let i = 0; i < position.count; i += step) {
    p.fromBufferAttribute(position, i).applyMatrix4(m);
    n.fromBufferAttribute(normal, i).transformDirection(m);
    points.push(p.x, p.y, p.z, p.x + n.x * length, p.y + n.y * length, p.z + n.z * length);
  }
  return lines(points, COLORS.normal);
}

/** From the middle of faces: where u grows, and where v does. */
function ways(geometry: BufferGeometry, m: Matrix4): Object3D {
  const position = geometry.getAttribute('position');
  const uv = geometry.getAttribute('uv');
  const index = geometry.getIndex()!;
  const made = lines([], COLORS.u);
  if (!uv) return made;
  const length = lengthOf(geometry, m);
  const faces = index.count / 3;
  const step = Math.max(1, Math.ceil(faces / MOST));
  const along: [number[], number[]] = [[], []];
  const [a, b, c] = [new Vector3(), new Vector3(), new Vector3()];
  for (let f = 0; f < faces; f += step) {
    const [i, j, k] = [0, 1, 2].map((x) => index.getX(f * 3 + x));
    a.fromBufferAttribute(position, i).applyMatrix4(m);
    b.fromBufferAttribute(position, j).applyMatrix4(m);
    c.fromBufferAttribute(position, k).applyMatrix4(m);
    const middle = new Vector3().add(a).add(b).add(c).divideScalar(3);
    b.sub(a);
    c.sub(a);
    const [du, dv] = [uv.getX(j) - uv.getX(i), uv.getY(j) - uv.getY(i)];
    const [eu, ev] = [uv.getX(k) - uv.getX(i), uv.getY(k) - uv.getY(i)];
    const det = du * ev - eu * dv;
    if (Math.abs(det) < 1e-14) continue;
    const ways = [
      b.clone().multiplyScalar(ev).addScaledVector(c, -dv),
      c.clone().multiplyScalar(du).addScaledVector(b, -eu),
    ];
    ways.forEach((way, w) => {
      way.divideScalar(det).normalize().multiplyScalar(length);
      along[w].push(...middle.toArray(), ...middle.clone().add(way).toArray());
    });
  }
  const group = lines(along[0], COLORS.u);
  group.add(lines(along[1], COLORS.v));
  return group;
}

/** Green is level, yellow at 30°, red from 60° on. */
function slopes(geometry: BufferGeometry, m: Matrix4): Object3D {
  const normal = geometry.getAttribute('normal');
  const shown = new BufferGeometry();
  shown.setAttribute('position', geometry.getAttribute('position'));
  shown.setAttribute('normal', normal);
  shown.setIndex(geometry.getIndex());
  const colors = new Float32Array(normal.count * 3);
  const n = new Vector3();
  const [level, steep, upright] = ['#61793F', '#D6A02B', '#B4472F'].map((c) => new Color(c));
  const color = new Color();
  for (let i = 0; i < normal.count; i++) {
    n.fromBufferAttribute(normal, i).transformDirection(m);
    const deg = (Math.acos(Math.min(1, Math.abs(n.y))) * 180) / Math.PI;
    if (deg < 30) color.lerpColors(level, steep, deg / 30);
    else color.lerpColors(steep, upright, Math.min(1, (deg - 30) / 30));
    color.toArray(colors, i * 3);
  }
  shown.setAttribute('color', new BufferAttribute(colors, 3));
  const material = new MeshLambertMaterial({
    vertexColors: true,
    side: 2,
    polygonOffset: true,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -1,
  });
  const mesh = new Mesh(shown, material);
  mesh.matrixAutoUpdate = false;
  mesh.matrix.copy(m);
  mesh.receiveShadow = true;
  return mesh;
}
