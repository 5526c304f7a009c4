import { OWN_FIELDS } from '../arrange/base';
import { kindOf, type Arrangement } from '../arrange/registry';
import type { Patch } from './patch';
import type { Scene } from './schema';

/** Arrangements that share a recipe: what is changed in one is changed in all. Places, seed and hand are each one's own. */

/** The fields of an arrangement that a shared recipe holds. */
const sharedFields = (a: Arrangement): string[] => {
  const own = new Set<string>([...OWN_FIELDS, 'hand', ...(kindOf(a).places ?? [])]);
  return Object.keys(kindOf(a).schema.shape).filter((field) => !own.has(field));
};

type Fields = Record<string, unknown>;

/** A block of settings as another one takes it: stretches of a path that are kept free stay with their path. */
function takenBy(field: string, value: unknown, own: unknown): unknown {
  if (field !== 'gaps') return value;
  type Gaps = { keepOuts: { kind: string }[] };
  const ranges = (own as Gaps).keepOuts.filter((k) => k.kind === 'range');
  const others = (value as Gaps).keepOuts.filter((k) => k.kind !== 'range');
  const [before, after] = [(own as Gaps).keepOuts, [...ranges, ...others]];
  const same = before.length === after.length && before.every((k, i) => k === after[i]);
  return { ...(value as Gaps), keepOuts: same ? before : after };
}

/** What makes one arrangement take the recipe of another of its kind. */
export function takeRecipe(
  scene: Scene,
  from: Arrangement,
  to: Arrangement,
  fields = sharedFields(from),
): Patch[] {
  const at = scene.arrangements.indexOf(to);
  const [given, own] = [from as unknown as Fields, to as unknown as Fields];
  return fields.flatMap((field): Patch[] => {
    const path = ['arrangements', at, field];
    if (!(field in given)) return field in own ? [{ op: 'remove', path }] : [];
    const value = takenBy(field, given[field], own[field]);
    if (JSON.stringify(value) === JSON.stringify(own[field])) return [];
    return [{ op: field in own ? 'replace' : 'add', path, value }];
  });
}

/** What follows in others from changes of arrangements that share their recipe with them. @param scene after the changes */
export function followingRecipes(scene: Scene, patches: readonly Patch[]): Patch[] {
  const touched = new Map<number, Set<string>>();
  for (const { path } of patches) {
    if (path[0] !== 'arrangements' || path.length < 3) continue;
    const a = scene.arrangements[Number(path[1])];
    if (a?.recipe === undefined) continue;
    const fields = touched.get(Number(path[1]));
    if (fields) fields.add(String(path[2]));
    else touched.set(Number(path[1]), new Set([String(path[2])]));
  }
  const done = new Set<string>();
  return [...touched].flatMap(([at, fields]): Patch[] => {
    const a = scene.arrangements[at];
    const shared = sharedFields(a).filter((f) => fields.has(f));
    // One that a change has named itself goes by what that says.
    if (shared.length === 0 || done.has(`${a.kind} ${a.recipe}`)) return [];
    done.add(`${a.kind} ${a.recipe}`);
    return scene.arrangements.flatMap((other, i) =>
      i === at || other.recipe !== a.recipe || other.kind !== a.kind
        ? []
        : takeRecipe(scene, a, other, shared),
    );
  });
}
