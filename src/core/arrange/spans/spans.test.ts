import { quatRotate, type Quat } from '../../math/quat';
import { distance, dot, type Vec3 } from '../../math/vec3';
import { STATE, type Placements } from '../result';
import { Evaluator } from '../../evaluate/scene';
import { shapeSchema } from '../../mesh/make/schema';
import { emptyScene, newEntry, newProp, newRun, newSurface } from '../../scene/defaults';
import { pathSchema } from '../../curve/schema';
import type { Scene } from '../../scene/schema';
import { ASSETS } from '../../testing/scene';
import type { Run } from '../run/schema';
import { groundSchema } from '../steps/schema';
import { spansSchema, type Spans } from './schema';

const spans = (more: object = {}): Spans =>
  spansSchema.parse({
    id: 'rails',
    kind: 'spans',
    name: 'Rails',
    thread: 'moss',
    on: 'posts',
    props: [{ prop: 'p' }],
    ...more,
  });

function worked(
  rails: Spans,
  shape: object = { shape: 'circle', radius: 3 },
  change: (r: Run) => void = () => {},
) {
  const posts = newRun('posts', 'Posts', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  posts.spacing = { ...posts.spacing, mode: 'count', count: 8 };
  change(posts);
  const scene: Scene = {
    ...emptyScene('Spans'),
    props: [
      {
        ...newProp('p', 'P', { source: 'built', name: 'box' }),
        snapPoints: [{ name: 'eye', position: [0.1, 0.7, 0.2] }],
      },
    ],
    surfaces: [
      newSurface('hills', 'Hills', {
        source: 'made',
        shape: shapeSchema.parse({ shape: 'hills', width: 30, depth: 30, height: 2, seed: 5 }),
        color: '#D8CDB6',
      }),
    ],
    paths: [pathSchema.parse({ id: 'line', name: 'Line', source: { kind: 'generator', generator: shape } })],
    arrangements: [rails, posts],
  };
  const result = new Evaluator(ASSETS).evaluate(scene);
  const [r, p] = result.arrangements;
  const { min, max } = result.propBounds.p;
  return { rails: r.placements, posts: p.placements, findings: r.findings.map((f) => f.kind), min, max };
}
const place = (p: Placements, i: number): Vec3 => [
  p.position[i * 3],
  p.position[i * 3 + 1],
  p.position[i * 3 + 2],
];
const turned = (p: Placements, i: number, v: Vec3) =>
  quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, v);
/** Both ends of a member, from where its mesh reaches to. */
const ends = ({ rails: r, min, max }: ReturnType<typeof worked>, i: number): [Vec3, Vec3] => {
  const at = (z: number) => {
    const away = turned(r, i, [0, 0, z * r.scale[i * 3 + 2]]);
    return place(r, i).map((v, k) => v + away[k]) as Vec3;
  };
  return [at(min[2]), at(max[2])];
};

test('round an opening every member meets the next, and the last one the first', () => {
  const w = worked(spans());
  expect(w.rails.count).toBe(8);
  for (let i = 0; i < 8; i++) {
    const [from, to] = ends(w, i);
    expect(distance(from, place(w.posts, i))).toBeLessThan(1e-12);
    expect(distance(to, place(w.posts, (i + 1) % 8))).toBeLessThan(1e-12);
    // The chord of the closed form.
    expect(distance(from, to)).toBeCloseTo(2 * 3 * Math.sin(Math.PI / 8), 6);
    expect(dot(turned(w.rails, i, [0, 1, 0]), [0, 1, 0])).toBeCloseTo(1, 12);
  }
});

test('from divisions per quadrant, each second one; over every second post; ends left free', () => {
  const quadrants = (r: Run) =>
    (r.spacing = { ...r.spacing, mode: 'divide', parts: 6, per: 'quadrant', every: 2, withEnds: true });
  const w = worked(spans(), undefined, quadrants);
  expect(w.rails.count).toBe(12);
  for (let i = 0; i < 12; i++) expect(distance(...ends(w, i))).toBeCloseTo(6 * Math.sin(Math.PI / 12), 4);
  const over = worked(spans({ reach: 2, every: 2, inset: 0.1 }));
  expect(over.rails.count).toBe(4);
  for (let i = 0; i < 4; i++) {
    const [from, to] = ends(over, i);
    expect(distance(from, to)).toBeCloseTo(6 * Math.sin(Math.PI / 4) - 0.2, 6);
    expect(distance(from, place(over.posts, i * 2))).toBeCloseTo(0.1, 12);
  }
});

