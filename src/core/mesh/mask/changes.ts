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
