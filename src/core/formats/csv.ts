import Papa from 'papaparse';
import { slotName } from '../arrange/slotId';
import { GAP_REASONS, STATE } from '../arrange/result';
import type { SceneResult } from '../evaluate/scene';
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

/**
 * One row a slot of every visible arrangement; metres, Y up, quaternions from the prop's own space. Numbers are
 * written so that they read back to the same double.
 * @param options gaps: whether empty slots get a row too, with their reason
 */
export function writeCsv(scene: Scene, result: SceneResult, options: { gaps: boolean }): string {
  const names = new Map(scene.props.map((p) => [p.id, p.name]));
  const rows: (string | number)[][] = [];
  scene.arrangements.forEach((a, index) => {
    if (!a.visible) return;
    const p = result.arrangements[index].placements;
    for (let i = 0; i < p.count; i++) {
      const placed = p.state[i] === STATE.placed;
      if (!placed && !options.gaps) continue;
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
