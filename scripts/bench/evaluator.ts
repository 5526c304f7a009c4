import { Evaluator } from '@/core/evaluate/scene';
import { shapeSchema } from '@/core/mesh/make/schema';
import { newSurface } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { builtMesh } from '@/demo/library';
import { helpInNode } from '@/engine/help/inNode';

const assets = {
  mesh: (ref: Parameters<typeof builtMesh>[0] | { source: string; name?: string }) =>
    typeof ref === 'object' && ref.name ? builtMesh(ref.name) : undefined,
};
/** Helped as the application is. */
const { restAll } = helpInNode();
export const newEvaluator = (): Evaluator => new Evaluator({ ...assets, restAll });

/** What is measured is a change: what does not follow from it is there already. */
export function changed(scene: () => Scene, time?: () => number): () => void {
  const evaluator = newEvaluator();
  evaluator.evaluate(scene(), undefined, time?.());
  return () => void evaluator.evaluate(scene(), undefined, time?.());
}

/** A surface of twice as many triangles as it has cells. */
export const hilly = (columns: number, rows: number) =>
  newSurface('hills', 'Hills', {
    source: 'made',
    shape: shapeSchema.parse({ shape: 'hills', width: 120, depth: 120, columns, rows }),
    color: '#D8CDB6',
  });
