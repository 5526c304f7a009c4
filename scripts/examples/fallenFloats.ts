import { quatMultiply, quatTurnTipRoll } from '@/core/math/quat';
import { random01, channel } from '@/core/math/random';
import { slotName } from '@/core/arrange/slotId';
import { physics } from '@/core/arrange/release/physics';
import { setArrangement } from '@/store/commands/arrangements';
import { addPegs } from '@/store/commands/pegs';
import { setRelease, takeAsItLies } from '@/store/commands/release';
import { EngineService } from '@/engine/service';
import type { Builder } from './builder';

const round = (v: number) => Number(v.toFixed(5));

/** A box on the quay with net floats that have been let fall into it, and lie as they have fallen. */
export function fallenFloats(b: Builder, float: string, [x, y, z]: [number, number, number], turn: number, surface: string): void {
  if (!physics()) throw new Error('Load the physics before the scene is built: the floats have to fall.');
  const box = b.prop('fish-box');
  const rotation = quatTurnTipRoll(turn, 0, 0);
  const stands = b
    .do(addPegs, { id: null, name: 'Fish box', pegs: [{ prop: box, pin: null, position: [x, y, z], rotation, scale: [1, 1, 1] }] })
    .split(' ')[0];
  const draw = (i: number, what: string) => random01(5, i, channel(what));
  const pegs = Array.from({ length: 62 }, (_, i) => {
    const [column, row, layer] = [i % 4, Math.floor(i / 4) % 3, Math.floor(i / 12)];
    const [across, along] = [(column - 1.5) * 0.28 + (draw(i, 'x') - 0.5) * 0.05, (row - 1) * 0.26 + (draw(i, 'z') - 0.5) * 0.05];
    const [sin, cos] = [Math.sin(turn), Math.cos(turn)];
    return {
      prop: float,
      pin: null,
      position: [round(x + across * cos + along * sin), round(y + 0.9 + layer * 0.3), round(z - across * sin + along * cos)] as [number, number, number],
      rotation: quatMultiply(rotation, quatTurnTipRoll(draw(i, 'turn') * 6, draw(i, 'tip') * 3, 0)),
      scale: [1, 1, 1] as [number, number, number],
    };
  });
  const floats = b.do(addPegs, { id: null, name: 'Floats in the box', pegs }).split(' ')[0];
  b.do(setArrangement, { id: floats, values: { thread: 'madder' } });
  b.do(setRelease, { id: floats, values: { rolling: 0, who: 'turn', every: 0.05, onto: [surface], against: [stands], seconds: 30 } });
  const result = new EngineService().evaluateAll(b.scene, 30).arrangements.find((a) => a.id === floats)!;
  const { placements: p } = result;
  const read = (list: Float64Array, i: number, n: number) => Array.from(list.subarray(i * n, i * n + n), round) as never;
  const places = Object.fromEntries(
    Array.from(p.slot, (slot, i) => [
      slotName(slot),
      { prop: float, s: 0, position: read(p.position, i, 3), rotation: read(p.rotation, i, 4), scale: [1, 1, 1] as [number, number, number] },
    ]),
  );
  b.do(takeAsItLies, { id: floats, places, gone: [] });
}
