/**
 * At which places a list of values is another than the list that it was made from: so that what follows from it need not
 * look at all of them.
 */

interface Changes {
  from: Float64Array;
  places: readonly number[];
}

const known = new WeakMap<Float64Array, Changes>();

/** Remembers where `values` may differ from the list that it was made from. @param places none twice */
export const tellChanges = (values: Float64Array, from: Float64Array, places: readonly number[]): void =>
  void known.set(values, { from, places });

/** The places where `values` may differ from `from`; undefined where that is not known. */
export function changesSince(values: Float64Array, from: Float64Array): readonly number[] | undefined {
  const have = known.get(values);
  return have?.from === from ? have.places : undefined;
}

/** Where two lists of the same length differ. */
export function differences(a: Float64Array, b: Float64Array): number[] {
  const out: number[] = [];
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) out.push(i);
  return out;
}
