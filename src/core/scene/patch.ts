/** Changes of a document as data: where, and what is there afterwards. The form is Immer's. */

export interface Patch {
  op: 'replace' | 'add' | 'remove';
  path: (string | number)[];
  value?: unknown;
}

type Holder = Record<string | number, unknown> & unknown[];

/**
 * A value with patches applied in their order. What they do not name stays the same object; lists and objects on the
 * way are copied once, so that the cost goes by the patches and the lists that they touch, whatever is in those.
 * In a list "add" makes room at its place, "remove" closes up, and "length" may be replaced.
 * @returns the value, and the patches that lead back
 * @throws Error for a path that leads nowhere
 */
export function applyPatches<T>(root: T, patches: readonly Patch[]): { value: T; inverse: Patch[] } {
  const copies = new Set<unknown>();
  const copied = <V>(value: V): V => {
    if (copies.has(value)) return value;
    if (typeof value !== 'object' || value === null)
      throw new Error('A change names a place that is not there.');
    const copy = (Array.isArray(value) ? value.slice() : { ...value }) as V;
    copies.add(copy);
    return copy;
  };
  const top = { root } as { root: T };
  const inverse: Patch[] = [];
  for (const { op, path, value } of patches) {
    let holder = top as unknown as Holder;
    let key: string | number = 'root';
    for (const next of path) {
      holder = (holder[key as number] = copied(holder[key as number])) as Holder;
      key = next;
    }
    inverse.unshift(...apply(holder, key, op, value, path));
  }
  return { value: top.root, inverse };
}

/** Applies one patch to its holder. @returns what leads back */
function apply(
  holder: Holder,
  key: string | number,
  op: Patch['op'],
  value: unknown,
  path: Patch['path'],
): Patch[] {
  const was = holder[key as number];
  if (Array.isArray(holder)) {
    if (key === 'length') {
      const cut = holder.splice(Number(value));
      const at = path.slice(0, -1);
      return cut.map((v, i) => ({ op: 'add', path: [...at, Number(value) + i], value: v }));
    }
    if (op === 'add') {
      holder.splice(Number(key), 0, value);
      return [{ op: 'remove', path }];
    }
    if (op === 'remove') {
      holder.splice(Number(key), 1);
      return [{ op: 'add', path, value: was }];
    }
  }
  const had = Object.hasOwn(holder, key);
  if (op === 'remove') delete holder[key as number];
  else holder[key as number] = value;
  return had ? [{ op: op === 'remove' ? 'add' : 'replace', path, value: was }] : [{ op: 'remove', path }];
}

const isPlain = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);

/**
 * What leads from one value to another, going down only where something is another object. Of a list that has lost
 * some of its own these are named one by one, so that the patches of a long list are short.
 */
export function patchesBetween(before: unknown, after: unknown, path: Patch['path'] = []): Patch[] {
  if (before === after) return [];
  if (isPlain(before) && isPlain(after))
    return [...new Set([...Object.keys(before), ...Object.keys(after)])].flatMap((key): Patch[] => {
      const at = [...path, key];
      if (!Object.hasOwn(after, key)) return [{ op: 'remove', path: at }];
      if (!Object.hasOwn(before, key)) return [{ op: 'add', path: at, value: after[key] }];
      return patchesBetween(before[key], after[key], at);
    });
  if (Array.isArray(before) && Array.isArray(after)) {
    if (before.length === after.length)
      return before.flatMap((v, i) => patchesBetween(v, after[i], [...path, i]));
    const gone: number[] = [];
    let kept = 0;
    before.forEach((v, i) => (v === after[kept] ? kept++ : gone.push(i)));
    // From the end on, so that the places of the others hold.
    if (kept === after.length) return gone.toReversed().map((i) => ({ op: 'remove', path: [...path, i] }));
  }
  return [{ op: 'replace', path, value: after }];
}
