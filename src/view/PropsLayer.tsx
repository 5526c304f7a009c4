import { useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import {
  Box3,
  DoubleSide,
  DynamicDrawUsage,
  Group,
  InstancedBufferAttribute,
  InstancedMesh,
  type Material,
  Matrix4,
  Mesh,
  MeshBasicMaterial,
  MeshStandardMaterial,
  Sphere,
} from 'three';
import { propMatrix } from '@/core/mesh/mesh';
import type { Arrangement } from '@/core/arrange/registry';
import type { DrawBatch } from '@/engine/drawing';
import type { ServedArrangement } from '@/engine/served';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { linearChannel as linear } from '@/core/math/color';
import { THREAD_COLORS } from './colors';
import { distortionRgb } from './distortion';
import { mirroredGeometry, releaseShape, shapedMesh, type DrawnMesh } from './sceneMeshes';
import { useMeshes } from './useMeshes';
import type { InstancePick } from './pick';
import { useView } from './viewState';

/** Under the colours of distortion: nothing of the props' own. */
const PLAIN = new MeshStandardMaterial({ roughness: 0.9, side: DoubleSide });

interface Kept {
  mesh: InstancedMesh;
  drawn: DrawnMesh;
  from: ServedArrangement;
  batch: DrawBatch;
  /** Whether it is coloured by distortion. */
  distortion: boolean;
}

/** What is drawn is the scene that was worked out last; it may hold a run that is only dragged so far. */
const NONE: Arrangement[] = [];

/** Every placed prop: one instanced mesh an arrangement and prop, its matrices straight from the worker. */
export function PropsLayer() {
  const invalidate = useThree((s) => s.invalidate);
  const gl = useThree((s) => s.gl);
  const props = useDocument((s) => s.scene.props);
  const arrangements = useEngine((s) => s.scene?.arrangements) ?? NONE;
  const results = useEngine((s) => s.result.arrangements);
  const distortion = useView((s) => s.distortion);
  const used = useMemo(
    () => new Set([...results.values()].flatMap((r) => r.batches.map((b) => b.prop))),
    [results],
  );
  const wanted = useMemo(
    () =>
      props
        .filter((p) => used.has(p.id))
        .map((p) => ({
          id: p.id,
          mesh: p.mesh,
          settings: JSON.stringify([p.unitScale, p.foot, p.front, p.up]),
          matrix: (bounds: Parameters<typeof propMatrix>[1]) => propMatrix(p, bounds),
        })),
    [props, used],
  );
  const meshes = useMeshes(wanted, invalidate);
  const group = useRef(new Group());
  const kept = useRef(new Map<string, Kept>());

  useEffect(() => {
    const seen = new Set<string>();
    for (const a of arrangements) {
      const result = results.get(a.id);
      if (!a.visible || !result) continue;
      for (const batch of result.batches) {
        const plain = meshes.get(batch.prop);
        if (!plain) continue;
        const drawn = shapedMesh(plain, result, batch);
        const shaped = batch.shape === undefined ? '' : ` ${batch.shape}`;
        const key = `${a.id} ${batch.prop}${batch.mirrored ? ' mirrored' : ''}${shaped}`;
        seen.add(key);
        const have = kept.current.get(key);
        if (have && have.drawn === drawn && have.from === result && have.distortion === distortion) continue;
        const count = batch.rows.length;
        let mesh = have?.mesh;
        if (!mesh || have!.drawn !== drawn || mesh.instanceMatrix.count < count) {
          if (mesh) {
            group.current.remove(mesh);
            mesh.dispose();
            if (have!.drawn !== drawn) releaseShape(have!.drawn);
          }
          const room = have ? Math.ceil(count * 1.5) : count;
          mesh = new InstancedMesh(
            batch.mirrored ? mirroredGeometry(drawn) : drawn.geometry,
            drawn.materials,
            room,
          );
          mesh.instanceMatrix = new InstancedBufferAttribute(new Float32Array(room * 16), 16);
          mesh.instanceMatrix.setUsage(DynamicDrawUsage);
          mesh.castShadow = mesh.receiveShadow = true;
          group.current.add(mesh);
        }
        const few =
          have?.mesh === mesh && have.distortion === distortion ? fewChanged(have.batch, batch) : null;
        if (few) rewrite(mesh, batch, few);
        else {
          (mesh.instanceMatrix.array as Float32Array).set(batch.matrices);
          mesh.instanceMatrix.clearUpdateRanges();
          mesh.instanceMatrix.needsUpdate = true;
        }
        const colored = distortion && result.sheet !== undefined;
        mesh.material = colored ? PLAIN : drawn.materials;
        tint(mesh, colored ? stretched(batch, result) : batch);
        mesh.count = count;
        if (few) reach(mesh, few);
        else {
          mesh.computeBoundingSphere();
          mesh.computeBoundingBox();
        }
        const { slot } = result.placements;
        const pick: InstancePick = { arrangement: a.id, slotOf: (i) => slot[batch.rows[i]] };
        mesh.userData = { pick };
        kept.current.set(key, { mesh, drawn, from: result, batch, distortion });
      }
    }
    for (const [key, { mesh, drawn }] of kept.current) {
      if (seen.has(key)) continue;
      group.current.remove(mesh);
      mesh.dispose();
      releaseShape(drawn);
      kept.current.delete(key);
    }
    gl.shadowMap.needsUpdate = true;
    invalidate();
  });

  return (
    <>
      <primitive object={group.current} />
      <Highlights meshes={meshes} />
    </>
  );
}

/** The instances that changed since a batch was drawn; null where that is not known. */
function fewChanged(drawn: DrawBatch, { matrices, changed }: DrawBatch): number[] | null {
  const next = drawn.matrices === matrices && changed?.times === (drawn.changed?.times ?? 0) + 1;
  return next ? changed.instances : null;
}

/** Writes a few instances anew; only they go to the graphics card. */
function rewrite(mesh: InstancedMesh, { matrices }: DrawBatch, instances: number[]): void {
  const { instanceMatrix } = mesh;
  for (const i of instances) {
    (instanceMatrix.array as Float32Array).set(matrices.subarray(i * 16, (i + 1) * 16), i * 16);
    instanceMatrix.addUpdateRange(i * 16, 16);
  }
  instanceMatrix.needsUpdate = true;
}

const sphere = new Sphere();
const box = new Box3();
const matrix = new Matrix4();

/** Lets the bounds of all instances hold a few that changed: they may be wider than need be, never too narrow. */
function reach(mesh: InstancedMesh, instances: number[]): void {
  const { boundingSphere, boundingBox } = mesh.geometry;
  for (const i of instances) {
    mesh.getMatrixAt(i, matrix);
    mesh.boundingSphere!.union(sphere.copy(boundingSphere!).applyMatrix4(matrix));
    mesh.boundingBox!.union(box.copy(boundingBox!).applyMatrix4(matrix));
  }
}

/** A sheet's instances in the colours of their distortion; others as they are. */
function stretched(batch: DrawBatch, { sheet }: ServedArrangement): DrawBatch {
  if (!sheet) return batch;
  const tints = new Float32Array(batch.rows.length * 3);
  batch.rows.forEach((row, i) => {
    const rgb = distortionRgb(sheet.distortion[row * 2], sheet.distortion[row * 2 + 1]);
    tints.set(
      rgb.map((v) => linear(v / 255)),
      i * 3,
    );
  });
  return { ...batch, tints };
}

/** Colours of the instances; a mesh that had some and has none any more is white again. */
function tint(mesh: InstancedMesh, batch: DrawBatch): void {
  if (!batch.tints && !mesh.instanceColor) return;
  const room = mesh.instanceMatrix.count * 3;
  if (mesh.instanceColor?.array.length !== room) {
    mesh.instanceColor = new InstancedBufferAttribute(new Float32Array(room).fill(1), 3);
    // A material that was compiled without colours of its instances is compiled anew.
    for (const m of [mesh.material].flat() as Material[]) m.needsUpdate = true;
  }
  const array = mesh.instanceColor.array as Float32Array;
  if (batch.tints) array.set(batch.tints);
  else array.fill(1);
  mesh.instanceColor.needsUpdate = true;
}

/** Lights up the props that are hovered or selected, in the thread of their arrangement. */
function Highlights({ meshes }: { meshes: Map<string, DrawnMesh> }) {
  const invalidate = useThree((s) => s.invalidate);
  const group = useRef(new Group());
  const hover = useSelection((s) => s.hover);
  const slots = useSelection((s) => s.slots);
  const arrangements = useEngine((s) => s.scene?.arrangements) ?? NONE;
  const results = useEngine((s) => s.result.arrangements);
  useEffect(() => {
    const made: Mesh[] = [];
    const light = (arrangement: string, slot: number, strength: number) => {
      const result = results.get(arrangement);
      const a = arrangements.find((x) => x.id === arrangement);
      if (!result || !a?.visible) return;
      for (const batch of result.batches) {
        const plain = meshes.get(batch.prop);
        const drawn = plain && shapedMesh(plain, result, batch);
        const i = batch.rows.findIndex((row) => result.placements.slot[row] === slot);
        if (i < 0 || !drawn) continue;
        const material = new MeshBasicMaterial({
          color: THREAD_COLORS[a.thread],
          transparent: true,
          opacity: strength,
          depthWrite: false,
          polygonOffset: true,
          polygonOffsetFactor: -1,
          polygonOffsetUnits: -4,
        });
        const mesh = new Mesh(batch.mirrored ? mirroredGeometry(drawn) : drawn.geometry, material);
        mesh.matrixAutoUpdate = false;
        mesh.matrix = new Matrix4().fromArray(batch.matrices, i * 16);
        mesh.raycast = () => {};
        made.push(mesh);
        group.current.add(mesh);
      }
    };
    for (const id of slots?.ids ?? []) light(slots!.arrangement, id, 0.6);
    if (hover && !(slots?.arrangement === hover.arrangement && slots.ids.includes(hover.slot))) {
      light(hover.arrangement, hover.slot, 0.4);
    }
    invalidate();
    const shown = group.current;
    return () => {
      for (const mesh of made) {
        shown.remove(mesh);
        (mesh.material as MeshBasicMaterial).dispose();
      }
      invalidate();
    };
  }, [hover, slots, arrangements, results, meshes, invalidate]);
  return <primitive object={group.current} />;
}