test('a gap has no member on either side; open lines end; what is too far apart is left open', () => {
  const line = { shape: 'line', to: [14, 0, 0] };
  const w = worked(spans(), line, (r) => (r.hand = { '4': { removed: true } }));
  expect(w.posts.state[3]).toBe(STATE.hand);
  expect([...w.rails.slot]).toEqual([1, 2, 5, 6, 7]);
  expect(worked(spans({ longest: 1.9 }), line).rails.count).toBe(0);
  expect(worked(spans({ longest: 2.1 }), line).rails.count).toBe(7);
  // Closed up, those that are left are neighbours.
  const close = worked(spans(), line, (r) => {
    r.hand = { '4': { removed: true } };
    r.gaps = { ...r.gaps, after: 'close' };
  });
  expect(close.rails.count).toBe(6);
  // With insets a closed path is a line.
  expect(worked(spans(), undefined, (r) => (r.spacing = { ...r.spacing, insetStart: 4 })).rails.count).toBe(
    7,
  );
});

test('over landed posts members follow their real tops, at any height and snap point', () => {
  const landed = (r: Run) => {
    r.ground = groundSchema.parse({ mode: 'land', lean: 1, above: 20 });
    r.variation = { ...r.variation, size: [0.8, 1.4], turnDeg: [-40, 40] };
  };
  const w = worked(
    spans({ from: { offset: [0, 0.9, 0] }, to: { snap: 'eye', offset: [0, 0.1, 0] } }),
    { shape: 'circle', radius: 6 },
    landed,
  );
  const heights = Array.from({ length: 8 }, (_, i) => w.posts.position[i * 3 + 1]);
  expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(0.2);
  const top = (i: number, own: Vec3): Vec3 => {
    const away = turned(w.posts, i, own.map((v, k) => v * w.posts.scale[i * 3 + k]) as Vec3);
    return place(w.posts, i).map((v, k) => v + away[k]) as Vec3;
  };
  for (let i = 0; i < 8; i++) {
    const [from, to] = ends(w, i);
    expect(distance(from, top(i, [0, 0.9, 0]))).toBeLessThan(1e-12);
    expect(distance(to, top((i + 1) % 8, [0.1, 0.8, 0.2]))).toBeLessThan(1e-12);
  }
  expect(w.findings).toEqual([]);
  expect(worked(spans({ from: { snap: 'hook' } })).findings).toEqual(['span-snap-missing']);
});

test('repeated members are as many as come nearest to their own length, end to end from post to post', () => {
  const w = worked(spans({ fit: 'repeat', size: 0.5 }), { shape: 'line', to: [21, 0, 0] });
  const own = (w.max[2] - w.min[2]) * 0.5;
  const pieces = Math.round(3 / own);
  expect(w.rails.count).toBe(7 * pieces);
  for (let i = 1; i < w.rails.count; i++)
    expect(distance(ends(w, i - 1)[1], ends(w, i)[0])).toBeLessThan(1e-9);
  expect(distance(...ends(w, 0))).toBeCloseTo(3 / pieces, 9);
  expect(w.rails.scale[0]).toBe(0.5);
});

test('without posts or props it says so', () => {
  expect(worked(spans({ on: 'gone' })).findings).toEqual(['leader-missing']);
  expect(worked(spans({ props: [] })).findings).toEqual(['no-props']);
  expect(worked(spans({ inset: 9 })).findings).toEqual(['span-too-short']);
});

