import type { GlowingCopies } from '@/core/light/glowing';
import type { Bounds } from '@/core/mesh/mesh';
import type { Glow } from '@/core/light/lampSchema';
import type { Scene } from '@/core/scene/schema';
import { wornAmong } from '@/core/scene/worn';
import type { DrawBatch } from '@/engine/drawBatch';
import type { Vec3 } from '@/core/math/vec3';
import type { ServedArrangement } from '@/engine/served';

/**
 * Placed copies of props that glow, or that wear what glows, by what is drawn of arrangements.
 * @param bounds of props, in their own space
 */
export function glowingCopies(
  { props, materials, arrangements }: Pick<Scene, 'props' | 'materials' | 'arrangements'>,
  results: ReadonlyMap<string, ServedArrangement>,
  hidden: ReadonlySet<string>,
  bounds: Readonly<Record<string, Bounds>>,
): GlowingCopies[] {
  const byId = new Map(props.map((p) => [p.id, p]));
  const wornBy = wornAmong(arrangements);
  const shining = new Map(materials.map((m) => [m.id, m.glow]));
  const glowOf = (id: string, { prop, of = [] }: DrawBatch): Glow | null => {
    const found = byId.get(prop);
    if (!found) return null;
    const worn = wornBy(found, [id, ...of]);
    return (worn !== null && shining.get(worn)) || found.glow;
  };
  return [...results].flatMap(([id, { batches }]) =>
    hidden.has(id)
      ? []
      : batches.flatMap((batch): GlowingCopies[] => {
          const { prop, matrices, rows, tints } = batch;
          const glow = glowOf(id, batch);
          const box = bounds[prop] as Bounds | undefined;
          return glow && glow.strength > 0 && box
            ? [{ glow, middle: middleOf(box), matrices, count: rows.length, tints }]
            : [];
        }),
  );
}

const middleOf = ({ min, max }: Bounds): Vec3 => [
  (min[0] + max[0]) / 2,
  (min[1] + max[1]) / 2,
  (min[2] + max[2]) / 2,
];
