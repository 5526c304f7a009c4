import type { newRun } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { compiled, measure } from './reference';
import { newEvaluator } from './evaluator';
import { loaded, moved, quay } from './scenes';

/** Its run with other settings. */
const withRun = (change: (run: ReturnType<typeof newRun>) => object): Scene => ({
  ...loaded,
  arrangements: loaded.arrangements.map((a) => (a.kind === 'run' ? { ...a, ...change(a) } : a)),
});
const touching = withRun((run) => ({
  spacing: { ...run.spacing, mode: 'touch' as const },
  facing: { ...run.facing, size: compiled.length / 2000 / 0.52 },
}));
const bending = withRun((run) => ({
  spacing: { ...run.spacing, count: 50 },
  facing: { ...run.facing, bend: true, size: 4 },
}));
const evaluators = {
  pitch: newEvaluator(),
  touch: newEvaluator(),
  bent: newEvaluator(),
  quay: newEvaluator(),
};
let drags = 0;
/** The example with one setting of one run changed, as a drag on a label does. */
const dragged = (): Scene => ({
  ...quay,
  arrangements: quay.arrangements.map((a, i) =>
    i === 0 && a.kind === 'run' ? { ...a, spacing: { ...a.spacing, pitch: 1.5 + (drags++ % 50) / 100 } } : a,
  ),
});

await measure('changes', [
  ['a point dragged on a path with 2,000 props', () => void evaluators.pitch.evaluate(moved(loaded))],
  [
    'a point dragged, about 2,000 props end to end and evened out',
    () => void evaluators.touch.evaluate(moved(touching)),
  ],
  ['50 bent props of 252 triangles, a point dragged', () => void evaluators.bent.evaluate(moved(bending))],
  ['tern-quay from nothing', () => void newEvaluator().evaluate(quay)],
  ['tern-quay, one setting dragged', () => void evaluators.quay.evaluate(dragged())],
]);