describe('cut, trimmed, along the path, with corner pieces', () => {
  /** Extents of a row's shape along its front. */
  const extent = (p: Placements, row: number): [number, number] => {
    const bent = p.bent![p.shape![row]];
    const z = Array.from(bent.indices, (v) => bent.positions[v * 3 + 2]);
    return [Math.min(...z), Math.max(...z)];
  };

  test('whole members, the last one cut to what is left; one trimmed', () => {
    // The box is 0.5 long; posts round a circle of 3 m stand 2.296 apart.
    const apart = 2 * 3 * Math.sin(Math.PI / 8);
    const { rails, posts } = worked(spans({ fit: 'cut' }));
    const n = Math.ceil(apart / 0.5);
    expect(rails.count).toBe(8 * n);
    const last = n - 1;
    const [low, high] = extent(rails, last);
    expect(high - low).toBeCloseTo(apart - last * 0.5, 6);
    expect(
      distance(
        turned(rails, last, [0, 0, high]).map((v, a) => v + place(rails, last)[a]) as Vec3,
        place(posts, 1),
      ),
    ).toBeLessThan(1e-6);
    expect(rails.shape![0]).toBe(-1);
    // All the last ones are one shape.
    expect(rails.bent!.length).toBe(1);
    const long = worked(spans({ fit: 'trim', size: 6 })).rails;
    const [a, b] = extent(long, 0);
    expect(b - a).toBeCloseTo(apart, 6);
    const short = worked(spans({ fit: 'trim' })).rails;
    expect(short.bent).toBeUndefined();
    expect(distance(place(short, 0), place(worked(spans()).posts, 0))).toBeCloseTo(
      (apart - 0.5) / 2 + 0.25,
      6,
    );
  });

  test('along a circle every vertex keeps to it', () => {
    const { rails } = worked(spans({ follow: true }));
    expect(rails.count).toBe(8);
    for (let i = 0; i < rails.count; i++) {
      const { positions, indices } = rails.bent![rails.shape![i]];
      const angles: number[] = [];
      let wide = 0;
      for (const v of indices) {
        const at = turned(rails, i, [...positions.subarray(v * 3, v * 3 + 3)] as Vec3);
        const p = at.map((x, a) => x + place(rails, i)[a]);
        const r = Math.hypot(p[0], p[2]);
        // The box is 0.4 wide: its sides lie 0.2 to both sides of the circle.
        wide = Math.max(wide, Math.abs(r - 3));
        angles.push(Math.atan2(p[2], p[0]));
      }
      expect(wide).toBeLessThan(0.203);
      // From post to post: an eighth of the round.
      const first = angles[0];
      const off = angles.map((a) => Math.atan2(Math.sin(a - first), Math.cos(a - first)));
      expect(Math.max(...off) - Math.min(...off)).toBeCloseTo(Math.PI / 4, 6);
    }
  });

  test('a corner piece stands where members turn, between both directions', () => {
    const shape = { shape: 'rectangle', width: 6, depth: 4, fillet: 0 };
    const corners = (r: Run) => (r.spacing = { ...r.spacing, mode: 'points', at: 'points' });
    const { rails } = worked(spans({ corner: { prop: 'p', angleDeg: 30 } }), shape, corners);
    expect(rails.count).toBe(8);
    for (let i = 4; i < 8; i++) {
      const front = turned(rails, i, [0, 0, 1]);
      expect(Math.abs(front[0])).toBeCloseTo(Math.SQRT1_2, 6);
      expect(Math.abs(front[2])).toBeCloseTo(Math.SQRT1_2, 6);
    }
  });
});

test('what a hand or a gap does to a member it does to all its pieces, and its corner pieces go with it', () => {
  const corner = { prop: 'p', angleDeg: 20 };
  const whole = worked(spans({ fit: 'repeat', corner }));
  const pieces = whole.rails.slot.filter((s) => s === 3).length - 1;
  expect(pieces).toBeGreaterThan(2);
  const of = (p: Placements, slot: number) => [...p.slot.keys()].filter((i) => p.slot[i] === slot);
  const hand = { 3: { along: 0.2, lift: 0.5, size: 2 }, 5: { removed: true } };
  const by = worked(spans({ fit: 'repeat', corner, hand }));
  const members = (p: Placements, slot: number) => of(p, slot).slice(0, pieces);
  members(by.rails, 3).forEach((i, k) => {
    const at = members(whole.rails, 3)[k];
    const moved = turned(whole.rails, at, [0, 0.5, 0.2]);
    const to = place(whole.rails, at).map((v, a) => v + moved[a]) as Vec3;
    expect(distance(place(by.rails, i), to)).toBeLessThan(1e-12);
    const [was, now] = [whole.rails.scale.subarray(at * 3), by.rails.scale.subarray(i * 3)];
    // Across it grows; as long as the way is, it stays.
    expect([now[0], now[1], now[2]]).toEqual([2 * was[0], 2 * was[1], was[2]]);
  });
  expect(members(by.rails, 5).every((i) => by.rails.state[i] === STATE.hand)).toBe(true);
  // Eight corners but those at both ends of the member that is gone.
  expect(by.rails.count).toBe(whole.rails.count - 2);
  const lock = {
    prop: 'p',
    s: 0,
    position: place(by.rails, members(by.rails, 3)[0]),
    rotation: [...by.rails.rotation.subarray(members(by.rails, 3)[0] * 4).subarray(0, 4)],
    scale: [...by.rails.scale.subarray(members(by.rails, 3)[0] * 3).subarray(0, 3)],
  };
  const held = worked(spans({ fit: 'repeat', corner, hand: { 3: { lock } } }));
  members(held.rails, 3).forEach((i, k) =>
    expect(distance(place(held.rails, i), place(by.rails, members(by.rails, 3)[k]))).toBeLessThan(1e-12),
  );
});

