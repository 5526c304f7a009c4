import { hangSchema, type Hang, type Tie } from '@/core/curve/hang/schema';
import type { Vec3 } from '@/core/math/vec3';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findArrangement, findPointsPath, findWith } from './find';
import { describeChange } from './naming';
import { addMadePath } from './paths';

/** Commands of what hangs, and of what is connected. */

/** What fields of hanging are called, where others have other names for them. */
const CALLED = { how: 'hangs', by: 'hangs by', loose: 'loose by' };

const hangs = (scene: Scene, path: string) => findPointsPath(scene, path).source;

/** Lets the sides of a path hang, or sets how they do; null: they are as its points say again. */
export const hangPath = command<{ path: string; values: Partial<Hang> | null }>({
  apply(scene, { path, values }) {
    const source = hangs(scene, path);
    if (values === null) delete source.hang;
    else source.hang = hangSchema.parse({ ...source.hang, ...values });
  },
  name(before, _, { path, values }) {
    const { name } = findPointsPath(before, path);
    const { hang } = hangs(before, path);
    if (values === null) return `“${name}” hangs no more`;
    return hang ? describeChange(hang, values, before.units, CALLED) : `let “${name}” hang`;
  },
});

/** Connects a point to what it goes with from now on, or lets it go; it stays where it is then. */
export const tiePoint = command<{ path: string; point: string; tie: Tie | null; at: Vec3 }>({
  apply(scene, { path, point, tie, at }) {
    const found = hangs(scene, path).points.find((p) => p.id === point);
    if (!found) throw new Error(`There is no point "${point}".`);
    found.position = [...at];
    if (tie) found.tie = tie;
    else delete found.tie;
  },
  name: (before, _, { path, tie }) =>
    `${tie ? 'connect' : 'let go of'} “${findPointsPath(before, path).name}”`,
});

/** Lets points go of what they are connected to; they stay where they are now. @param at where, by their ids */
export const letGoOfPoints = command<{ path: string; at: Record<string, Vec3> }>({
  apply(scene, { path, at }) {
    for (const point of hangs(scene, path).points) {
      if (!at[point.id] || !point.tie) continue;
      point.position = [...at[point.id]];
      delete point.tie;
    }
  },
  name: (before, _, { path }) => `let go of “${findPointsPath(before, path).name}”`,
});

/** Sets how the lines of strands hang. */
export const hangStrands = command<{ id: string; values: Partial<Hang> }>({
  apply(scene, { id, values }) {
    const found = findWith(scene, id, 'hang');
    found.hang = hangSchema.parse({ ...found.hang, ...values });
  },
  name: (before, _, { id, values }) =>
    describeChange(findWith(before, id, 'hang').hang, values, before.units, CALLED),
});

/** The lines of strands as a path that other things hang on. @returns its id */
export const addStrandsPath = command<{ id: string }>({
  apply: (scene, { id }) =>
    addMadePath(scene, `Lines of ${findArrangement(scene, id).name}`.slice(0, 200), {
      kind: 'lines',
      of: id,
    }),
  name: (before, _, { id }) => `lines of “${findArrangement(before, id).name}” as a path`,
});
