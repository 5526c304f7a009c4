import { exampleScene } from '@/core/testing/scene';
import type { Scatter } from '@/core/arrange/scatter/schema';
import { applyCommand } from '../command';
import { addScatter, addScatterProps } from './scatter';
import { addProp } from './scene';

const over = { kind: 'surfaces' as const, surfaces: ['surface3'] };
const last = ({ arrangements }: { arrangements: unknown[] }) => arrangements.at(-1) as Scatter;

test('what grows any way round is turned by chance where it is scattered; all else faces one way', () => {
  const start = exampleScene();
  const tuft = applyCommand(start, addProp, { name: 'Tuft', mesh: { source: 'built', name: 'grass-tuft' } });
  const made = applyCommand(tuft.scene, addScatter, { over, props: ['prop1'] });
  expect(last(made.scene).variation.perProp).toEqual({});
  const both = applyCommand(made.scene, addScatterProps, { id: made.made!, props: [tuft.made!] });
  expect(last(both.scene).props.map((p) => p.prop)).toEqual(['prop1', tuft.made]);
  expect(last(both.scene).variation.perProp).toEqual({ [tuft.made!]: { turnDeg: [-180, 180] } });
  // Several at once are one step, with all their names.
  const several = applyCommand(made.scene, addScatterProps, { id: made.made!, props: ['prop2', tuft.made!] });
  expect(several.entry?.name).toBe('Other box, Tuft into “Box over Floor”');
  expect(last(several.scene).props).toHaveLength(3);
  // Taken back it stays so, also where the prop is hung once more.
  const taken = structuredClone(both.scene);
  last(taken).variation.perProp = {};
  const again = applyCommand(taken, addScatterProps, { id: made.made!, props: [tuft.made!] });
  expect(last(again.scene).variation.perProp).toEqual({});
  expect(last(again.scene).props).toHaveLength(2);
});

test('what closed paths enclose is landed on what is beneath', () => {
  const paths = applyCommand(exampleScene(), addScatter, { over: { kind: 'paths', paths: ['path4'] } });
  expect(last(paths.scene)).toMatchObject({ name: 'Inside Path', ground: { mode: 'land', above: 100 } });
  expect(last(applyCommand(exampleScene(), addScatter, { over }).scene).ground.mode).toBe('none');
});