test('a member that is cut off keeps the length of its way when it is drawn larger', () => {
  const line = { shape: 'line', to: [13, 0, 0] };
  const w = worked(spans({ fit: 'cut', hand: { 2: { size: 3 } } }), line);
  const last = [...w.rails.slot.keys()].findLast((i) => w.rails.slot[i] === 2)!;
  const { positions } = w.rails.bent![w.rails.shape![last]];
  const z = [...positions].filter((_, o) => o % 3 === 2);
  const own = w.max[2] - w.min[2];
  const rest = (13 / 7) % own;
  expect(Math.max(...z) - Math.min(...z)).toBeCloseTo(rest, 9);
  const x = [...positions].filter((_, o) => o % 3 === 0);
  expect(Math.max(...x) - Math.min(...x)).toBeCloseTo(3 * (w.max[0] - w.min[0]), 6);
});

describe('over the divisions of a path', () => {
  const ends = (r: Placements, i: number, min: Vec3, max: Vec3): [Vec3, Vec3] => {
    const front = quatRotate([...r.rotation.subarray(i * 4, i * 4 + 4)] as Quat, [0, 0, 1]);
    const at = (z: number) => place(r, i).map((v, a) => v + front[a] * z * r.scale[i * 3 + 2]) as Vec3;
    return [at(min[2]), at(max[2])];
  };
  const over = (values: object, shape?: object) =>
    worked(spans({ on: '', divisions: { path: 'line', ...values } }), shape);

  test('straight members round an opening, three a quadrant: their ends lie on it, 30° apart, and meet', () => {
    for (const tipDeg of [0, 90]) {
      const { rails, findings, min, max } = over(
        { parts: 3, per: 'quadrant' },
        { shape: 'circle', radius: 3, tipDeg },
      );
      expect(findings).toEqual([]);
      expect(rails.count).toBe(12);
      for (let i = 0; i < 12; i++) {
        const [a, b] = ends(rails, i, min, max);
        expect(distance(a, [0, 0, 0])).toBeCloseTo(3, 4);
        expect(distance(a, b)).toBeCloseTo(6 * Math.sin(Math.PI / 12), 5);
        expect(distance(b, ends(rails, (i + 1) % 12, min, max)[0])).toBeLessThan(1e-9);
      }
    }
  });

  test('sides of a polygon each by itself, every second division, to the second after; slots name their division', () => {
    const polygon = { shape: 'polygon', radius: 4, sides: 5 };
    const side = 8 * Math.sin(Math.PI / 5);
    const whole = over({ parts: 1, per: 'side' }, polygon);
    expect(whole.rails.count).toBe(5);
    const lengths = (w: typeof whole) =>
      [...w.rails.slot.keys()].map((i) => distance(...ends(w.rails, i, w.min, w.max)));
    lengths(whole).forEach((l) => expect(l).toBeCloseTo(side, 9));
    const quarters = over({ parts: 4, per: 'side' }, polygon);
    expect(quarters.rails.count).toBe(20);
    lengths(quarters).forEach((l) => expect(l).toBeCloseTo(side / 4, 9));
    const second = over({ parts: 4, per: 'side', every: 2 }, polygon);
    expect(second.rails.count).toBe(10);
    // The slots that stay keep their names.
    const names = new Set(quarters.rails.slot);
    for (const slot of second.rails.slot) expect(names.has(slot)).toBe(true);
  });

  test('a path without corners, or none at all, is told', () => {
    expect(over({ parts: 2, per: 'side' }).findings).toEqual(['no-corners']);
    expect(over({ path: 'gone' }).findings).toEqual(['path-missing']);
  });
});
