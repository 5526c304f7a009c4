import type { z } from 'zod';
import { heldNumber, valueAt } from './guard';

/** What was changed in a scene so that it can be opened. */
export interface Mend {
  /** E.g. "arrangements[2].spacing.rows.count". */
  where: string;
  how: 'held' | 'default' | 'aside';
  /** For "held". */
  given?: number;
  held?: number;
}

/** Something that could not be kept where it stood; it goes out with the file again. */
export interface SetAside {
  where: string;
  value: unknown;
}

/** What a look at the whole has found so far. */
interface Work {
  mends: Mend[];
  /** The ones of `mends` that were held, by where. */
  held: Map<string, Mend>;
  aside: SetAside[];
  /** Entries of lists that are to be set aside, by their place in each. */
  out: Map<unknown[], Map<number, string>>;
}

/** More rounds than any scene needs: each one mends all that a look at the whole finds. */
const ROUNDS = 40;

/**
 * A value made to fit its schema, with as little changed as can be: numbers are brought within their bounds, whatever
 * else does not fit takes its default, and an entry of a list that cannot be without it is set aside.
 * @param data changed in place
 * @returns null where no mending helps
 */
export function mend<T>(
  schema: z.ZodType<T>,
  data: unknown,
): { value: T; mends: Mend[]; aside: SetAside[] } | null {
  const work: Work = { mends: [], held: new Map(), aside: [], out: new Map() };
  const { mends, aside, out } = work;
  for (let round = 0; round < ROUNDS; round++) {
    const result = schema.safeParse(data);
    if (result.success) return { value: result.data, mends, aside };
    out.clear();
    let helped = false;
    for (const issue of result.error.issues) helped = mendOne(data, issue, work) || helped;
    for (const [list, places] of out) {
      for (const [index, where] of places) {
        aside.push({ where, value: list[index] });
        mends.push({ where, how: 'aside' });
      }
      const rest = list.filter((_, index) => !places.has(index));
      list.length = 0;
      for (const one of rest) list.push(one);
    }
    if (!helped) return null;
  }
  return null;
}

function leave(out: Work['out'], list: unknown[], index: number, where: string): void {
  const places = out.get(list) ?? new Map<number, string>();
  out.set(list, places.set(index, where));
}

function mendOne(data: unknown, issue: z.core.$ZodIssue, work: Work): boolean {
  const { mends, held, out } = work;
  const { path } = issue;
  const given = valueAt(data, path);
  const parent = valueAt(data, path.slice(0, -1)) as Record<PropertyKey, unknown> | undefined;
  const key = path.at(-1);
  const where = placeOf(path);
  if (parent === undefined || parent === null || key === undefined) return false;
  const number = heldNumber(issue, given);
  if (number) {
    parent[key] = number.held;
    // A bound after a bound: the first one says what was found.
    const have = held.get(where);
    if (have) have.held = number.held;
    else {
      const made: Mend = { where, how: 'held', ...number };
      held.set(where, made);
      mends.push(made);
    }
    return true;
  }
  if (issue.code === 'too_big' && issue.origin === 'array' && Array.isArray(given)) {
    for (let index = Number(issue.maximum); index < given.length; index++)
      leave(out, given, index, `${where}[${index}]`);
    return true;
  }
  if (issue.code === 'too_big' && typeof given === 'string') {
    parent[key] = given.slice(0, Number(issue.maximum));
    mends.push({ where, how: 'default' });
    return true;
  }
  // Without its kind or its id nothing is known of a thing: it is kept whole, as it was found.
  const nameless = issue.code === 'invalid_union' || key === 'id' || key === 'kind';
  // Inside a list of numbers (x, y, z) a single one has no default; the whole list has.
  if (given !== undefined && !Array.isArray(parent) && !nameless) {
    takeOut(parent, key, where, work);
    return true;
  }
  // What has nothing to fall back to takes the thing around it along, as little as can be.
  if (path.length > 1 || nameless) return takeAlong(data, path, given === undefined || nameless, work);
  if (path.length !== 1 || issue.code !== 'invalid_type' || !(issue.expected in PLAIN)) return false;
  parent[key] = structuredClone(PLAIN[issue.expected as keyof typeof PLAIN]);
  mends.push({ where, how: 'default' });
  return true;
}

/** @param around the thing around the place is meant, not the place itself */
function takeAlong(data: unknown, path: readonly PropertyKey[], around: boolean, work: Work): boolean {
  const at = around ? path.slice(0, -1) : path;
  const key = at.at(-1);
  const holder = valueAt(data, at.slice(0, -1)) as Record<PropertyKey, unknown> | undefined;
  if (key === undefined || holder === undefined || holder === null) return false;
  const where = placeOf(at);
  // A number within x, y, z cannot be left out alone.
  if (Array.isArray(holder) && typeof holder[0] === 'number') return takeAlong(data, at, true, work);
  if (Array.isArray(holder)) leave(work.out, holder, Number(key), where);
  else takeOut(holder, key, where, work);
  return true;
}

/** Leaves a field to its default; what it held is kept where that was more than a word or a number. */
function takeOut(
  holder: Record<PropertyKey, unknown>,
  key: PropertyKey,
  where: string,
  { mends, aside }: Work,
): void {
  const value = holder[key];
  if (typeof value === 'object' && value !== null && Object.keys(value).length > 0)
    aside.push({ where, value });
  delete holder[key];
  mends.push({ where, how: 'default' });
}

/** What the top level of a scene falls back to where it has nothing else. */
const PLAIN = { array: [] as unknown[], string: 'Untitled scene', number: 1, int: 1 };

/** A place in a document as people read it: "arrangements[2].spacing.pitch". */
const placeOf = (path: readonly PropertyKey[]): string =>
  path.map((p, i) => (typeof p === 'number' ? `[${p}]` : i === 0 ? String(p) : `.${String(p)}`)).join('');
