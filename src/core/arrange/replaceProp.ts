/**
 * A value in which one prop stands for another wherever it is named: in orders, weights, pegs, swaps by hand, and what
 * some props have of their own. Parts that do not name it are the same objects.
 */
export function withPropReplaced<T>(value: T, prop: string, by: string): T {
  return replaced(value, '', prop, by) as T;
}

/** Lists of ids of props, and records by them. */
const LISTS = new Set(['rigid']);
const RECORDS = new Set(['perProp', 'onShelf']);

function replaced(value: unknown, field: string, prop: string, by: string): unknown {
  if (Array.isArray(value)) {
    if (LISTS.has(field)) return value.includes(prop) ? withId(value as string[], prop, by) : value;
    const made = value.map((v) => replaced(v, '', prop, by));
    return made.some((v, i) => v !== value[i]) ? weightsJoined(made, by) : value;
  }
  if (typeof value !== 'object' || value === null) return field === 'prop' && value === prop ? by : value;
  const entries = Object.entries(value);
  const isBy = RECORDS.has(field);
  // What the other one has of its own already stays its own.
  const made = entries.flatMap(([k, v]): [string, unknown][] =>
    isBy && k === prop ? (by in value ? [] : [[by, v]]) : [[k, replaced(v, k, prop, by)]],
  );
  const same =
    made.length === entries.length && made.every(([k, v], i) => k === entries[i][0] && v === entries[i][1]);
  return same ? value : Object.fromEntries(made);
}

interface Weight {
  prop: string;
  weight: number;
}
const isWeightOf = (v: unknown, prop: string): v is Weight =>
  typeof v === 'object' && v !== null && 'weight' in v && !('id' in v) && (v as Weight).prop === prop;

/** Of a list by weight: what has come to be there twice is there once, with both weights. */
function weightsJoined(list: unknown[], prop: string): unknown[] {
  const same = list.filter((v) => isWeightOf(v, prop));
  if (same.length < 2) return list;
  const joined = {
    ...same[0],
    weight: Math.min(
      1e6,
      same.reduce((sum, v) => sum + v.weight, 0),
    ),
  };
  return list.flatMap((v) => (v === same[0] ? [joined] : isWeightOf(v, prop) ? [] : [v]));
}

const withId = (list: string[], prop: string, by: string): string[] => [
  ...new Set(list.map((id) => (id === prop ? by : id))),
];
