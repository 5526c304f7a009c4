import type { Mesh } from '@/core/mesh/mesh';
import type { Motion } from '@/core/mesh/motion';
import type { Vec3 } from '@/core/math/vec3';
import { motionOf, wave, type Joint, type Swing } from '../rig';
import { COLORS as C, Shape } from '../shape';

/** People of the harbour, simple and from afar: they walk, and wave. Their foot is between their feet. */

const HIP = 0.88;
const KNEE = 0.46;
const SHOULDER = 1.36;
const ELBOW = 1.08;

/** 0 the body; from 1 on left leg and shin, right leg and shin, left arm and forearm, right arm and forearm. */
const JOINTS: Joint[] = [
  { parent: -1, at: [0, HIP, 0] },
  ...[1, -1].flatMap((side, k): Joint[] => [
    { parent: 0, at: [0.1 * side, HIP, 0] },
    { parent: 1 + k * 2, at: [0.1 * side, KNEE, 0] },
  ]),
  ...[1, -1].flatMap((side, k): Joint[] => [
    { parent: 0, at: [0.23 * side, SHOULDER, 0] },
    { parent: 5 + k * 2, at: [0.25 * side, ELBOW, 0] },
  ]),
];

const SKIN = '#C9976F';

function shapeOf(coat: string, trousers: string, hat: string | null): Shape {
  const s = new Shape().on(0).turned(
    [
      [0, 0.78],
      [0.21, 0.78],
      [0.17, 1.02],
      [0.2, 1.3],
      [0.11, 1.42],
      [0, 1.44],
    ],
    8,
    coat,
    true,
  );
  s.turned(
    [
      [0.05, 1.42],
      [0.1, 1.5],
      [0.11, 1.6],
      [0.07, 1.69],
      [0, 1.71],
    ],
    7,
    [SKIN, SKIN, SKIN, hat ?? C.wood],
    true,
  );
  if (hat)
    s.turned(
      [
        [0.15, 1.63],
        [0.12, 1.66],
        [0.1, 1.75],
        [0, 1.77],
      ],
      8,
      hat,
    );
  for (const [k, side] of [1, -1].entries()) {
    s.on(1 + k * 2).moveTo(0.1 * side, 0, 0);
    s.box(0.15, HIP - KNEE, 0.17, trousers, KNEE);
    s.on(2 + k * 2).box(0.12, KNEE - 0.07, 0.14, trousers, 0.07);
    s.moveTo(0.1 * side, 0, 0.05).box(0.12, 0.08, 0.25, C.deepInk);
  }
  for (const [k, side] of [1, -1].entries()) {
    s.on(5 + k * 2).moveTo(0.24 * side, 0, 0);
    s.box(0.1, SHOULDER + 0.03 - ELBOW, 0.12, coat, ELBOW);
    s.on(6 + k * 2).moveTo(0.25 * side, 0, 0);
    s.box(0.085, 0.2, 0.1, coat, ELBOW - 0.2).box(0.07, 0.09, 0.08, SKIN, ELBOW - 0.29);
  }
  return s.moveTo(0, 0, 0);
}

const ACROSS: Vec3 = [1, 0, 0];
const AHEAD: Vec3 = [0, 0, 1];

/** Legs by half a round apart, arms against them; a knee bends while its leg swings ahead. */
const WALK: Swing[] = [
  { joint: 0, moved: (t) => [0, 0.018 * wave(2 * t, 0.25) - 0.03, 0] },
  ...[0, 1].flatMap((k): Swing[] => {
    const on = k / 2;
    return [
      { joint: 1 + k * 2, about: { axis: ACROSS, deg: (t) => -26 * wave(t, on) } },
      { joint: 2 + k * 2, about: { axis: ACROSS, deg: (t) => 6 + 42 * Math.max(0, wave(t, on + 0.2)) } },
      { joint: 5 + k * 2, about: { axis: ACROSS, deg: (t) => 22 * wave(t, on) } },
      { joint: 6 + k * 2, about: { axis: ACROSS, deg: (t) => -16 - 8 * wave(t, on) } },
    ];
  }),
];

/** The left arm up, its hand from side to side; the body sways a little. */
const WAVE: Swing[] = [
  { joint: 0, about: { axis: AHEAD, deg: (t) => 2 * wave(t) } },
  { joint: 5, about: { axis: AHEAD, deg: (t) => 128 + 6 * wave(t) } },
  { joint: 6, about: { axis: AHEAD, deg: (t) => 28 + 26 * wave(2 * t) } },
  { joint: 7, about: { axis: ACROSS, deg: (t) => 4 * wave(t) } },
];

const CLIPS = [
  { name: 'Walk', duration: 1.1, swings: WALK },
  { name: 'Wave', duration: 1.6, swings: WAVE },
];

const person = (coat: string, trousers: string, hat: string | null) => ({
  make: (): Mesh => shapeOf(coat, trousers, hat).mesh(),
  motion: (): Motion => {
    const shape = shapeOf(coat, trousers, hat);
    return motionOf(shape, shape.mesh(), JOINTS, CLIPS);
  },
});

export const skipper = person(C.woad, C.deepInk, C.white);
export const gardener = person(C.moss, C.wood, null);
export const baker = person(C.linen, C.ink, C.madder);
