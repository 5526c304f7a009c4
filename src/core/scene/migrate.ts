import { mend, type Mend, type SetAside } from './mend';
import type { Patch } from './patch';
import { MOST_ID, sceneSchema, type Scene } from './schema';
import { SCENE_VERSION } from './version';

/** A scene that was read, with what was left out of it. */
export interface ReadScene {
  scene: Scene;
  /** Where the file has fields that this version does not know, e.g. "arrangements[0].glow". */
  unknown: string[];
  /** What was changed so that the scene can be opened. */
  mends: Mend[];
}

/** Thrown for what is no scene at all; the message is one sentence: what, where, what to do. */
export class SceneFileError extends Error {}

/** Steps from version n to n + 1, by n. */
const STEPS: Record<number, (old: Record<string, unknown>) => Record<string, unknown>> = {
  // Keep-outs were stretches only. What is not shaped as it should be is left for the schema to complain about.
  1: (old) => ({ ...old, arrangements: each(old.arrangements, (a) => ({ ...a, gaps: rangesOnly(a.gaps) })) }),
  // Numbers have had bounds since; those beyond are held where the scene is read. Of a seed only 32 bits ever counted:
  // taken alone they draw the same.
  2: (old) => seedsTo32Bits(old) as Record<string, unknown>,
  // A grid had its gaps by chance among its own settings; every kind has them among its gaps now, drawn alike.
  3: (old) => ({ ...old, arrangements: each(old.arrangements, chanceToGaps) }),
  // Members that were left out had a list of their own; they are corrections by hand like any others. Along paths on
  // surfaces lengths were those of the moment. One slot alone stood in the middle.
  4: (old) => ({
    ...old,
    arrangements: each(
      each(each(old.arrangements, withoutToHand), measuredAsItMoves(carriedPaths(old.paths))),
      oneInTheMiddle,
    ),
  }),
  // Overlaps that are meant, keep-outs that give way to others, wavers, and where a bank begins came: none are set.
  5: (old) => old,
  // Pegs stood in one list.
  6: (old) => ({ ...old, arrangements: each(old.arrangements, pegsToBlocks) }),
  // What is empty on purpose in an order was called a rest; surfaces are at rest.
  7: (old) => ({
    ...old,
    arrangements: each(old.arrangements, (a) => ('order' in a ? { ...a, order: restsToPauses(a.order) } : a)),
  }),
  // Masks came: there are none.
  8: (old) => old,
  // Points came to be connected, sides to hang, and strands: there are none.
  9: (old) => old,
  // Bundles came, and stock: there are none.
  10: (old) => old,
  // Lights put in by hand, props that glow and viewpoints came: there are none.
  11: (old) => old,
};

/**
 * Whether patches that were kept beside a scene of an earlier version name the same places in it as it is read now.
 */
export function patchesHold(version: number, patches: readonly Patch[]): boolean {
  if (version < 2) return false;
  const names = (patch: Patch) =>
    (version < 7 && (patch.path.includes('pegs') || holds(patch.value, (v) => Array.isArray(v.pegs)))) ||
    (version < 8 && (patch.value === 'rest' || holds(patch.value, isRest)));
  return !patches.some(names);
}

/** Whether a value is, or has in it, something of that sort. */
const holds = (value: unknown, is: (v: Record<string, unknown>) => boolean): boolean =>
  Array.isArray(value)
    ? value.some((v) => holds(v, is))
    : isRecord(value) && (is(value) || Object.values(value).some((v) => holds(v, is)));

const isRest = (v: Record<string, unknown>): boolean => v.kind === 'rest';

const restsToPauses = (v: unknown): unknown =>
  Array.isArray(v)
    ? v.map(restsToPauses)
    : isRecord(v)
      ? Object.fromEntries(
          Object.entries(v).map(([k, x]) => [k, k === 'kind' && x === 'rest' ? 'pause' : restsToPauses(x)]),
        )
      : v;

const pegsToBlocks = (a: Record<string, unknown>) => {
  if (!Array.isArray(a.pegs)) return a;
  const list: unknown[] = a.pegs;
  const blocks = Array.from({ length: Math.ceil(list.length / 250) }, (_, b) =>
    list.slice(b * 250, b * 250 + 250),
  );
  return { ...a, pegs: blocks };
};

const seedsTo32Bits = (v: unknown): unknown =>
  Array.isArray(v)
    ? v.map(seedsTo32Bits)
    : isRecord(v)
      ? Object.fromEntries(
          Object.entries(v).map(([k, x]) => [
            k,
            k === 'seed' && Number.isInteger(x) ? (x as number) | 0 : seedsTo32Bits(x),
          ]),
        )
      : v;

const chanceToGaps = (a: Record<string, unknown>) => {
  if (!isRecord(a.grid) || !('chance' in a.grid)) return a;
  const { chance, ...grid } = a.grid;
  return { ...a, grid, gaps: { chance } };
};

const withoutToHand = (a: Record<string, unknown>) => {
  if (!Array.isArray(a.without)) return a;
  const { without, ...spans } = a;
  const names = without.filter((name) => typeof name === 'string');
  return { ...spans, hand: Object.fromEntries(names.map((name) => [name, { removed: true }])) };
};

