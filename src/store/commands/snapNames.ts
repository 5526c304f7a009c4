import { kindOf, needsOf } from '@/core/arrange/registry';
import type { Tie } from '@/core/curve/hang/schema';
import { hasPoints } from '@/core/curve/schema';
import type { Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { patching } from '../command';
import { findProp } from './find';

/** The names of snap points, and all that goes by them. */

/** Every field of a scene that names a snap point, and whose placed props have it. */
function namesIn(scene: Scene): { on: string; snap: string | null; path: Patch['path'] }[] {
  const ofTie = (tie: Tie | undefined, path: Patch['path']) =>
    tie?.to === 'slot' ? [{ on: tie.arrangement, snap: tie.snap, path: [...path, 'tie', 'snap'] }] : [];
  return [
    ...scene.arrangements.flatMap((a, i) =>
      (kindOf(a).snapNames?.(a) ?? []).map((n) => ({ ...n, path: ['arrangements', i, ...n.path] })),
    ),
    ...scene.paths.flatMap((path, i) =>
      hasPoints(path)
        ? path.source.points.flatMap(({ tie }, k) => ofTie(tie, ['paths', i, 'source', 'points', k]))
        : [],
    ),
    ...scene.measures.flatMap(({ places }, i) =>
      places.flatMap(({ tie }, k) => ofTie(tie, ['measures', i, 'places', k])),
    ),
  ];
}

/**
 * Gives a snap point another name. What goes by the old one, of arrangements that place the prop, goes by the new one
 * from then on; not where another prop of the same arrangement has a point of the old name too.
 */
export const renameSnap = patching<{ prop: string; from: string; to: string }>({
  patches(scene, { prop, from, to }) {
    const found = findProp(scene, prop);
    const at = scene.props.indexOf(found);
    const point = found.snapPoints.findIndex((s) => s.name === from);
    if (point < 0) throw new Error(`There is no snap point "${from}".`);
    const others = new Set(
      scene.props.filter((p) => p !== found && p.snapPoints.some((s) => s.name === from)).map((p) => p.id),
    );
    const goesAlong = new Set(
      scene.arrangements
        .filter((a) => {
          const { props } = needsOf(a);
          return props.includes(prop) && !props.some((p) => others.has(p));
        })
        .map((a) => a.id),
    );
    return [
      { op: 'replace', path: ['props', at, 'snapPoints', point, 'name'], value: to },
      ...namesIn(scene)
        .filter(({ on, snap }) => snap === from && goesAlong.has(on))
        .map(({ path }): Patch => ({ op: 'replace', path, value: to })),
    ];
  },
  name: (before, _, { prop, from, to }) => `${findProp(before, prop).name}: ${from} is called ${to}`,
});
