import { Matrix4, Quaternion, Vector3 } from 'three';
import { Evaluator } from '@/core/evaluate/scene';
import { ASSETS, exampleScene } from '@/core/testing/scene';
import { allocatePlacements } from '@/core/arrange/result';
import { drawBatches, instanceOf } from './drawing';

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

test('the instance of a row is found, where the rows were sorted by their places too', () => {
  const p = allocatePlacements(5000, ['a', 'b']);
  for (let i = 0; i < p.count; i++) {
    p.prop[i] = i % 5 === 0 ? 1 : 0;
    // In no order of places.
    p.position.set([(i * 7919) % 5003, 0, (i * 104_729) % 4999], i * 3);
    p.rotation[i * 4 + 3] = 1;
    p.scale.fill(1, i * 3, i * 3 + 3);
  }
  const batches = drawBatches(p);
  expect(batches.map((b) => b.blocks?.sorted)).toEqual([true, undefined]);
  for (const batch of batches) {
    expect([...batch.rows].every((row, i) => instanceOf(batch, row) === i)).toBe(true);
    for (const other of batches.filter((b) => b !== batch)) expect(instanceOf(batch, other.rows[3])).toBe(-1);
  }
});
