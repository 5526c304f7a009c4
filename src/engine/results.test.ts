import { NOTHING, taken } from './results';
import type { Served } from './served';

const served = (news: object): Served =>
  ({ surfaces: [], paths: [], arrangements: [], masks: [], rows: [], gone: [], ms: 1, ...news }) as never;
const path = (id: string, ...findings: string[]) => ({ id, findings: findings.map((kind) => ({ kind })) });

test('what nothing is told of stays the same map; those with findings are known, until they have none or go', () => {
  const first = taken(NOTHING, served({ paths: [path('a', 'path-missing'), path('b')], masks: [path('m')] }));
  expect([...first.found]).toEqual(['a']);
  const second = taken(first, served({ paths: [path('b', 'path-missing')] }));
  expect([...second.found]).toEqual(['a', 'b']);
  expect(second.masks).toBe(first.masks);
  expect(second.paths).not.toBe(first.paths);
  const third = taken(second, served({ paths: [path('a')], gone: ['b', 'm'] }));
  expect([...third.found]).toEqual([]);
  expect([[...third.paths.keys()], [...third.masks.keys()]]).toEqual([['a'], []]);
  expect(third.arrangements).toBe(first.arrangements);
  // Results that were handed out are never written over.
  expect([...first.paths.keys()]).toEqual(['a', 'b']);
});
