/** What all of several things have in common; null where they differ, so that no choice of a field is marked. */
export function alike<T, V extends string | boolean>(list: readonly T[], of: (one: T) => V): V | null {
  const first = of(list[0]);
  return list.every((one) => of(one) === first) ? first : null;
}
