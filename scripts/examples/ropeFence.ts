import type { Scene } from '@/core/scene/schema';
import { addKeepOut } from '@/store/commands/gaps';
import { setEntry } from '@/store/commands/order';
import { addGenerated, addPath, setPath } from '@/store/commands/paths';
import { setArrangement, setStep } from '@/store/commands/arrangements';
import { addScatter } from '@/store/commands/scatter';
import { addSpans } from '@/store/commands/spans';
import type { Ground } from '@/core/arrange/steps/schema';
import { Builder } from './builder';

/** Length of the rail prop, metres: the corners stand at whole numbers of it, so that posts meet every joint. */
const RAIL = 1.6;

/** A fence of posts and rails that meets itself at every corner, with a gap where the footpath crosses. */
export function ropeFence(): Scene {
  const b = new Builder('Rope fence over the sands', { eye: [6, 5, 14], target: [5.4, 0.9, -1] });
  const props = b.props(['rope-post', 'rail', 'plank', 'grass-tuft', 'boulder']);
  b.made('hills', 'Dunes', { width: 44, depth: 36, columns: 96, rows: 80, height: 0.8, span: 9, layers: 2, seed: 6 }, '#DFCFAA', [5, 0, -2]);
  /** Stands on the dunes; tall things upright, low ones with the ground. */
  const land = (id: string, values: Partial<Ground> = {}) => b.do(setStep, { id, step: 'ground', values: { mode: 'land', above: 4, ...values } });

  const at = (x: number, z: number): [number, number, number] => [x * RAIL, 0, z * RAIL];
  const fence = b.do(addPath, { name: 'Fence line', kind: 'corner', points: [at(-3, 3), at(1, 3), at(1, -1), at(6, -1), at(6, 2), at(9, 2)] });
  const footpath = b.do(addGenerated, {
    shape: 'line',
    name: 'Footpath',
    position: [4.82, 0, 4],
    values: { to: [1.4, 0, -10] },
  });

  const posts = b.run('Posts', fence, [[props['rope-post'], 1]]);
  b.do(setStep, { id: posts, step: 'spacing', values: { pitch: RAIL, leftover: 'end' } });
  land(posts, { lean: 0.15, sink: [0.02, 0.08] });
  b.do(setStep, { id: posts, step: 'variation', values: { tipDeg: [-2, 2], rollDeg: [-2, 2], sizeY: [0.96, 1.05] } });

  // Rails from post to post, as high on each as it really stands; none where the footpath crosses.
  for (const [name, height, thread] of [
    ['Upper rails', 0.78, 'weld'],
    ['Lower rails', 0.4, 'moss'],
  ] as const) {
    const end = { offset: [0, height, 0] as [number, number, number] };
    const rails = b.do(addSpans, { on: posts, values: { name, props: [{ prop: props.rail, weight: 1 }], from: end, to: end, hand: { 11: { removed: true } } } });
    b.do(setArrangement, { id: rails, values: { thread } });
  }

  const boards = b.run('Boards of the footpath', footpath, [[props.plank, 1]]);
  b.do(setArrangement, { id: boards, values: { thread: 'plum' } });
  b.do(setStep, { id: boards, step: 'spacing', values: { pitch: 0.2, looseBy: 0.012 } });
  b.do(setStep, { id: boards, step: 'variation', values: { turnDeg: [-4, 4], side: [-0.05, 0.05], spread: { ...b.findRun(boards).variation.spread, turnDeg: 'bell' } } });
  land(boards, { contact: 'footprint', lean: 1 });
  b.do(setStep, { id: boards, step: 'gaps', values: { chance: 0.05, longest: 1 } });

  const tufts = b.run('Tufts along the fence', fence, [[props['grass-tuft'], 1], [props.boulder, 1]]);
  b.do(setEntry, { id: tufts, entry: b.findRun(tufts).order.entries[0].id, values: { weight: 5 } });
  b.do(setArrangement, { id: tufts, values: { thread: 'moss' } });
  b.do(setStep, { id: tufts, step: 'order', values: { mode: 'mix', bag: true } });
  b.do(setStep, { id: tufts, step: 'spacing', values: { pitch: 0.85, looseBy: 0.3, minDistance: 0.2, rows: { count: 1, distance: 1.1, stagger: 0, side: 'both', mirrored: false } } });
  b.do(setStep, { id: tufts, step: 'variation', values: { turnDeg: [-180, 180], side: [-0.35, 0.35], size: [0.6, 1.2], tint: { colors: ['#d6a02b', '#61793f'], strength: [0, 0.35] }, perProp: { [props.boulder]: { size: [0.25, 0.5] } } } });
  land(tufts, { lean: 0.5, sink: [0, 0.05] });
  b.do(setStep, { id: tufts, step: 'gaps', values: { collide: 'leave-out' } });
  b.do(addKeepOut, { id: tufts, keepOut: { kind: 'near', name: 'Footpath', of: { kind: 'path', id: footpath }, distance: 0.9 } });
  b.do(setPath, { id: footpath, values: { visible: false } });
  // Boards lap in the bends; grass grows through the rails.
  b.meant('Tufts along the fence', 'Lower rails');
  b.meant('Boards of the footpath', 'Boards of the footpath');
  // Marram in clumps over all of the dunes, but for what people walk on and what the fence goes through.
  const dunes = b.scene.surfaces.find((x) => x.name === 'Dunes')!.id;
  const marram = b.do(addScatter, {
    over: { kind: 'surfaces', surfaces: [dunes] },
    props: [props['grass-tuft']],
    values: { name: 'Marram on the dunes', thread: 'moss', seed: 4 },
  });
  b.do(setStep, { id: marram, step: 'spread', values: { how: 'clumps', distance: 3.4, each: [2, 6], wide: 0.9 } });
  b.do(setStep, { id: marram, step: 'stand', values: { lean: 0.4, lift: -0.02 } });
  b.do(setStep, { id: marram, step: 'variation', values: { size: [0.5, 1.3], tint: { colors: ['#d6a02b', '#61793f'], strength: [0, 0.35] } } });
  b.do(addKeepOut, { id: marram, keepOut: { kind: 'near', name: 'Footpath', of: { kind: 'path', id: footpath }, distance: 1.1 } });
  b.do(addKeepOut, { id: marram, keepOut: { kind: 'near', name: 'Fence', of: { kind: 'path', id: fence }, distance: 0.7 } });
  b.do(addKeepOut, { id: marram, keepOut: { kind: 'into', name: 'Tufts', of: tufts } });
  b.meant('Marram on the dunes', 'Marram on the dunes');
  b.surroundings(-1.45);
  return b.scene;
}
