import { evaluateRun } from '@/core/arrange/run/evaluate';
import { compilePath } from '@/core/curve/compile';
import { framesAlong } from '@/core/curve/frames';
import { nearestOnPath } from '@/core/curve/nearest';
import { samplePath } from '@/core/curve/sample';
import { newEntry, newRun } from '@/core/scene/defaults';
import { drawBatches } from '@/engine/drawing';
import { compilation, compiled, COUNT, measure, path } from './reference';

const s = Float64Array.from({ length: COUNT }, (_, i) => (compiled.length * i) / (COUNT - 1));
const bounds = {
  min: [-0.2, 0, -0.2] as [number, number, number],
  max: [0.2, 1, 0.2] as [number, number, number],
};
const context = {
  path: () => compilation,
  prop: () => ({ state: 'ready' as const, bounds }),
};
const plain = newRun('r', 'R', 'madder', 'p', [newEntry('e', { kind: 'prop', prop: 'a' })]);
plain.spacing = { ...plain.spacing, mode: 'count', count: COUNT };
const varied = structuredClone(plain);
varied.variation = { ...varied.variation, turnDeg: [-30, 30], size: [0.9, 1.1], side: [-0.1, 0.1] };
varied.gaps = { ...varied.gaps, chance: 0.1 };
const placements = evaluateRun(varied, context).placements;

await measure('runs: 100,000 slots unless said otherwise', [
  ['positions and bank frames (no flips, exact lengths)', () => void framesAlong(compiled, s, 'bank')],
  ['positions and upright frames', () => void framesAlong(compiled, s, 'upright')],
  ['positions alone', () => void samplePath(compiled, s)],
  ['a whole run of 100,000 slots, plain', () => void evaluateRun(plain, context)],
  ['a whole run of 100,000 slots, varied, with gaps', () => void evaluateRun(varied, context)],
  ['instance matrices of 100,000 slots', () => void drawBatches(placements)],
  ['compile a path of 50 points', () => void compilePath(path)],
  [
    '1,000 nearest points',
    () => {
      for (let i = 0; i < 1000; i++) nearestOnPath(compiled, [Math.sin(i) * 40, 1, Math.cos(i * 1.3) * 40]);
    },
  ],
]);
