import { Matrix4, Quaternion, Vector3 } from 'three';
import { Evaluator } from '@/core/evaluate/scene';
import { ASSETS, exampleScene } from '@/core/testing/scene';
import { drawBatches } from './drawing';

test('instance matrices are those that three composes, one a placed prop, by prop', () => {
  const { placements: p } = new Evaluator(ASSETS).evaluate(exampleScene()).arrangements[0];
  const batches = drawBatches(p);
  expect(batches.map((b) => b.prop)).toEqual(['prop1', 'prop2']);
  expect(batches.reduce((n, b) => n + b.rows.length, 0)).toBe(p.state.filter((s) => s === 0).length);
  for (const { rows, matrices, prop } of batches) {
    rows.forEach((row, i) => {
      expect(p.props[p.prop[row]]).toBe(prop);
      const m = new Matrix4().compose(
        new Vector3(...p.position.subarray(row * 3, row * 3 + 3)),
        new Quaternion(...p.rotation.subarray(row * 4, row * 4 + 4)),
        new Vector3(...p.scale.subarray(row * 3, row * 3 + 3)),
      );
      m.elements.forEach((v, k) => expect(matrices[i * 16 + k]).toBeCloseTo(v, 5));
    });
  }
});
