import Papa from 'papaparse';
import { slotName } from '../arrange/slotId';
import { GAP_REASONS, STATE, type ArrangementResult } from '../arrange/result';
import type { SceneResult } from '../evaluate/scene';
import { turnAndSizes } from '../math/affine';
import { wayTo } from './wayTo';
import type { Scene } from '../scene/schema';

export const CSV_COLUMNS = [
  'arrangement',
  'kind',
  'prop',
  'slot',
  'state',
  'reason',
  'x',
  'y',
  'z',
  'qx',
  'qy',
  'qz',
  'qw',
  'sx',
  'sy',
  'sz',
  's',
  'u',
  'v',
] as const;

/** What copies of bundles hold, by the row of the copy: a row a prop, its slot the way through the copies to it. */
function rowsInside(
  { placements, inside }: Pick<ArrangementResult, 'placements' | 'inside'>,
  names: ReadonlyMap<string, string>,
): Map<number, (string | number)[][]> {
  const out = new Map<number, (string | number)[][]>();
  for (let i = 0; i < (inside?.count ?? 0); i++) {
    const copy = inside!.copy[i];
    let list = out.get(copy);
    if (!list) out.set(copy, (list = []));
    if (inside!.bundle[i]) continue;
    const m = inside!.matrix;
    const { rotation, scale } = turnAndSizes(m, i * 16);
    list.push([
      names.get(inside!.props[inside!.prop[i]]) ?? '',
      wayTo(placements, inside!, i),
      'placed',
      '',
      ...m.subarray(i * 16 + 12, i * 16 + 15),
      ...rotation,
      ...scale,
      placements.s[copy],
      '',
      '',
    ]);
  }
  return out;
}

/**
 * One row a slot of every visible arrangement; metres, Y up, quaternions from the prop's own space. Numbers are
 * written so that they read back to the same double. Of a copy of a bundle each prop in it has a row.
 * @param options gaps: whether empty slots get a row too, with their reason
 */
export function writeCsv(scene: Scene, result: SceneResult, options: { gaps: boolean }): string {
  const names = new Map(scene.props.map((p) => [p.id, p.name]));
  const rows: (string | number)[][] = [];
  scene.arrangements.forEach((a, index) => {
    if (!a.visible) return;
    const p = result.arrangements[index].placements;
    const copies = rowsInside(result.arrangements[index], names);
    for (let i = 0; i < p.count; i++) {
      const placed = p.state[i] === STATE.placed;
      if (!placed && !options.gaps) continue;
      if (copies.has(i)) {
        rows.push(...copies.get(i)!.map((row) => [a.name, a.kind, ...row]));
        continue;
      }
      rows.push([
        a.name,
        a.kind,
        p.prop[i] < 0 ? '' : (names.get(p.props[p.prop[i]]) ?? ''),
        slotName(p.slot[i]),
        placed ? 'placed' : 'gap',
        placed ? '' : GAP_REASONS[p.state[i]],
        ...p.position.subarray(i * 3, i * 3 + 3),
        ...p.rotation.subarray(i * 4, i * 4 + 4),
        ...p.scale.subarray(i * 3, i * 3 + 3),
        p.s[i],
        '',
        '',
      ]);
    }
  });
  // A name that begins like a formula must not run in a spreadsheet; Papa puts an apostrophe before it. Numbers are
  // handed over as numbers, and stay as they are.
  const textColumns = /^[=+\-@\t\r\n]/;
  return `${Papa.unparse({ fields: [...CSV_COLUMNS], data: rows }, { newline: '\n', escapeFormulae: textColumns })}\n`;
}
