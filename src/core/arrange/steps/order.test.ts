import { slotId } from '../slotId';
import { orderSchema, type Order } from './schema';
import { orderSlots } from './order';

const ids = (n: number) => Float64Array.from({ length: n }, (_, i) => slotId(i + 1));
const order = (mode: Order['mode'], entries: { times?: [number, number]; weight?: number }[]) =>
  orderSchema.parse({
    mode,
    entries: entries.map((e, i) => ({ id: `e${i}`, item: { kind: 'prop', prop: `p${i}` }, ...e })),
  });

test('a pattern runs through its entries, each as often as it says', () => {
  const { entry } = orderSlots(order('pattern', [{ times: [3, 3] }, { times: [0, 0] }, {}]), ids(9), 1);
  expect([...entry]).toEqual([0, 0, 0, 2, 0, 0, 0, 2, 0]);
});

test('"times" ranges are drawn anew every round and reach both ends; a longer run begins the same', () => {
  const o = order('pattern', [{ times: [1, 4] }, {}]);
  const long = [...orderSlots(o, ids(600), 5).entry].join('');
  const groups = long
    .split('1')
    .slice(0, -1)
    .map((g) => g.length);
  expect(new Set(groups)).toEqual(new Set([1, 2, 3, 4]));
  expect(long.startsWith([...orderSlots(o, ids(100), 5).entry].join(''))).toBe(true);
});

test('a mix follows the weights', () => {
  const { entry } = orderSlots(order('mix', [{ weight: 3 }, { weight: 1 }, { weight: 0 }]), ids(20_000), 2);
  const share = (k: number) => entry.filter((e) => e === k).length / entry.length;
  // Three standard deviations of a binomial share are 0.009.
  expect(Math.abs(share(0) - 0.75)).toBeLessThan(0.009);
  expect(share(2)).toBe(0);
});

test('what can never give a prop says so and stops', () => {
  for (const o of [
    order('pattern', []),
    order('pattern', [{ times: [0, 0] }]),
    order('mix', [{ weight: 0 }]),
  ]) {
    expect(orderSlots(o, ids(5), 1)).toEqual({ entry: Int32Array.from([-1, -1, -1, -1, -1]), empty: true });
  }
});
