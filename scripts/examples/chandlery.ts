import type { Scene } from '@/core/scene/schema';
import type { Vec3 } from '@/core/math/vec3';
import { COLORS } from '@/demo/shape';
import { setArrangement, setStep } from '@/store/commands/arrangements';
import { setEntry } from '@/store/commands/order';
import { addPath, setPath } from '@/store/commands/paths';
import { addStock, setLevel, setOnShelf } from '@/store/commands/stock';
import type { Stock } from '@/core/arrange/stock/schema';
import { Builder } from './builder';
import { bundled, crateOfJars, standing } from './jarCrates';

const TURNED = (deg: number): [number, number, number, number] => {
  const half = (deg * Math.PI) / 360;
  return [0, Number(Math.sin(half).toFixed(12)), 0, Number(Math.cos(half).toFixed(12))];
};

/** A ship’s chandler: racks of three depths along the walls, stocked in groups and shopped from, a counter with jars. */
export function chandlery(): Scene {
  const b = new Builder('The chandlery', { eye: [3.1, 2.05, 4.6], target: [-0.5, 0.95, -1] });
  b.made('plane', 'Floor of the shop', { width: 9.4, depth: 7 }, COLORS.paleWood, [0, 0, 0.6]);
  b.made('box', 'Back wall', { width: 9.4, height: 2.9, depth: 0.2, fillet: 0 }, COLORS.linen, [0, 0, -2.5]);
  b.made('box', 'Left wall', { width: 0.2, height: 2.9, depth: 7, fillet: 0 }, COLORS.linen, [-4.7, 0, 0.6]);
  const props = b.props(['tin', 'tar-tin', 'jar', 'line-coil', 'net-float', 'rope-coil', 'rack', 'deep-rack', 'shallow-rack', 'jar-crate', 'lantern']);

  /** Goods on a shelf: so many of each in a row, drawn from a range. */
  const goods = (name: string, shelf: Parameters<typeof addStock.apply>[1]['shelf'], list: [prop: string, times: [number, number]][], values: Partial<Stock>): string => {
    const id = b.do(addStock, { shelf, props: list.map(([prop]) => prop), values: { name, ...values } });
    b.do(setArrangement, { id, values: { name } });
    const { order } = b.scene.arrangements.find((a) => a.id === id) as Stock;
    order.entries.forEach((e, i) => b.do(setEntry, { id, entry: e.id, values: { times: list[i][1] } }));
    return id;
  };

  // One rack with its goods, bundled: along the wall it stands three times, each stocked by itself.
  const rack = standing(b, 'Rack', props.rack, [[0, 0, 0]]);
  const stocked = goods(
    'Goods of a rack',
    { from: 'prop', arrangement: rack, slot: '1' },
    [[props.tin, [2, 4]], [props['tar-tin'], [2, 3]], [props.jar, [2, 4]], [props['line-coil'], [1, 2]]],
    { seed: 4 },
  );
  renumber(b, stocked, rack);
  b.do(setStep, { id: stocked, step: 'filling', values: { highBy: 'count', high: [1, 3], air: 0.015 } });
  b.do(setStep, { id: stocked, step: 'sold', values: { front: [0, 0.6], top: [0, 0.4] } });
  b.do(setStep, { id: stocked, step: 'variation', values: { turnDeg: [-8, 8] } });
  b.do(setOnShelf, { id: stocked, prop: props['line-coil'], values: { high: 2 } });
  const full = bundled(b, 'Stocked rack', [rack, stocked]);
  const wall = b.do(addPath, { name: 'Along the wall', kind: 'corner', points: [[-2.6, 0, -2.12], [3.6, 0, -2.12]] });
  b.do(setPath, { id: wall, values: { visible: false } });
  const racks = b.run('Racks along the wall', wall, [[full, 1]]);
  b.do(setStep, { id: racks, step: 'spacing', values: { mode: 'count', count: 3, ends: 'half' } });
  b.do(setStep, { id: racks, step: 'facing', values: { heading: 'compass', compassDeg: 180 } });

  // Deep: coils and floats. Shallow: tins and jars, one board of it all but sold out.
  const deep = standing(b, 'Deep rack', props['deep-rack'], [[-4.2, 0, 0.2]], TURNED(90));
  const heavy = goods('Floats and coils', { from: 'prop', arrangement: deep, slot: '1' }, [[props['net-float'], [2, 4]], [props['rope-coil'], [1, 1]]], {});
  renumber(b, heavy, deep);
  b.do(setStep, { id: heavy, step: 'filling', values: { highBy: 'count', high: [1, 2], air: 0.03 } });
  b.do(setStep, { id: heavy, step: 'sold', values: { front: [0, 0.5] } });
  b.do(setStep, { id: heavy, step: 'variation', values: { turnDeg: [-30, 30], perProp: { [props['rope-coil']]: { turnDeg: [0, 0] } }, tint: { colors: ['#B4472F', '#D6A02B', '#2C5F86'], strength: [0, 0.5] } } });
  const shallow = standing(b, 'Shallow rack', props['shallow-rack'], [[2.6, 0, 1.1]], TURNED(-90));
  const small = goods('Tins and jars', { from: 'prop', arrangement: shallow, slot: '1' }, [[props['tar-tin'], [2, 5]], [props.jar, [3, 4]], [props.tin, [2, 4]]], { seed: 2 });
  renumber(b, small, shallow);
  b.do(setLevel, { id: small, part: 0, board: 2, values: { empty: true } });
  const last = goods('The last tins', { from: 'prop', arrangement: shallow, slot: '1' }, [[props.tin, [1, 1]]], { seed: 5 });
  renumber(b, last, shallow);
  for (const board of [0, 1, 3, 4]) b.do(setLevel, { id: last, part: 0, board, values: { empty: true } });
  b.do(setStep, { id: last, step: 'sold', values: { out: 0.85, front: [0, 0.5] } });

  // A counter: its front edge is a path, its depth and what is clear over it are found.
  b.made('box', 'Counter', { width: 2.6, height: 0.95, depth: 0.62, fillet: 0 }, COLORS.woad, [-0.3, 0, 0.9]);
  const edge: Vec3[] = [[-1.5, 0.95, 1.2], [0.9, 0.95, 1.2]];
  const front = b.do(addPath, { name: 'Front of the counter', kind: 'corner', points: edge });
  b.do(setPath, { id: front, values: { visible: false } });
  const crates = crateOfJars(b, props, [-1.7, 0, 2.3]);
  const shown = goods('On the counter', { from: 'path', path: front }, [[props.jar, [3, 3]], [crates, [1, 1]], [props['line-coil'], [2, 2]], [props.lantern, [1, 1]]], {});
  b.do(setStep, { id: shown, step: 'filling', values: { highBy: 'count', high: [1, 2], deepBy: 'count', deep: [1, 2], setback: 0.06, air: 0.05 } });
  b.do(setOnShelf, { id: shown, prop: props.lantern, values: { stack: false, deep: 1 } });
  return b.scene;
}

/** A rack that is a peg is named by the number of that. */
function renumber(b: Builder, stock: string, rack: string): void {
  const pegs = b.scene.arrangements.find((a) => a.id === rack)!;
  const [[peg]] = (pegs as unknown as { pegs: { id: string }[][] }).pegs;
  const found = b.scene.arrangements.find((a) => a.id === stock) as Stock;
  const shelves = found.shelves.map((s) => (s.from === 'prop' ? { ...s, slot: peg.id.replace(/^\D+/, '') } : s));
  b.do(setArrangement, { id: stock, values: { shelves } });
}
