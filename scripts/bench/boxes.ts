import { random01 } from '@/core/math/random';
import { boxesOverlap, newBoxes, writeBox, type Boxes } from '@/core/mesh/boxes';
import { buildBoxTree, eachPair, type BoxTree } from '@/core/mesh/boxTree';
import { COUNT, measure } from './reference';

/** So many boxes of half a metre, strewn so that each meets about one other. */
const strewn = (count: number, wide: number): Boxes => {
  const boxes = newBoxes(count);
  const own = { min: [-0.25, 0, -0.25], max: [0.25, 0.5, 0.25] };
  const [position, rotation, scale] = [new Float64Array(3), new Float64Array(4), Float64Array.of(1, 1, 1)];
  for (let i = 0; i < count; i++) {
    const [x, z, turn] = [0, 1, 2].map((k) => random01(i, k, 1));
    position.set([x * wide, 0, z * wide]);
    rotation.set([0, Math.sin(turn), 0, Math.cos(turn)]);
    writeBox(boxes, i, own, { position, rotation, scale }, 0);
  }
  return boxes;
};
const crowd = strewn(COUNT, 250);
const crowdTree = buildBoxTree(crowd);
const some = strewn(2000, 250);
const overlapsIn = (a: BoxTree, b: BoxTree): number => {
  let met = 0;
  eachPair(a, b, (i, j) => (met += boxesOverlap(a.boxes, i, b.boxes, j, 1e-6) ? 1 : 0));
  return met;
};

await measure('boxes', [
  [
    '100,000, every two that overlap',
    () => {
      const tree = buildBoxTree(crowd);
      overlapsIn(tree, tree);
    },
  ],
  ['2,000 against these', () => void overlapsIn(buildBoxTree(some), crowdTree)],
]);
