import { enablePatches, produceWithPatches } from 'immer';
import { applyPatches, type Patch } from '@/core/scene/patch';
import { checkChange, valueAt, type Held, type Refusal } from '@/core/scene/guard';
import { followingRecipes } from '@/core/scene/recipes';
import type { Scene } from '@/core/scene/schema';

enablePatches();

/**
 * A change to the scene. The interface, the tests and the undo list use the same ones.
 * `apply` changes a draft and may return the id of what it made. Or `patches` says what changes and where: for lists so
 * long that a draft of them takes longer than the change. `name` says what was done, for the undo list.
 */
export type Command<A> = DraftCommand<A> | PatchCommand<A>;

interface DraftCommand<A> {
  apply(scene: Scene, args: A): string | void;
  name(before: Scene, after: Scene, args: A): string;
}

interface PatchCommand<A> {
  /** The changes; with the id of what they make, where they make something. */
  patches(scene: Scene, args: A): Patch[] | { made: string; patches: Patch[] };
  name(before: Scene, after: Scene, args: A): string;
}

/** Gives a command its argument type. */
export const command = <A>(c: DraftCommand<A>): DraftCommand<A> => c;

/** Gives a command that says its patches its argument type. */
export const patching = <A>(c: PatchCommand<A>): PatchCommand<A> => c;

/** One step of the undo list. */
export interface HistoryEntry {
  name: string;
  patches: Patch[];
  inverse: Patch[];
}

export interface Applied {
  scene: Scene;
  entry: HistoryEntry | null;
  /** Id of the node that was made, if one was. */
  made: string | undefined;
  /** Numbers that were brought within their bounds. */
  held: Held[];
  /** Why nothing was changed, where the change would have made a scene that cannot be opened. */
  refused: Refusal | null;
}

/** Held numbers as patches. */
export const replacing = (held: readonly Held[]): Patch[] =>
  held.map(({ path, held: value }) => ({ op: 'replace', path: path as Patch['path'], value }));

/**
 * Patches with their numbers as they were held, without those that put what is there. Numbers that stand deeper in what
 * a patch puts are put after it.
 */
function withHeld(scene: Scene, own: readonly Patch[], held: ReadonlyMap<string, Held>): Patch[] {
  const deeper = new Map(held);
  const patches = own.map((patch) => {
    const place = patch.path.join('/');
    const one = held.get(place);
    deeper.delete(place);
    return one ? { ...patch, value: one.held } : patch;
  });
  const changing = patches.filter(
    ({ op, path, value }) => op !== 'replace' || valueAt(scene, path) !== value,
  );
  return [...changing, ...replacing([...deeper.values()])];
}

/** A number is rounded, then held, and is within its bounds by then. */
const MOST_ROUNDS = 4;

/** Runs a command on a scene. The entry is null where nothing changed. What comes of it is a scene that the schema takes. */
export function applyCommand<A>(scene: Scene, c: Command<A>, args: A): Applied {
  let made: string | undefined;
  const held = new Map<string, Held>();
  const run = (): [Scene, Patch[], Patch[]] => {
    if ('patches' in c) {
      const said = c.patches(scene, args);
      if (!Array.isArray(said)) made = said.made;
      const own = Array.isArray(said) ? said : said.patches;
      const patches = withHeld(scene, own, held);
      const { value, inverse } = applyPatches(scene, patches);
      return [value, patches, inverse];
    }
    return produceWithPatches(scene, (draft) => {
      made = c.apply(draft as Scene, args) ?? undefined;
      for (const { path, held: value } of held.values()) {
        const parent = valueAt(draft, path.slice(0, -1)) as Record<PropertyKey, unknown>;
        parent[path.at(-1)!] = value;
      }
    }) as [Scene, Patch[], Patch[]];
  };
  let [next, patches, inverse] = run();
  // What was held to be whole may still be beyond a bound.
  for (let round = 0; ; round++) {
    const { held: more, refused } = checkChange(next, patches);
    if (refused) return { scene, entry: null, made: undefined, held: [], refused };
    if (more.length === 0) break;
    if (round === MOST_ROUNDS) {
      const unholdable: Refusal = { kind: 'not-allowed', path: more[0].path };
      return { scene, entry: null, made: undefined, held: [], refused: unholdable };
    }
    for (const one of more) {
      const place = one.path.join('/');
      // What was typed is told, not what it was held to in between.
      held.set(place, { ...one, given: held.get(place)?.given ?? one.given });
    }
    [next, patches, inverse] = run();
  }
  const along = followingRecipes(next, patches);
  if (along.length > 0) {
    const { value, inverse: back } = applyPatches(next, along);
    [next, patches, inverse] = [value, [...patches, ...along], [...back, ...inverse]];
  }
  const told = [...held.values()];
  if (patches.length === 0) return { scene, entry: null, made, held: told, refused: null };
  const entry = { name: c.name(scene, next, args), patches, inverse };
  return { scene: next, entry, made, held: told, refused: null };
}

/**
 * Two steps of one gesture as one. Values that were set again and again keep their first "before" and their last
 * "after", so that a long drag does not grow the list.
 */
export function mergeEntries(first: HistoryEntry, second: HistoryEntry, name: string): HistoryEntry {
  const plain = [...first.patches, ...second.patches, ...first.inverse, ...second.inverse].every(
    (p) => p.op === 'replace',
  );
  if (!plain) {
    return {
      name,
      patches: [...first.patches, ...second.patches],
      inverse: [...second.inverse, ...first.inverse],
    };
  }
  const key = (p: Patch) => p.path.join('/');
  const patches = new Map(first.patches.map((p) => [key(p), p]));
  for (const p of second.patches) patches.set(key(p), p);
  const inverse = new Map(second.inverse.map((p) => [key(p), p]));
  for (const p of first.inverse) inverse.set(key(p), p);
  const nested = (keys: string[]) => keys.some((a) => keys.some((b) => a !== b && b.startsWith(`${a}/`)));
  if (nested([...patches.keys()]) || nested([...inverse.keys()])) {
    return {
      name,
      patches: [...first.patches, ...second.patches],
      inverse: [...second.inverse, ...first.inverse],
    };
  }
  return { name, patches: [...patches.values()], inverse: [...inverse.values()] };
}
