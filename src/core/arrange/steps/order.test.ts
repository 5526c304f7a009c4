import { allEntries, orderSchema, propsOfOrder, type OrderEntry } from './schema';
import { slotId } from '../slotId';
import { orderSlots } from './order';

const ids = (n: number) => Float64Array.from({ length: n }, (_, i) => slotId(i + 1));
const prop = (name: string, extra: Partial<OrderEntry> = {}): OrderEntry => ({
  id: `e-${name}`,
  item: { kind: 'prop', prop: name },
  times: [1, 1],
  weight: 1,
  zones: [],
  ...extra,
});
const rest: OrderEntry = { ...prop('rest'), item: { kind: 'pause' } };
const group = (entries: OrderEntry[], extra: Partial<OrderEntry> = {}): OrderEntry => ({
  ...prop('g', extra),
  item: { kind: 'group', entries },
});
const order = (settings: object) => orderSchema.parse(settings);
const PROPS = ['a', 'b', 'c', 'd'];
const names = (o: ReturnType<typeof order>, n: number, seed = 1, row: object = {}) =>
  [...orderSlots(o, { ids: ids(n), ...row }, seed, PROPS).prop].map((i) => (i < 0 ? '-' : PROPS[i])).join('');

test('a pattern runs through its entries, each as often as it says', () => {
  const o = order({ entries: [prop('a', { times: [3, 3] }), prop('b', { times: [0, 0] }), prop('c')] });
  expect(names(o, 9)).toBe('aaacaaaca');
});

test('groups nest: a group as a whole as often as its times say', () => {
  const inner = group([prop('b'), rest], { times: [2, 2] });
  const o = order({ entries: [prop('a'), group([prop('c'), inner], { times: [2, 2] })] });
  expect(names(o, 22)).toBe('acb-b-cb-b-acb-b-cb-b-');
  expect(propsOfOrder(o)).toEqual(['a', 'c', 'b']);
  expect(allEntries(o.entries)).toHaveLength(6);
});

test('"times" ranges are drawn anew every round and reach both ends; a longer run begins the same', () => {
  const o = order({ entries: [prop('a', { times: [1, 4] }), prop('b')] });
  const long = names(o, 600, 5);
  expect(
    new Set(
      long
        .split('b')
        .slice(0, -1)
        .map((g) => g.length),
    ),
  ).toEqual(new Set([1, 2, 3, 4]));
  expect(long.startsWith(names(o, 100, 5))).toBe(true);
});

test('a mix follows the weights', () => {
  const o = order({ mode: 'mix', entries: [prop('a', { weight: 3 }), prop('b'), prop('c', { weight: 0 })] });
  const list = names(o, 20_000, 2);
  // Three standard deviations of a binomial share are 0.009.
  expect(Math.abs(list.split('a').length - 1 - 15_000)).toBeLessThan(180);
  expect(list).not.toContain('c');
});

test('a bag gives exact shares: in every bag each as often as its weight', () => {
  const o = order({
    mode: 'mix',
    bag: true,
    entries: [prop('a', { weight: 6 }), prop('b', { weight: 3 }), prop('c', { weight: 3 })],
  });
  const list = names(o, 400, 9);
  for (let i = 0; i < 400; i += 4) expect([...list.slice(i, i + 4)].sort().join('')).toBe('aabc');
  expect(new Set(Array.from({ length: 100 }, (_, i) => list.slice(i * 4, i * 4 + 4))).size).toBeGreaterThan(
    6,
  );
  // Shares that are no small whole numbers: a hundred in the bag.
  const odd = names(
    order({ mode: 'mix', bag: true, entries: [prop('a', { weight: Math.PI }), prop('b')] }),
    100,
    3,
  );
  expect(odd.split('a').length - 1).toBe(76);
});

test.each([false, true])(
  'no repeats: never the same twice running (bag: %s), and still every one of them',
  (bag) => {
    const o = order({
      mode: 'mix',
      bag,
      noRepeats: true,
      entries: [
        prop('a', { weight: 4 }),
        prop('b', { weight: 3 }),
        prop('c', { weight: 2 }),
        prop('d', { weight: 1 }),
      ],
    });
    for (const seed of [1, 2, 3, 4, 5, 6]) {
      const list = names(o, 1000, seed);
      expect(list).not.toMatch(/(.)\1/);
      expect(new Set(list)).toEqual(new Set('abcd'));
      if (bag)
        for (let i = 0; i < 1000; i += 10)
          expect([...list.slice(i, i + 10)].sort().join('')).toBe('aaaabbbccd');
    }
    // One alone has no other choice.
    expect(names(order({ mode: 'mix', bag, noRepeats: true, entries: [prop('a')] }), 4)).toBe('aaaa');
  },
);

test('by zone: each zone has its own sequence of the entries that it admits', () => {
  const o = order({
    entries: [
      prop('a', { zones: [0, 2] }),
      prop('b', { zones: [1] }),
      prop('c', { zones: [1] }),
      prop('d', { zones: [2] }),
    ],
  });
  const zones = [0, 0, 1, 1, 1, 2, 2, 2, 0, 7];
  expect(names(o, 10, 1, { zones })).toBe('aabcbadaa-');
});

test('first, last, corner and every n-th come over the order, the ends over the rest', () => {
  const special = (p: string) => ({ kind: 'prop', prop: p });
  const o = order({
    entries: [prop('a')],
    first: special('b'),
    last: special('c'),
    corner: special('d'),
    every: { n: 3, from: 1, item: { kind: 'pause' } },
  });
  expect(names(o, 10, 1, { corners: new Set([3, 9]) })).toBe('baadaa-aac');
});

test('what can never give a prop says so and stops', () => {
  for (const o of [
    order({}),
    order({ entries: [prop('a', { times: [0, 0] })] }),
    order({ mode: 'mix', entries: [prop('a', { weight: 0 })] }),
    order({ entries: [group([])] }),
  ]) {
    expect(orderSlots(o, { ids: ids(5) }, 1, PROPS)).toEqual({
      prop: Int32Array.from([-1, -1, -1, -1, -1]),
      empty: true,
    });
  }
});
