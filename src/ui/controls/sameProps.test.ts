import { createElement } from 'react';
import { sameProps } from './sameProps';

const A = () => null;
const B = () => null;
const run = { id: 'run1' };

test('what stands within is the same where it is of one kind and is given the same', () => {
  const step = (given: object, kind = A) => ({ phrase: 'each 2 m', children: createElement(kind, given) });
  expect(sameProps(step({ run }), step({ run }))).toBe(true);
  expect(sameProps(step({ run }), step({ run: { ...run } }))).toBe(false);
  expect(sameProps(step({ run }), step({ run }, B))).toBe(false);
  expect(sameProps(step({ run, wide: true }), step({ run }))).toBe(false);
  expect(sameProps(step({ set: () => 1 }), step({ set: () => 1 }))).toBe(false);
});

test('lists of what stands within are held place by place, with their keys', () => {
  const list = (...keys: string[]) => ({ children: keys.map((key) => createElement(A, { key })) });
  expect(sameProps(list('a', 'b'), list('a', 'b'))).toBe(true);
  expect(sameProps(list('a', 'b'), list('b', 'a'))).toBe(false);
  expect(sameProps(list('a'), list('a', 'b'))).toBe(false);
  expect(sameProps({ phrase: 'x' }, { phrase: 'y' })).toBe(false);
  expect(sameProps({ n: NaN, small: true }, { n: NaN, small: true })).toBe(true);
});
