const known = new WeakMap<readonly unknown[], { was: readonly unknown[]; at: number[] }>();

/**
 * Where a list holds other objects than one of the same length did before, rising. Lists of a document are never
 * written over, so that several may ask for one loop over a hundred thousand.
 */
export function differing(list: readonly unknown[], was: readonly unknown[]): readonly number[] {
  const have = known.get(list);
  if (have?.was === was) return have.at;
  const at: number[] = [];
  for (let i = 0; i < list.length; i++) if (list[i] !== was[i]) at.push(i);
  known.set(list, { was, at });
  return at;
}
