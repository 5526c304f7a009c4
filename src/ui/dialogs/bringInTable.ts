import { pegNumber } from '@/core/arrange/pegs/schema';
import { cos, sin } from '@/core/math/portable';
import { DEG, quatTurnTipRoll } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { addPegs } from '@/store/commands/pegs';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement, selectSlots } from '@/store/selection';
import { peggedProp } from '@/view/pegTool';
import { say } from '../uiState';
import { plural } from '@/words/numbers';

/**
 * Brings a table of places in as pegs, each pinned to what lies straight below it. Those that find no surface stay
 * where the table says, are selected, and are told of.
 * @throws Error with one sentence for a table that cannot be read, or where there is no prop to peg
 */
export async function bringInTable(file: File): Promise<void> {
  const bytes = new Uint8Array(await file.arrayBuffer());
  const { rows, skipped } = await engine().readPlaces(bytes, file.name);
  const { props } = useDocument.getState().scene;
  const fallback = peggedProp();
  if (!fallback)
    throw new Error('There is no prop to peg yet. Take one into the basket first, then bring the table in.');
  const propOf = (name: string | undefined) =>
    props.find((p) => p.name.toLowerCase() === name?.toLowerCase())?.id ?? fallback;
  const front = (turnDeg: number): Vec3 => [sin(turnDeg * DEG), 0, cos(turnDeg * DEG)];
  const pins = await engine().pinPlaces(
    rows.map((r) => ({ at: r.at, front: front(r.turnDeg) })),
    'down',
  );
  const made = dispatch(addPegs, {
    id: null,
    name: file.name.replace(/\.csv$/i, ''),
    pegs: rows.map((r, i) => ({
      prop: propOf(r.prop),
      pin: pins[i],
      position: r.at,
      rotation: quatTurnTipRoll(r.turnDeg * DEG, 0, 0),
      scale: [r.size, r.size, r.size] as Vec3,
    })),
  });
  if (!made) return;
  const [id, ...pegs] = made.split(' ');
  const without = pegs.filter((_, i) => !pins[i]).map(pegNumber);
  if (without.length > 0) selectSlots(id, without);
  else selectArrangement(id);
  const notes = [
    ...(without.length ? [`${without.length} find no surface below and are selected`] : []),
    ...(skipped.length ? [`${plural(skipped.length, 'line')} without numbers left out`] : []),
  ];
  say(`${plural(rows.length, 'peg')} from “${file.name}”${notes.length ? `: ${notes.join('; ')}` : ''}.`);
}
