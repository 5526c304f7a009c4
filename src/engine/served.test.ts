import fc from 'fast-check';
import { pegsSchema, type Peg, type Pegs } from '@/core/arrange/pegs/schema';
import { deformerSchema } from '@/core/mesh/deform/schema';
import { shapeSchema } from '@/core/mesh/make/schema';
import { emptyScene, newProp, newSurface } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { cases, SEED } from '@/core/testing/prove';
import { Told, withRows, type ServedArrangement } from './served';
import { EngineService } from './service';

const peg = (i: number) => ({ id: `peg${i}`, prop: 'prop1', position: [i, 0, 0] });

/** Twenty pegs of two props, half of them on a flag that waves. */
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
  s.arrangements = [pegsSchema.parse({ id: 'pegs', kind: 'pegs', name: 'P', thread: 'woad', pegs })];
  return s;
}

/** What hands do to pegs: some stay drawn where they are, some come among others. */
const deed = fc.record({
  i: fc.nat(19),
  what: fc.constantFrom('move', 'turn', 'grow', 'mirror', 'swap', 'tint', 'free', 'remove', 'time'),
  n: fc.integer({ min: 1, max: 9 }),
});
type Deed = { i: number; what: string; n: number };

function after(s: Scene, { i, what, n }: Deed): Scene {
  const a = s.arrangements[0] as Pegs;
  const old = a.pegs[i % Math.max(1, a.pegs.length)];
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
      ? a.pegs.filter((p) => p !== old)
      : a.pegs.map((p) => (p === old ? { ...p, ...changed[what] } : p));
  return what === 'time' ? s : { ...s, arrangements: [{ ...a, pegs }] };
}

test('rows written over give what the whole gives, whatever is done to pegs and whenever', () => {
  let few = 0;
  fc.assert(
    fc.property(fc.array(deed, { minLength: 1, maxLength: 12 }), (deeds) => {
      const service = new EngineService();
      const told = new Told();
      let now = scene();
      let time = 0;
      const [first] = service.evaluate(now, told).arrangements;
      let have: ServedArrangement = structuredClone(first);
      for (const d of deeds) {
        now = after(now, d);
        if (d.what === 'time') time += d.n / 10;
        const served = structuredClone(service.evaluate(now, told, undefined, time));
        if (served.arrangements[0]) have = served.arrangements[0];
        if (served.rows[0]) {
          have = withRows(have, served.rows[0]);
          few++;
        }
        const [whole] = new EngineService().evaluate(now, new Told(), undefined, time).arrangements;
        const bare = ({ key: _, since: __, rows: ___, batches, ...rest }: ServedArrangement) => ({
          ...rest,
          batches: batches.map(({ changed: ____, ...b }) => b),
        });
        expect(bare(have)).toEqual(bare(whole));
      }
    }),
    { seed: SEED, numRuns: cases(3000) },
  );
  expect(few).toBeGreaterThan(20);
});