/** Ids of the paths that go with a surface. */
function carriedPaths(paths: unknown): Set<unknown> {
  const carried = (p: unknown): boolean =>
    isRecord(p) &&
    isRecord(p.source) &&
    (typeof p.source.on === 'string' || CARRIED.has(String(p.source.kind)));
  return new Set((Array.isArray(paths) ? paths : []).filter(carried).map((p: { id: unknown }) => p.id));
}
const CARRIED = new Set(['mesh', 'sheet']);

const measuredAsItMoves = (carried: Set<unknown>) => (a: Record<string, unknown>) => {
  const on = Array.isArray(a.paths) && a.paths.some((p) => isRecord(p) && carried.has(p.path));
  return on ? { ...a, spacing: { ...(isRecord(a.spacing) && a.spacing), measured: 'moving' } } : a;
};

const oneInTheMiddle = (a: Record<string, unknown>) =>
  isRecord(a.spacing) && a.spacing.mode === 'count' && a.spacing.count === 1
    ? { ...a, spacing: { ...a.spacing, ends: 'half' } }
    : a;

const rangesOnly = (gaps: unknown) =>
  isRecord(gaps) && 'keepOuts' in gaps
    ? { ...gaps, keepOuts: each(gaps.keepOuts, (k) => ({ kind: 'range', ...k })) }
    : gaps;

const isRecord = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);
const each = (v: unknown, change: (item: Record<string, unknown>) => unknown): unknown =>
  Array.isArray(v) ? v.map((item) => (isRecord(item) ? change(item) : item)) : v;

/**
 * A scene from parsed JSON of any version up to this one.
 * Whatever in it is not as it should be is mended and named.
 * @throws SceneFileError for what is no scene, or of a newer version
 */
export function readScene(json: unknown): ReadScene {
  if (typeof json !== 'object' || json === null || (json as { format?: unknown }).format !== 'clothesline') {
    throw new SceneFileError(
      'This is not a Clothesline scene: its "format" is not "clothesline". Choose another file.',
    );
  }
  let data = json as Record<string, unknown>;
  const version = Number(data.version);
  if (!Number.isInteger(version) || version < 1) {
    throw new SceneFileError(
      'The scene has no readable "version". The file may be damaged; open an earlier copy.',
    );
  }
  if (version > SCENE_VERSION) {
    throw new SceneFileError(
      `This scene was saved by a newer Clothesline (format ${version}; this one reads up to ${SCENE_VERSION}). Update Clothesline, then open it again.`,
    );
  }
  // Mending changes what it is given; documents are never changed.
  data = structuredClone(data);
  for (let v = version; v < SCENE_VERSION; v++) data = { ...STEPS[v](data), version: v + 1 };
  const twice = setTwinsAside(data);
  const found = mend(sceneSchema, data);
  if (!found)
    throw new SceneFileError(
      'The scene cannot be read: hardly anything in it is as it should be. The file may be damaged; open an earlier copy.',
    );
  const aside = [...twice, ...found.aside];
  const scene = { ...found.value, aside: [...found.value.aside, ...aside] };
  raiseNextId(scene);
  const mends = [...twice.map(({ where }): Mend => ({ where, how: 'aside' })), ...found.mends];
  // What was mended is by now as it is kept, so that only what nobody asked for is left.
  return { scene, unknown: unknownFields(data, found.value, ''), mends };
}

const COLLECTIONS = [
  'props',
  'paths',
  'surfaces',
  'arrangements',
  'masks',
  'measures',
  'bundles',
  'lamps',
  'viewpoints',
] as const;

/** Two nodes of one id would shadow each other: the later one is set aside. */
function setTwinsAside(data: Record<string, unknown>): SetAside[] {
  const seen = new Set<unknown>();
  return COLLECTIONS.flatMap((name) => {
    const list = data[name];
    if (!Array.isArray(list)) return [];
    const aside: SetAside[] = [];
    data[name] = list.filter((node, i) => {
      const id = isRecord(node) ? node.id : undefined;
      if (typeof id !== 'string' || !seen.has(id)) return seen.add(id);
      aside.push({ where: `${name}[${i}]`, value: node });
      return false;
    });
    return aside;
  });
}

/** A counter behind the ids would hand one out twice; numbers that are no counter's are nobody's to meet. */
function raiseNextId(scene: Scene): void {
  const numbers = JSON.stringify(COLLECTIONS.map((name) => scene[name])).match(/"id":"[a-z]+(\d+)"/g) ?? [];
  let next = scene.nextId < MOST_ID / 2 ? scene.nextId : 1;
  for (const match of numbers) {
    const n = Number(/\d+/.exec(match)![0]) + 1;
    if (n < MOST_ID / 2) next = Math.max(next, n);
  }
  scene.nextId = next;
}

/** Places in `given` that the schema dropped. */
function unknownFields(given: unknown, kept: unknown, at: string): string[] {
  if (Array.isArray(given)) {
    return given.flatMap((v, i) => unknownFields(v, (kept as unknown[])?.[i], `${at}[${i}]`));
  }
  if (typeof given !== 'object' || given === null) return [];
  return Object.entries(given).flatMap(([key, value]) => {
    const here = at ? `${at}.${key}` : key;
    if (typeof kept !== 'object' || kept === null || !(key in kept)) return value === undefined ? [] : [here];
    return unknownFields(value, (kept as Record<string, unknown>)[key], here);
  });
}
