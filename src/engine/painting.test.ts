import { newArrangement } from '@/core/arrange/registry';
import type { Placements } from '@/core/arrange/result';
import { brushedSchema, type Scatter } from '@/core/arrange/scatter/schema';
import { shapeSchema } from '@/core/mesh/make/schema';
import { maskSchema } from '@/core/mesh/mask/schema';
import { emptyScene, newProp, newSurface } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { NOTHING, taken } from './results';
import { Told, type ServedArrangement } from './served';
import { EngineService } from './service';

/** A scatter that is painted in every way, as it comes to the page: a change at a time, or all at once. */

type Dabs = number[];

/** What there is to paint, each stroke by its dabs. */
interface Painting {
  density?: Dabs;
  size?: Dabs;
  combed?: Dabs[];
  tufts?: Dabs;
  back?: Dabs;
  seed?: number;
}

const line = (n: number, x = 0): Dabs =>
  Array.from({ length: n }, (_, i) => [x + i, 0, 4 * Math.sin(i + x)]).flat();

const hills = newSurface('hills', 'Hills', {
  source: 'made',
  shape: shapeSchema.parse({
    shape: 'hills',
    width: 40,
    depth: 40,
    columns: 30,
    rows: 30,
    height: 2,
    span: 12,
  }),
  color: '#8A9A5B',
});
const props = ['tuft', 'stone'].map((id) => newProp(id, id, { source: 'built', name: 'grass-tuft' }));
const start = newArrangement(
  'scatter',
  { id: 'all', name: 'All', thread: 'moss' },
  {
    over: { kind: 'surfaces', surfaces: ['hills'] },
    props: [
      { prop: 'tuft', weight: 3 },
      { prop: 'stone', weight: 1 },
    ],
    spread: { how: 'loose', amount: 'number', number: 4000, mask: 'where' },
    stand: { lean: 0.5, alternate: 'mirror' },
    variation: { size: [0.8, 1.2], turnDeg: [-180, 180], sizeMask: 'large' },
  },
) as Scatter;

const mask = (id: string, does: 'take' | 'add', dabs: Dabs | undefined, base: number) =>
  maskSchema.parse({
    id,
    name: id,
    layers: [
      { id: `${id} u`, kind: 'u', from: -0.4, to: 0.6 },
      {
        id: `${id} paint`,
        kind: 'painted',
        surface: 'hills',
        base,
        strokes: dabs ? [{ id: 's', does, radius: 3, strength: 0.8, dabs }] : [],
      },
    ],
    ...(id === 'large' && { combine: 'largest' }),
  });

const brush = { surface: 'hills', radius: 3, softness: 0.5, strength: 0.7 };
const stroke = (values: object) => brushedSchema.parse({ ...brush, ...values });
/** Strokes that did not change are the same objects, as they are in a document. */
const strokes = new Map<string, ReturnType<typeof stroke>>();
const sameStroke = (values: object) => {
  const key = JSON.stringify(values);
  if (!strokes.has(key)) strokes.set(key, stroke(values));
  return strokes.get(key)!;
};

const base: Scene = { ...emptyScene('Painted'), nextId: 100, props, surfaces: [hills] };
const painted = ({ density, size, combed = [], tufts, back, seed = 1 }: Painting): Scene => ({
  ...base,
  masks: [mask('where', 'take', density, 1), mask('large', 'add', size, 0.3)],
  arrangements: [
    {
      ...start,
      seed,
      brushed: [
        ...combed.map((dabs, i) => sameStroke({ id: `c${i}`, does: 'comb', dabs })),
        ...(tufts ? [sameStroke({ id: 'p', does: 'prop', prop: 'tuft', dabs: tufts })] : []),
        ...(back ? [sameStroke({ id: 'u', does: 'unprop', dabs: back })] : []),
      ],
    },
  ],
});

const STEPS: Painting[] = [
  {},
  { density: line(1) },
  { density: line(4) },
  { density: line(4), combed: [line(1, -6)] },
  { density: line(4), combed: [line(2, -6)] },
  { density: line(4), combed: [line(3, -6)] },
  { density: line(4), combed: [line(7, -6)] },
  { density: line(4), combed: [line(7, -6), line(2, 3)] },
  { density: line(6), combed: [line(7, -6), line(4, 3)], size: line(2, -3) },
  { density: line(6), combed: [line(7, -6), line(4, 3)], size: line(5, -3) },
  { density: line(6), combed: [line(7, -6), line(4, 3)], size: line(5, -3), tufts: line(3, -2) },
  {
    density: line(6),
    combed: [line(7, -6), line(4, 3)],
    size: line(5, -3),
    tufts: line(5, -2),
    back: line(2),
  },
  { density: line(6), combed: [line(7, -6)], size: line(5, -3), tufts: line(5, -2) },
  { density: line(6), combed: [line(7, -6)], seed: 8 },
  { density: line(2), combed: [line(7, -6)] },
  {},
];

const COLUMNS = ['slot', 'state', 'prop', 'position', 'rotation', 'scale', 's'] as const;
const columns = (p: Placements) => COLUMNS.map((name) => [...p[name]]);

/** Everything that is drawn: the matrix of each row, by its prop and hand. */
const drawn = ({ batches }: ServedArrangement) =>
  new Map(
    batches.flatMap((b) =>
      Array.from(b.rows, (row, i) => [
        row,
        [b.prop, b.mirrored, ...b.matrices.subarray(i * 16, i * 16 + 16)],
      ]),
    ),
  );

test('whatever is painted, drawn on and taken back, the page has what it would have at once', () => {
  const service = new EngineService();
  const told = new Told();
  let result = NOTHING;
  let rowsAlone = 0;
  for (const step of STEPS) {
    const scene = painted(step);
    const served = structuredClone(service.evaluate(scene, told));
    rowsAlone += served.rows.length;
    result = taken(result, served);
    const fresh = taken(NOTHING, new EngineService().evaluate(scene, new Told()));
    const [now, whole] = [result, fresh].map((r) => r.arrangements.get('all')!);
    expect(columns(now.placements)).toEqual(columns(whole.placements));
    expect(now.counts).toEqual(whole.counts);
    expect(drawn(now)).toEqual(drawn(whole));
  }
  // What was combed, or grew, came by itself.
  expect(rowsAlone).toBeGreaterThan(4);
});
