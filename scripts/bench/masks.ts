import { EngineService } from '@/engine/service';
import { newArrangement } from '@/core/arrange/registry';
import { brushedSchema, type Scatter } from '@/core/arrange/scatter/schema';
import { shapeSchema } from '@/core/mesh/make/schema';
import { maskSchema, type MaskLayer } from '@/core/mesh/mask/schema';
import { emptyScene, newPath, newPoint, newProp, newSurface } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { Told } from '@/engine/served';

/**
 * Masks over a hundred thousand places: read at first, their ramp dragged, and dabs of the brush. A gesture takes a
 * second or more, and a second has sixty steps: its second half counts, as it runs for as long as it goes on.
 */
const STEPS = 60;

const SIDE = 160;
const hills = newSurface('hills', 'Hills', {
  source: 'made',
  shape: shapeSchema.parse({
    shape: 'hills',
    width: SIDE,
    depth: SIDE,
    columns: 200,
    rows: 200,
    height: 8,
    span: 30,
  }),
  color: '#8A9A5B',
});
const way = newPath(
  'way',
  'Way',
  Array.from({ length: 12 }, (_, i) => newPoint(`p${i}`, 'smooth', [(i - 5.5) * 14, 0, 20 * Math.sin(i)])),
);

const layers = (slope: number, dabs: number[]): object[] => [
  { id: 'a', kind: 'slope', from: 20, to: slope, over: true },
  { id: 'b', kind: 'noise', span: 6, from: 0.1, to: 0.3 },
  { id: 'c', kind: 'distance', paths: ['way'], from: 1, to: 3 },
  {
    id: 'd',
    kind: 'painted',
    surface: 'hills',
    base: 1,
    strokes: dabs.length > 0 ? [{ id: 's', does: 'take', radius: 13, dabs }] : [],
  },
];

function scene(list: object[], number = 130_000): Scene {
  const mask = maskSchema.parse({ id: 'm', name: 'Where', layers: list });
  return {
    ...emptyScene('Masks'),
    nextId: 100,
    props: [newProp('tuft', 'Tuft', { source: 'built', name: 'grass-tuft' })],
    surfaces: [hills],
    paths: [way],
    masks: [mask],
    arrangements: [
      newArrangement(
        'scatter',
        { id: 'tufts', name: 'Tufts', thread: 'moss' },
        {
          over: { kind: 'surfaces', surfaces: ['hills'] },
          props: [{ prop: 'tuft', weight: 1 }],
          spread: { how: 'loose', amount: 'number', number, mask: 'm' },
          stand: { lean: 0.5 },
          variation: { size: [0.8, 1.2], turnDeg: [-180, 180] },
        },
      ),
    ],
  };
}

const service = new EngineService();
const told = new Told();
const base = scene([]);
const timed = (work: () => void) => {
  const start = performance.now();
  work();
  return Number((performance.now() - start).toFixed(1));
};
/** A scene with another mask, the rest the same objects. */
const masked = (list: object[]): Scene => ({
  ...base,
  masks: [
    {
      ...base.masks[0],
      layers: maskSchema.parse({ id: 'm', name: 'm', layers: list }).layers as MaskLayer[],
    },
  ],
});
const work = (s: Scene) => timed(() => service.evaluate(s, told));

const bare = work(base);
const first = work(masked(layers(45, [])));
const drags = Array.from({ length: STEPS }, (_, i) => work(masked(layers(44 - i / 4, []))));
let current = masked(layers(33, [0, 0, 0]));
work(current);
const dabs = Array.from({ length: STEPS }, (_, i) => {
  const [mask] = current.masks;
  const list = mask.layers.slice();
  const painted = list[3] as Extract<MaskLayer, { kind: 'painted' }>;
  const [stroke] = painted.strokes;
  list[3] = { ...painted, strokes: [{ ...stroke, dabs: [...stroke.dabs, i, 0, i * 2 - 40] }] };
  current = { ...current, masks: [{ ...mask, layers: list }] };
  return work(current);
});
const combs = Array.from({ length: STEPS }, (_, i) => {
  const [scatter] = current.arrangements as Scatter[];
  const dabs = [...(scatter.brushed[0]?.dabs ?? []), i, 0, i * 2 - 40];
  const stroke = brushedSchema.parse({ id: 'c', does: 'comb', surface: 'hills', radius: 13, dabs });
  current = { ...current, arrangements: [{ ...scatter, brushed: [stroke] }] };
  return work(current);
});
const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1];
const { count } = service.evaluateAll(current).arrangements[0].placements;

console.table([
  { work: '130,000 loose places and their tufts, without a mask', ms: bare, 'to reach': '' },
  { work: 'three layers read at all of them, and what stays settled', ms: first, 'to reach': '' },
  {
    work: `a ramp dragged, to ${count.toLocaleString('en-GB')} matrices`,
    ms: median(drags.slice(STEPS / 2)),
    'to reach': 60,
  },
  { work: 'a dab of the brush among them', ms: median(dabs.slice(STEPS / 2)), 'to reach': 16 },
  { work: 'a dab that combs', ms: median(combs.slice(STEPS / 2)), 'to reach': '' },
]);
