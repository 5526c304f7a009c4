import fc from 'fast-check';
import { allPegs, keepPegs } from '@/core/arrange/pegs/blocks';
import { pegsSchema, type Peg, type Pegs } from '@/core/arrange/pegs/schema';
import { deformerSchema } from '@/core/mesh/deform/schema';
import { shapeSchema } from '@/core/mesh/make/schema';
import { newArrangement, type Arrangement } from '@/core/arrange/registry';
import type { Run } from '@/core/arrange/run/schema';
import { groundSchema } from '@/core/arrange/steps/schema';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun, newSurface } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { cases, SEED } from '@/core/testing/prove';
import { Told, withRows, type ServedArrangement } from './served';
import { EngineService } from './service';

const peg = (i: number) => ({ id: `peg${i}`, prop: 'prop1', position: [i, 0, 0] });

/** Twenty pegs of two props, half of them on a flag that waves; a run over a slope, and riders on it. */
function scene(): Scene {
  const s = emptyScene('S');
  s.props = ['prop1', 'prop2'].map((id) => newProp(id, id, { source: 'built', name: 'bollard' }));
  s.surfaces = [
    {
      ...newSurface('flag', 'Flag', {
        source: 'made',
        shape: shapeSchema.parse({ shape: 'plane', width: 4, depth: 2, columns: 4, rows: 4 }),
        color: '#D8CDB6',
      }),
      deformers: [deformerSchema.parse({ id: 'w', kind: 'wave', length: 1 })],
    },
  ];
  const pin = { surface: 'flag', face: 3, u: 0.3, v: 0.3, faces: 32 };
  const pegs = Array.from({ length: 20 }, (_, i) => ({ ...peg(i), ...(i % 2 && { pin }) }));
  s.paths = [
    newPath('line', 'Line', [newPoint('a', 'corner', [-1, 1, 0]), newPoint('b', 'corner', [1, 1, 0.3])]),
  ];
  const run = newRun('run', 'Run', 'weld', 'line', [newEntry('e', { kind: 'prop', prop: 'prop1' })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 24 };
  s.arrangements = [
    pegsSchema.parse({
      id: 'pegs',
      kind: 'pegs',
      name: 'P',
      thread: 'woad',
      pegs: [pegs.slice(0, 7), pegs.slice(7)],
    }),
    { ...run, ground: groundSchema.parse({ mode: 'land', above: 9 }) },
    newArrangement(
      'riders',
      { id: 'cargo', name: 'C', thread: 'moss' },
      { on: 'run', props: [{ prop: 'prop2' }] },
    ),
  ];
  return s;
}

const PEGGED = ['move', 'turn', 'grow', 'mirror', 'swap', 'tint', 'free', 'remove'] as const;
const CORRECTED = ['side', 'lift', 'size', 'removed', 'prop'] as const;
/** What hands do to pegs, and to slots of the run: some stay drawn where they are, some come among others. */
const deed = fc.record({
  i: fc.nat(19),
  what: fc.constantFrom(...PEGGED, ...CORRECTED, 'pitch', 'time'),
  n: fc.integer({ min: 1, max: 9 }),
  /** Worked out for somebody else first, as for a file that is sent out meanwhile. */
  unheard: fc.boolean(),
});
type Deed = { i: number; what: string; n: number; unheard: boolean };

function after(s: Scene, { i, what, n }: Deed): Scene {
  const [a, run, cargo] = s.arrangements as [Pegs, Run, Arrangement];
  if (what === 'time') return s;
  const values: Record<string, unknown> = { removed: n % 2 === 0, prop: n % 2 ? 'prop1' : 'prop2', size: n };
  if ((CORRECTED as readonly string[]).includes(what)) {
    const hand = { ...run.hand, [i + 1]: { [what]: values[what] ?? n / 10 } };
    return { ...s, arrangements: [a, { ...run, hand }, cargo] };
  }
  if (what === 'pitch')
    return { ...s, arrangements: [a, { ...run, spacing: { ...run.spacing, count: 20 + n } }, cargo] };
  const all = allPegs(a.pegs);
  const old = all[i % Math.max(1, all.length)];
  const changed: Partial<Record<string, Partial<Peg>>> = {
    move: { position: [n, n / 2, 0] },
    turn: { rotation: [0, Math.sin(n), 0, Math.cos(n)] },
    grow: { scale: [n, n, 1] },
    mirror: { scale: [-1, 1, 1] },
    swap: { prop: n % 2 ? 'prop1' : 'prop2' },
    tint: { tint: [n / 10, 0, 0] },
    free: { pin: null },
  };
  const pegs =
    what === 'remove'
      ? keepPegs(a.pegs, (p) => p !== old)
      : a.pegs.map((block) => block.map((p) => (p === old ? { ...p, ...changed[what] } : p)));
  return { ...s, arrangements: [{ ...a, pegs }, run, cargo] };
}

test('rows written over give what the whole gives, whatever is done by hand and whenever', () => {
  const few = { pegs: 0, run: 0, cargo: 0 };
  fc.assert(
    fc.property(fc.array(deed, { minLength: 1, maxLength: 12 }), (deeds) => {
      const service = new EngineService();
      const told = new Told();
      let now = scene();
      let time = 0;
      const have = new Map<string, ServedArrangement>();
      const hear = () => {
        const served = structuredClone(service.evaluate(now, told, undefined, time));
        for (const a of served.arrangements) have.set(a.id, a);
        for (const r of served.rows) {
          have.set(r.id, withRows(have.get(r.id)!, r));
          few[r.id as keyof typeof few]++;
        }
      };
      hear();
      for (const d of deeds) {
        now = after(now, d);
        if (d.what === 'time') time += d.n / 10;
        if (d.unheard) service.evaluateAll(now, time);
        if (d.unheard && d !== deeds.at(-1)) continue;
        hear();
        const bare = ({ key: _, since: __, rows: ___, batches, ...rest }: ServedArrangement) => ({
          ...rest,
          batches: batches.map(({ changed: ____, ...b }) => b),
        });
        for (const whole of new EngineService().evaluate(now, new Told(), undefined, time).arrangements)
          expect(bare(have.get(whole.id)!)).toEqual(bare(whole));
      }
    }),
    { seed: SEED, numRuns: cases(1000) },
  );
  for (const times of Object.values(few)) expect(times).toBeGreaterThan(3);
});
