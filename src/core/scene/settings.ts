import { z } from 'zod';
import { OWN_FIELDS } from '../arrange/base';
import { kindOf, type Arrangement } from '../arrange/registry';
import { valueAt } from './guard';

/** A number of a recipe, or a range of two. */
export interface Setting {
  /** Where it stands in the arrangement. */
  field: readonly string[];
  /** How it is shown: as metres, degrees, a share of a hundred, or as it is. */
  measure: 'length' | 'angle' | 'percent' | 'plain';
  whole: boolean;
  /** The bounds that it is held to. */
  least: number;
  most: number;
  /** What stands there where nothing was said; null where that is worked out. */
  rest: number | readonly [number, number] | null;
  isRange: boolean;
  /** What it is, in plain words; empty where its schema says nothing. */
  said: string;
}

type Schema = z.core.$ZodType;

/** What is inside defaults, options and the like, and what was said and given on the way there. */
function bared(schema: Schema): { inner: Schema; said: string; rest: unknown } {
  let said = '';
  let rest: unknown;
  let inner = schema;
  for (;;) {
    said ||= z.globalRegistry.get(inner)?.description ?? '';
    const { def } = inner._zod as { def: { innerType?: Schema; defaultValue?: unknown; type: string } };
    if (def.type === 'default') rest ??= def.defaultValue;
    if (!def.innerType) return { inner, said, rest };
    inner = def.innerType;
  }
}

const isNumber = (s: Schema): s is z.ZodNumber => s instanceof z.ZodNumber;

/**
 * The numbers and ranges that a recipe has, in the order of its schema. What is one of many (of an order, of keep-outs,
 * of shelves) has no place of its own among them.
 *
 * @example
 * settingsOf(run).find((s) => s.field.join('.') === 'spacing.pitch'); // { measure: 'length', least: 0, … }
 */
export function settingsOf(a: Arrangement): Setting[] {
  const out: Setting[] = [];
  const own = new Set([...OWN_FIELDS, 'onTop', 'hand', 'seed', ...(kindOf(a).places ?? [])]);
  const walk = (shape: Readonly<Record<string, Schema>>, at: string[]) => {
    for (const [key, schema] of Object.entries(shape)) {
      if (at.length === 0 && own.has(key)) continue;
      const field = [...at, key];
      const { inner, said, rest } = bared(schema);
      if (inner instanceof z.ZodObject) walk(inner.shape, field);
      else if (isNumber(inner)) out.push(settingOf(inner, field, said, rest, false));
      else if (inner instanceof z.ZodTuple && inner.def.items.length === 2) {
        const [low, high] = inner.def.items.map((i) => bared(i).inner);
        if (isNumber(low) && isNumber(high)) out.push(settingOf(low, field, said, rest, true));
      }
    }
  };
  walk(kindOf(a).schema.shape, []);
  return out.filter(({ field }) => isThere(a, field));
}

/** Whether an arrangement has a number there, or a range, or one that is worked out. */
function isThere(a: Arrangement, field: readonly string[]): boolean {
  const value = valueAt(a, field);
  return value === null || typeof value === 'number' || Array.isArray(value);
}

function settingOf(
  number: z.ZodNumber,
  field: string[],
  said: string,
  rest: unknown,
  isRange: boolean,
): Setting {
  const measure = z.globalRegistry.get(number)?.measure as Setting['measure'] | undefined;
  return {
    field,
    measure: field.at(-1)!.endsWith('Deg') ? 'angle' : (measure ?? 'plain'),
    whole: number.isInt,
    least: number.minValue ?? -Infinity,
    most: number.maxValue ?? Infinity,
    rest: (rest as Setting['rest'] | undefined) ?? null,
    isRange,
    said,
  };
}
