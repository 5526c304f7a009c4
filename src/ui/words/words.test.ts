import { firstRun, exampleScene } from '@/core/testing/scene';
import type { SpacingFacts } from '@/core/arrange/result';
import { heldText, mendsText, refusalText } from './bounds';
import { degrees, metres, plural, whole } from '@/words/numbers';
import {
  facingPhrase,
  gapsPhrase,
  groundPhrase,
  handPhrase,
  pathPhrase,
  propsPhrase,
  spacingNote,
  spacingPhrase,
  variationPhrase,
} from './phrases';

/** Every closed step of a recipe reads as a short phrase. */

const scene = exampleScene();
const run = () => structuredClone(firstRun(scene));
const FACTS = {
  usable: 45.8,
  pitch: 1.76,
  pitches: [1.76, 1.76],
  askedPitch: 1.8,
  factor: 1,
} as SpacingFacts;

test('numbers as they are read', () => {
  expect([metres(1.756), metres(0.4, 'cm'), metres(12, 'm'), whole(1840), degrees(12.34)]).toEqual([
    '1.76 m',
    '40 cm',
    '12 m',
    '1,840',
    '12.3°',
  ]);
  expect([plural(1, 'mesh', 'meshes'), plural(2, 'mesh', 'meshes'), plural(0, 'slot')]).toEqual([
    '1 mesh',
    '2 meshes',
    '0 slots',
  ]);
});

test('spacing says what came of it', () => {
  const r = run();
  expect(spacingPhrase(r, FACTS, scene)).toBe('1.76 m, evened out');
  expect(spacingNote(r, FACTS, 27, scene)).toBe('27 slots fit in 45.8 m; pitch becomes 1.76 m.');
  expect(spacingNote(r, FACTS, 0, scene)).toBe('No slot fits yet.');
  r.spacing.looseBy = 0.15;
  r.spacing.leftover = 'end';
  expect(spacingPhrase(r, { ...FACTS, pitch: 1.8, pitches: [1.8, 1.8] }, scene)).toBe(
    '1.8 m, rest at end, ± 0.15 m',
  );
  r.spacing.mode = 'count';
  r.spacing.count = 1;
  expect(spacingNote(r, FACTS, 1, scene)).toBe('1 slot fits in 45.8 m.');
  expect(spacingPhrase(r, FACTS, scene)).toBe('1 slot, ± 0.15 m');
  r.spacing.count = 9;
  const several = { ...FACTS, pitches: [2.69, 2.99] as [number, number] };
  expect(spacingNote(r, several, 27, scene)).toBe('27 slots fit in 45.8 m; the pitch is 2.69 m to 2.99 m.');
  r.spacing.mode = 'divide';
  Object.assign(r.spacing, { parts: 3, per: 'side', every: 2 });
  expect(spacingPhrase(r, FACTS, scene)).toBe('3 parts a side, every 2nd');
  r.spacing.mode = 'touch';
  expect(spacingNote(r, { ...FACTS, factor: 1.012 }, 4, scene)).toBe(
    '4 slots fit in 45.8 m; all are scaled to 101.2%.',
  );
  r.spacing.mode = 'points';
  r.spacing.rows.count = 2;
  expect(spacingPhrase(r, FACTS, scene)).toBe('At the points, 2 rows');
});

test('props, path, facing, ground, variation, gaps, and what the hand did', () => {
  const r = run();
  const names = scene.props.map((p) => p.name);
  expect(propsPhrase(r, scene)).toBe(`${names[0]} ×1, ${names[1]} ×1, pause ×1`);
  r.order.entries = r.order.entries.slice(0, 1);
  expect(propsPhrase(r, scene)).toBe(names[0]);
  r.order.entries = [];
  expect(propsPhrase(r, scene)).toBe('None yet');
  r.facing.side = -0.5;
  expect(pathPhrase(r, scene)).toBe(`${scene.paths[0].name}, 0.5 m left`);
  r.paths = [];
  expect(pathPhrase(r, scene)).toBe('None yet');
  expect(facingPhrase(r)).toBe('Along path, upright');
  Object.assign(r.facing, { heading: 'compass', compassDeg: 90, turnDeg: 15, alternate: 'mirror' });
  expect(facingPhrase(r)).toBe('Compass 90°, upright, turned 15°, every 2nd mirrored');
  r.facing.turnEachDeg = 5;
  expect(facingPhrase(r)).toBe('Compass 90°, upright, turned 15°, each 5° more, every 2nd mirrored');
  expect(groundPhrase(r.ground, scene)).toBe('None');
  Object.assign(r.ground, { mode: 'land', contact: 'footprint', lean: 0.2, surfaces: [] });
  expect(groundPhrase(r.ground, scene)).toBe('Lands on any surface, by footprint, leaning 20%');
  expect(variationPhrase(r, scene)).toBe('Turn ±30°, size 90–110%');
  r.variation.side = [-0.1, 0.3];
  expect(variationPhrase(r, scene)).toBe('Side -0.1 m to 0.3 m, turn ±30° +1');
  expect(gapsPhrase(r)).toBe('20% chance');
  r.gaps.chance = 0;
  expect(gapsPhrase(r)).toBe('None');
  r.hand = { '1': { removed: true }, '2': { turnDeg: 4 } };
  expect(handPhrase(r)).toBe('1 removed, 1 changed');
});

test('what is said at a bound, of a refusal and of a mended scene names the field, the bound and what became of it', () => {
  const path = ['arrangements', 0, 'spacing', 'rows', 'count'];
  expect(heldText([{ path, given: 200, held: 120 }])).toBe('Count goes up to 120: it was held there.');
  expect(heldText([{ path: ['paths', 0, 'turnDeg'], given: -9e9, held: -1e6 }])).toBe(
    'Turn goes down to -1,000,000: it was held there.',
  );
  expect(heldText([{ path: ['props', 0, 'unitScale'], given: 0, held: 1e-9 }])).toBe(
    'Unit scale goes down to 0.000000001: it was held there.',
  );
  expect(refusalText({ kind: 'too-many', path: ['paths', 0, 'source', 'points'], most: 20_000 })).toContain(
    'points may be 20,000 at the most',
  );
  expect(mendsText([])).toBe('');
  expect(
    mendsText([
      { where: 'arrangements[0].spacing.count', how: 'held', given: 1e16, held: 500_000 },
      { where: 'props[1]', how: 'aside' },
      { where: 'units', how: 'default' },
    ]),
  ).toBe(
    'Mended so that it opens: arrangements[0].spacing.count was held to 500000 (it was 10000000000000000); props[1] was set aside; units took its default.',
  );
});
