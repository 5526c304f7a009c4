import type { Scene } from '@/core/scene/schema';
import { hangSchema, windSchema, type Hang } from '@/core/curve/hang/schema';
import type { Vec3 } from '@/core/math/vec3';
import { setArrangement, setStep } from '@/store/commands/arrangements';
import { addStrandsPath, hangStrands } from '@/store/commands/hanging';
import { addPath, setPath } from '@/store/commands/paths';
import { addStrands, setStrandsEnd } from '@/store/commands/strands';
import { COLORS } from '@/demo/shape';
import type { Strands } from '@/core/arrange/strands/schema';
import { Builder } from './builder';

/** Where the board's front is, which looks west, into the light. */
const FRONT = 0.05;
/** A place on the board, so far to the right of its middle and up, and before it. */
const at = (right: number, up: number, before = FRONT): Vec3 => [-before, up, right];

/** A board with eyes around its edge, on which riggers try their lines: taut, slack and stiff, crossing each other. */
export function riggingBoard(): Scene {
  const b = new Builder('The rigging board', { eye: [-4.7, 2, 2.5], target: [-0.1, 1.45, 0.1] });
  b.made('plane', 'Green', { width: 60, depth: 40 }, COLORS.grass);
  b.made('box', 'Board', { width: 0.1, height: 2.4, depth: 3.9 }, COLORS.paleWood, [0, 0.3, 0]);
  for (const x of [-1.5, 1.5]) b.spar(`Leg ${x < 0 ? 'left' : 'right'}`, [at(x, 0, -0.1), at(x, 2.9, -0.1)], 0.05);
  const { 'screw-eye': eye, cord, rope, 'net-float': float, bulb } = b.props(['screw-eye', 'cord', 'rope', 'net-float', 'bulb']);

  /** Eyes along a straight line on the board. */
  const eyes = (name: string, from: Vec3, to: Vec3, count: number): string => {
    const path = b.do(addPath, { name: `${name} line`, points: [from, to], kind: 'corner' });
    b.do(setPath, { id: path, values: { visible: false } });
    const run = b.run(name, path, [[eye, 1]]);
    b.do(setStep, { id: run, step: 'spacing', values: { mode: 'count', count } });
    b.do(setStep, { id: run, step: 'facing', values: { heading: 'compass', compassDeg: 270 } });
    b.do(setArrangement, { id: run, values: { thread: 'woad' } });
    return run;
  };
  const left = eyes('Eyes on the left', at(-1.7, 0.65), at(-1.7, 2.35), 6);
  const right = eyes('Eyes on the right', at(1.7, 0.65), at(1.7, 2.35), 6);
  const above = eyes('Eyes above', at(-1.3, 2.5), at(1.3, 2.5), 5);
  const below = eyes('Eyes below', at(-1.3, 0.5), at(1.3, 0.5), 5);

  const strung = (name: string, from: string, to: string | null, values: Partial<Strands>, hang: Partial<Hang>): string => {
    const id = b.do(addStrands, { on: from, snap: 'eye', values: { name, ...values } });
    if (to !== null) b.do(setStrandsEnd, { id, end: 'to', values: { on: to } });
    b.do(hangStrands, { id, values: hangSchema.parse(hang) });
    return id;
  };
  const cords = [{ prop: cord, weight: 1 }];
  const ropes = [{ prop: rope, weight: 1 }];
  strung('Crossed', left, right, { pairs: 'cross', props: cords, thread: 'madder', size: 0.8 }, { how: 'taut' });
  strung('Stays', above, below, { pairs: 'same', every: 2, props: cords, thread: 'moss', size: 0.8 }, { how: 'taut' });
  const slack = strung('Slack', above, null, { props: ropes, fit: 'repeat', thread: 'weld', size: 0.8 }, {
    slack: 0.3,
    loose: 0.5,
  });
  strung('Hoops', below, null, { props: ropes, fit: 'repeat', thread: 'plum', size: 0.8 }, { how: 'stiff', slack: 0.7 });
  const along = b.do(addStrandsPath, { id: slack });
  b.do(setPath, { id: along, values: { visible: false } });
  const bulbs = b.run('Bulbs on the slack ropes', along, [[bulb, 1]]);
  b.do(setStep, { id: bulbs, step: 'spacing', values: { mode: 'count', count: 3, ends: 'half' } });
  b.do(setStep, { id: bulbs, step: 'facing', values: { size: 0.5 } });

  // One line drawn by hand, from an eye to an eye, with floats on it in the wind.
  const tie = (arrangement: string, slot: string) => ({ to: 'slot' as const, arrangement, slot, snap: 'eye' });
  const line = b.do(addPath, {
    name: 'Float line',
    kind: 'corner',
    points: [at(-1.7, 2.35, 0.15), at(1.7, 0.99, 0.15)],
    ties: [tie(left, '6'), tie(right, '2')],
    hang: { slack: 0.12, wind: windSchema.parse({ strength: 0.5, compassDeg: 270 }) },
  });
  const floats = b.run('Floats', line, [[float, 1]]);
  b.do(setArrangement, { id: floats, values: { thread: 'madder' } });
  b.do(setStep, { id: floats, step: 'spacing', values: { pitch: 0.22, insetStart: 0.2, insetEnd: 0.2 } });
  b.do(setStep, { id: floats, step: 'facing', values: { size: 0.55, posture: 'slope' } });
  // Lines go through their eyes and lie over each other; eyes go into the board.
  const lines = ['Crossed', 'Stays', 'Slack', 'Hoops'];
  const eyed = ['Eyes on the left', 'Eyes on the right', 'Eyes above', 'Eyes below'];
  for (const name of lines) b.meant(name, ...lines, ...eyed, 'Bulbs on the slack ropes', 'Floats', 'Board');
  for (const name of eyed) b.meant(name, 'Board', 'Floats', 'Bulbs on the slack ropes');
  b.meant('Bulbs on the slack ropes', 'Bulbs on the slack ropes', 'Floats', 'Board');
  b.meant('Floats', 'Floats', 'Board');
  b.surroundings(-0.6);
  return b.scene;
}
