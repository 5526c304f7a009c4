/** Places that were found, kept for the next time: what is set after them does not look for them again. */

interface Found {
  of: readonly object[];
  key: string;
  value: unknown;
}

/** As many as are dragged at about one time. */
const MOST = 8;
const found: Found[] = [];

/**
 * What `make` gives, or gave before of the same objects by the same key.
 * @param of what it is made of, by identity: nothing of it is ever written over @param key all else that it depends on
 */
export function remembered<T>(of: readonly object[], key: string, make: () => T): T {
  const at = found.findIndex(
    (f) => f.key === key && f.of.length === of.length && f.of.every((o, i) => o === of[i]),
  );
  const have = at < 0 ? { of, key, value: make() } : found[at];
  if (at >= 0) found.splice(at, 1);
  found.unshift(have);
  found.length = Math.min(found.length, MOST);
  return have.value as T;
}
