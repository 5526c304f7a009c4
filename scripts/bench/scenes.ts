import { newEntry, newRun } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { ternQuay } from '../examples/ternQuay';
import { loadPhysics } from '@/core/arrange/release/physics';
import { path } from './reference';

/** Scenes that changes are measured in. */

// Its floats have fallen into their box.
await loadPhysics();
export const quay = ternQuay();

/** The path with 2,000 props on it. */
export const loaded: Scene = (() => {
  const run = newRun('r', 'R', 'madder', 'p', [newEntry('e', { kind: 'prop', prop: quay.props[0].id })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 2000 };
  run.variation = { ...run.variation, turnDeg: [-30, 30], size: [0.9, 1.1] };
  return { ...structuredClone(quay), paths: [structuredClone(path)], arrangements: [run] };
})();

let drags = 0;
/** A scene with one point of its path dragged on. */
export const moved = (scene: Scene): Scene => ({
  ...scene,
  paths: scene.paths.map((p) =>
    p.source.kind === 'points'
      ? {
          ...p,
          source: {
            ...p.source,
            points: p.source.points.map((q, i) =>
              i === 20
                ? {
                    ...q,
                    position: [q.position[0], (drags++ % 40) / 20, q.position[2]] as [number, number, number],
                  }
                : q,
            ),
          },
        }
      : p,
  ),
});
