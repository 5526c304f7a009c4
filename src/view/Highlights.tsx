import { useThree } from '@react-three/fiber';
import { useEffect, useRef, useState } from 'react';
import { BufferGeometry, Group, InstancedBufferAttribute, InstancedMesh, MeshBasicMaterial } from 'three';
import { rowAtWay, type Inside } from '@/core/arrange/inside';
import type { Arrangement } from '@/core/arrange/registry';
import { rowFinder } from '@/core/arrange/rowFinder';
import type { WayStep } from '@/core/arrange/steps/withinSchema';
import { instancesOf } from '@/engine/drawing';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { followTouching, useTouching } from '@/store/touching';
import { THREAD_COLORS } from './colors';
import { detail } from './many/detail';
import { mirroredGeometry, shapedMesh, type DrawnMesh } from './sceneMeshes';

const NONE: Arrangement[] = [];
const WARNS = THREAD_COLORS.madder;

/** Milliseconds on a prop until it lights up where a frame takes long: what is only passed over draws none. */
const STAYED_MS = 100;

const materials = new Map<string, MeshBasicMaterial>();

/** Kept: to let go of the last one of a sort lets go of its shader, which the next hover would wait for. */
function litBy(color: string, opacity: number): MeshBasicMaterial {
  const key = `${color} ${opacity}`;
  let made = materials.get(key);
  if (!made) {
    made = new MeshBasicMaterial({
      color,
      transparent: true,
      opacity,
      depthWrite: false,
      polygonOffset: true,
      polygonOffsetFactor: -1,
      polygonOffsetUnits: -4,
    });
    materials.set(key, made);
  }
  return made;
}

/** Lights up nothing: with it the shader is made while a scene opens, and not at the first hover. */
function unlit(): Group {
  const none = new InstancedMesh(new BufferGeometry(), litBy(THREAD_COLORS.madder, 0.4), 0);
  none.frustumCulled = false;
  none.raycast = () => {};
  const group = new Group().add(none);
  // What is in hand is lit up for those who work, not in pictures.
  group.userData.aid = true;
  return group;
}

/** The rows of what a way leads to in a copy: a prop, or a nested copy with all that is in it. */
function partOf(inside: Inside, copy: number, way: readonly WayStep[]): ReadonlySet<number> {
  const row = rowAtWay(inside, copy, way);
  const part = new Set(row < 0 ? [] : [row]);
  for (let i = row + 1; row >= 0 && i < inside.count && part.has(inside.parent[i]); i++) part.add(i);
  return part;
}

/** Lights up the props that are hovered or selected, in the thread of their arrangement. */
export function Highlights({ meshes }: { meshes: Map<string, DrawnMesh> }) {
  const invalidate = useThree((s) => s.invalidate);
  const [group] = useState(unlit);
  const hover = useSelection((s) => s.hover);
  const slots = useSelection((s) => s.slots);
  const touching = useTouching((s) => s.slots);
  useEffect(() => followTouching(), []);
  const arrangements = useEngine((s) => s.scene?.arrangements) ?? NONE;
  const results = useEngine((s) => s.result.arrangements);
  const lastHover = useRef(hover);
  useEffect(() => {
    const made: InstancedMesh[] = [];
    const light = (
      arrangement: string,
      lit: ReadonlySet<number>,
      strength: number,
      way?: readonly WayStep[],
      color?: string,
    ) => {
      const result = results.get(arrangement);
      const a = arrangements.find((x) => x.id === arrangement);
      if (!result || !a?.visible || lit.size === 0) return;
      const rowOf = rowFinder(result.placements);
      const rows = [...lit].map(rowOf).filter((row) => row >= 0);
      const part = way && result.inside && rows.length > 0 ? partOf(result.inside, rows[0], way) : null;
      for (const batch of result.batches) {
        const plain = meshes.get(batch.prop);
        if (!plain) continue;
        const own = part && batch.within;
        const instances = rows
          .flatMap((row) => instancesOf(batch, row))
          .filter((i) => !part || (own && part.has(own[i])));
        if (instances.length === 0) continue;
        const drawn = shapedMesh(plain, result, batch);
        const mesh = new InstancedMesh(
          batch.mirrored ? mirroredGeometry(drawn) : drawn.geometry,
          litBy(color ?? THREAD_COLORS[a.thread], strength),
          instances.length,
        );
        const matrices = new Float32Array(instances.length * 16);
        instances.forEach((i, k) => matrices.set(batch.matrices.subarray(i * 16, (i + 1) * 16), k * 16));
        mesh.instanceMatrix = new InstancedBufferAttribute(matrices, 16);
        mesh.frustumCulled = false;
        mesh.raycast = () => {};
        made.push(mesh);
        group.add(mesh);
      }
    };
    const selected = new Set(slots?.ids);
    if (slots) light(slots.arrangement, selected, 0.6, slots.within);
    if (hover && !(slots?.arrangement === hover.arrangement && selected.has(hover.slot)))
      light(hover.arrangement, new Set([hover.slot]), 0.4);
    // What begins to reach into something while it is dragged.
    for (const [id, own] of touching) light(id, own, 0.85, undefined, WARNS);
    const isPassed = detail.inParts && lastHover.current !== hover;
    lastHover.current = hover;
    let waiting: ReturnType<typeof setTimeout> | undefined;
    if (isPassed) waiting = setTimeout(invalidate, STAYED_MS);
    else invalidate();
    return () => {
      clearTimeout(waiting);
      for (const mesh of made) {
        group.remove(mesh);
        mesh.dispose();
      }
    };
  }, [hover, slots, touching, arrangements, results, meshes, group, invalidate]);
  return <primitive object={group} />;
}
