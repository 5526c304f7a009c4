/** Expressions of links: sums and products of numbers and of what things measure. */

export const MEASURES = ['length', 'count', 'wide', 'long', 'high'] as const;
export type Measure = (typeof MEASURES)[number];

/** What an expression takes from a node. */
export interface Reference {
  id: string;
  measure: Measure;
}

type Token = { op: string } | { value: number } | { of: Reference };

const isMeasure = (name: string): name is Measure => (MEASURES as readonly string[]).includes(name);

/** The parts of an expression; null where it is none. */
function tokens(text: string): Token[] | null {
  const out: Token[] = [];
  let rest = text.trim();
  while (rest) {
    const m = /^((?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?)|^([+\-*/()])|^\[([^\].]+)\.([a-z]+)\]/i.exec(rest);
    if (!m) return null;
    if (m[1]) out.push({ value: Number(m[1]) });
    else if (m[2]) out.push({ op: m[2] });
    else if (isMeasure(m[4])) out.push({ of: { id: m[3], measure: m[4] } });
    else return null;
    rest = rest.slice(m[0].length).trimStart();
  }
  return out;
}

/** What an expression takes its number from; empty where it cannot be read. */
export const referencesIn = (text: string): Reference[] =>
  (tokens(text) ?? []).flatMap((t) => ('of' in t ? [t.of] : []));

/**
 * What an expression comes to. @param measure undefined: there is no such thing
 * @returns null where it cannot be read, names what is not there, or comes to no number
 */
export function valueOf(text: string, measure: (of: Reference) => number | undefined): number | null {
  const read = tokens(text);
  if (!read) return null;
  const list: readonly Token[] = read;
  let at = 0;
  const isOp = (...ops: string[]) => {
    const t = list[at];
    return t !== undefined && 'op' in t && ops.includes(t.op);
  };
  const atom = (): number => {
    const t = list[at++];
    if (!t) return NaN;
    if ('value' in t) return t.value;
    if ('of' in t) return measure(t.of) ?? NaN;
    if (t.op === '-') return -atom();
    if (t.op !== '(') return NaN;
    const inside = sum();
    return isOp(')') ? (at++, inside) : NaN;
  };
  const product = (): number => {
    let v = atom();
    while (isOp('*', '/')) {
      const by = (list[at++] as { op: string }).op;
      const w = atom();
      v = by === '*' ? v * w : v / w;
    }
    return v;
  };
  function sum(): number {
    let v = product();
    while (isOp('+', '-')) {
      const by = (list[at++] as { op: string }).op;
      const w = product();
      v = by === '+' ? v + w : v - w;
    }
    return v;
  }
  const v = sum();
  return at === list.length && Number.isFinite(v) ? v : null;
}
