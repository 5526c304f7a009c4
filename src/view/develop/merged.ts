import {
  BufferAttribute,
  BufferGeometry,
  InstancedMesh,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  type Material,
  type Scene,
  type Side,
} from 'three';

/**
 * What casts shadows as few meshes. Without a graphics card each mesh takes more than half a millisecond, and each
 * instance of one some 40 µs, whatever they have of triangles: for a shadow that was most of what it took.
 */

/** What is drawn of something. */
export interface Drawn {
  mesh: Mesh;
  geometry: BufferGeometry;
}

/** One of more triangles, all its instances together, stays as it is; and so do those that are more than so many. */
const MOST = 20_000;
const MOST_TOGETHER = 100_000;
/** So many mergers are kept: a shadow may be cast in portions, and what is seen may change from one to the next. */
const KEPT = 4;

export class Mergers {
  private kept = new Map<string, Mesh[]>();

  /** Does something while one mesh for each way that faces look stands for all of these that may be merged. */
  during(scene: Scene, all: readonly Drawn[], work: () => void): void {
    let left = MOST_TOGETHER;
    const some = all.filter((one) => {
      const triangles = trianglesOf(one);
      return canBeMerged(one) && triangles <= MOST && (left -= triangles) >= 0;
    });
    if (some.length < 2) return work();
    const meshes = this.of(some);
    const masks = some.map(({ mesh }) => mesh.layers.mask);
    for (const { mesh } of some) mesh.layers.mask = 0;
    scene.add(...meshes);
    try {
      work();
    } finally {
      scene.remove(...meshes);
      some.forEach(({ mesh }, i) => void (mesh.layers.mask = masks[i]));
    }
  }

  private of(some: readonly Drawn[]): Mesh[] {
    const key = some.map(keyOf).join('\n');
    const meshes = this.kept.get(key) ?? merge(some);
    // The last that was asked for goes last.
    this.kept.delete(key);
    this.kept.set(key, meshes);
    for (const [old, has] of this.kept) {
      if (this.kept.size <= KEPT) break;
      this.kept.delete(old);
      for (const { geometry } of has) geometry.dispose();
    }
    return meshes;
  }

  dispose(): void {
    for (const has of this.kept.values()) for (const { geometry } of has) geometry.dispose();
    this.kept.clear();
  }
}

const countOf = (mesh: Mesh): number => (mesh instanceof InstancedMesh ? mesh.count : 1);
const trianglesOf = ({ mesh, geometry }: Drawn): number =>
  ((geometry.getIndex()?.count ?? 0) / 3) * countOf(mesh);

/** Whether its vertices say where it is: pictures may cut holes, and what it is drawn by may be of its own making. */
function canBeMerged({ mesh, geometry }: Drawn): boolean {
  return (
    geometry.getIndex() !== null &&
    !mesh.customDepthMaterial &&
    materialsOf(mesh).every(({ alphaTest, visible }) => alphaTest === 0 && visible)
  );
}

const materialsOf = ({ material }: Mesh): Material[] => [material].flat();

/** All that it looks like as a shadow. */
function keyOf({ mesh, geometry }: Drawn): string {
  const instances = mesh instanceof InstancedMesh ? `${mesh.count} ${mesh.instanceMatrix.version}` : '';
  const { version } = geometry.getAttribute('position') as BufferAttribute;
  const sides = materialsOf(mesh).map(({ side }) => side);
  return `${mesh.id} ${geometry.id} ${version} ${geometry.getIndex()!.version} ${instances} ${sides} ${mesh.matrixWorld.elements}`;
}

function merge(some: readonly Drawn[]): Mesh[] {
  const bySide = new Map<Side, { positions: number[]; indices: number[] }>();
  for (const { mesh, geometry } of some) {
    const materials = materialsOf(mesh);
    const index = geometry.getIndex()!;
    const groups = geometry.groups.length > 0 ? geometry.groups : [{ start: 0, count: index.count }];
    for (const { start, count, materialIndex = 0 } of groups) {
      const { side } = materials[Math.min(materialIndex, materials.length - 1)];
      const to = bySide.get(side) ?? { positions: [], indices: [] };
      bySide.set(side, to);
      put(mesh, geometry, start, start + count, to);
    }
  }
  return [...bySide].map(([side, { positions, indices }]) => {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(new Float32Array(positions), 3));
    geometry.setIndex(new BufferAttribute(new Uint32Array(indices), 1));
    const mesh = new Mesh(geometry, new MeshBasicMaterial({ side }));
    mesh.castShadow = true;
    return mesh;
  });
}

/** Puts some faces of a mesh, all its instances, where they are in the scene. */
function put(
  mesh: Mesh,
  geometry: BufferGeometry,
  from: number,
  until: number,
  { positions, indices }: { positions: number[]; indices: number[] },
): void {
  const index = geometry.getIndex()!;
  const position = geometry.getAttribute('position');
  // Of its vertices those that are used.
  const place = new Map<number, number>();
  for (let i = from; i < until; i++) if (!place.has(index.getX(i))) place.set(index.getX(i), place.size);
  const m = new Matrix4();
  for (let k = 0; k < countOf(mesh); k++) {
    if (mesh instanceof InstancedMesh) mesh.getMatrixAt(k, m);
    const { elements: e } = m.premultiply(mesh.matrixWorld);
    const first = positions.length / 3;
    for (const v of place.keys()) {
      const [x, y, z] = [position.getX(v), position.getY(v), position.getZ(v)];
      for (let a = 0; a < 3; a++) positions.push(e[a] * x + e[a + 4] * y + e[a + 8] * z + e[a + 12]);
    }
    for (let i = from; i < until; i++) indices.push(first + place.get(index.getX(i))!);
  }
}
