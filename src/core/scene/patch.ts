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
