import type { GlowingCopies } from '@/core/light/glowing';
import type { Bounds } from '@/core/mesh/mesh';
import type { Prop } from '@/core/mesh/propSchema';
import type { Vec3 } from '@/core/math/vec3';
import type { ServedArrangement } from '@/engine/served';

/** Placed copies of props that glow, by what is drawn of arrangements. @param bounds of props, in their own space */
export function glowingCopies(
  props: readonly Prop[],
  results: ReadonlyMap<string, ServedArrangement>,
  hidden: ReadonlySet<string>,
  bounds: Readonly<Record<string, Bounds>>,
): GlowingCopies[] {
  const glowing = new Map(props.flatMap((p) => (p.glow && p.glow.strength > 0 ? [[p.id, p.glow]] : [])));
  return [...results].flatMap(([id, { batches }]) =>
    hidden.has(id)
      ? []
      : batches.flatMap(({ prop, matrices, rows, tints }): GlowingCopies[] => {
          const glow = glowing.get(prop);
          const box = bounds[prop] as Bounds | undefined;
          return glow && box ? [{ glow, middle: middleOf(box), matrices, count: rows.length, tints }] : [];
        }),
  );
}

const middleOf = ({ min, max }: Bounds): Vec3 => [
  (min[0] + max[0]) / 2,
  (min[1] + max[1]) / 2,
  (min[2] + max[2]) / 2,
];
