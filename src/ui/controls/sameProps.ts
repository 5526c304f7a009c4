import { isValidElement } from 'react';

/**
 * Whether a component is given what it was given before, for `memo`: what stands within it counts as the same where it
 * is of the same kind and is itself given the same. What changes by itself within it changes as ever.
 */
export function sameProps(before: object, after: object): boolean {
  const keys = Object.keys(before) as (keyof typeof before)[];
  return (
    keys.length === Object.keys(after).length &&
    keys.every((key) => isSame(before[key], after[key] as unknown))
  );
}

function isSame(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (Array.isArray(a) && Array.isArray(b))
    return a.length === b.length && a.every((v, i) => isSame(v, b[i]));
  if (!isValidElement<object>(a) || !isValidElement<object>(b)) return false;
  return a.type === b.type && a.key === b.key && sameProps(a.props, b.props);
}
