import { EngineService } from '@/engine/service';
import { newArrangement, type Arrangement } from '@/core/arrange/registry';
import { strandsSchema } from '@/core/arrange/strands/schema';
import type { Hang } from '@/core/curve/hang/schema';
import { emptyScene, newPath, newPoint, newProp } from '@/core/scene/defaults';
import { pathSchema } from '@/core/curve/schema';
import type { Scene } from '@/core/scene/schema';
import { Told } from '@/engine/served';

/** Ten thousand lines from post to post, and a post dragged with two hundred of them and what hangs there. */

const run = (id: string, path: string, prop: string, spacing: object, more: object = {}): Arrangement =>
  newArrangement(
    'run',
    { id, name: id, thread: 'moss' },
    {
      paths: [{ path, part: 0 }],
      order: { entries: [{ id: `e${id}`, item: { kind: 'prop', prop } }] },
      spacing,
      ...more,
    },
  );

function scene(posts: number, hang: Partial<Hang>, more: Arrangement[] = [], hand: object = {}): Scene {
  const long = posts * 0.5;
  return {
    ...emptyScene('Strands'),
    props: [
      {
        ...newProp('post', 'Post', { source: 'built', name: 'lamp-post' }),
        snapPoints: [{ name: 'arm', position: [0, 3, 0] }],
      },
      newProp('flag', 'Flag', { source: 'built', name: 'pennant-woad' }),
    ],
    paths: [
      newPath('way', 'Way', [newPoint('a', 'corner', [0, 0, 0]), newPoint('b', 'corner', [long, 0, 0])]),
      pathSchema.parse({ id: 'lines', name: 'Lines', source: { kind: 'lines', of: 'strands' } }),
    ],
    arrangements: [
      run('posts', 'way', 'post', { mode: 'count', count: posts }, { hand }),
      strandsSchema.parse({
        id: 'strands',
        kind: 'strands',
        name: 'Strands',
        thread: 'weld',
        from: { on: 'posts', snap: 'arm' },
        to: { snap: 'arm' },
        hang,
      }),
      ...more,
    ],
  };
}

const timed = (work: () => void) => {
  const start = performance.now();
  work();
  return Number((performance.now() - start).toFixed(1));
};
const median = (list: number[]) => [...list].sort((a, b) => a - b)[list.length >> 1];

const many = new EngineService();
const told = new Told();
// The path of the lines is compiled where something hangs on it, and not here.
const bare = (slack: number): Scene => {
  const s = scene(10_001, { slack });
  return { ...s, paths: s.paths.slice(0, 1), arrangements: [base.arrangements[0], s.arrangements[1]] };
};
const base = scene(10_001, { slack: 0.1 });
many.evaluate({ ...base, paths: base.paths.slice(0, 1) }, told);
const solved = Array.from({ length: 9 }, (_, i) =>
  timed(() => many.evaluate({ ...bare(0.11 + i / 100), paths: base.paths.slice(0, 1) }, told)),
);

const few = new EngineService();
const heard = new Told();
const flags = run('flags', 'lines', 'flag', { mode: 'count', count: 10 });
const hung = scene(201, { slack: 0.1 }, [flags]);
few.evaluate(hung, heard);
const drags = Array.from({ length: 15 }, (_, i) => {
  const posts = run(
    'posts',
    'way',
    'post',
    { mode: 'count', count: 201 },
    { hand: { 100: { side: i / 20 } } },
  );
  return timed(() => few.evaluate({ ...hung, arrangements: [posts, ...hung.arrangements.slice(1)] }, heard));
});

console.table([
  { work: '10,000 lines solved and told as they are drawn', ms: median(solved), 'to reach': 100 },
  { work: 'a post dragged with 200 lines, 2,000 flags on them', ms: median(drags), 'to reach': 33 },
]);
