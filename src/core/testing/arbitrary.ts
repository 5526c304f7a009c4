import fc, { type Arbitrary } from 'fast-check';
import type { z } from 'zod';

/** Random values that a schema takes. */

interface Definition {
  type: string;
  innerType?: z.ZodType;
  shape?: Record<string, z.ZodType>;
  element?: z.ZodType;
  items?: z.ZodType[];
  valueType?: z.ZodType;
  getter?: () => z.ZodType;
  options?: z.ZodType[];
  entries?: Record<string, string>;
  values?: unknown[];
  checks?: { _zod: { def: { check: string; maximum?: number; minimum?: number; pattern?: RegExp } } }[];
}

/** A few: what is made from a thousand columns and as many rows proves nothing more, and takes seconds. */
const MOST_COUNT = 12;
const MOST_ITEMS = 3;
/** Things inside things of their own kind. */
const MOST_DEEP = 1;

/**
 * @param texts what strings are drawn from: the ids that a scene has, and some that it has not
 * @param given values for the fields of that name, wherever they are
 */
export function arbitraryOf(
  schema: z.ZodType,
  texts: readonly string[],
  given: Record<string, Arbitrary<unknown>> = {},
  depth = 0,
): Arbitrary<unknown> {
  const { def } = schema as unknown as { def: Definition };
  const inside = (s: z.ZodType) => arbitraryOf(s, texts, given, depth);
  const check = (name: string) => def.checks?.map((c) => c._zod.def).find((c) => c.check === name);
  switch (def.type) {
    case 'object':
      return fc.record(
        Object.fromEntries(Object.entries(def.shape!).map(([key, s]) => [key, given[key] ?? inside(s)])),
      );
    case 'array': {
      const least = check('min_length')?.minimum ?? 0;
      return fc.array(inside(def.element!), {
        minLength: least,
        maxLength: depth > MOST_DEEP ? least : Math.max(least, MOST_ITEMS),
      });
    }
    case 'lazy':
      return fc.constant(null).chain(() => arbitraryOf(def.getter!(), texts, given, depth + 1));
    case 'tuple':
      return fc.tuple(...def.items!.map(inside));
    case 'record':
      return fc.dictionary(fc.constantFrom('1', '2', '3', '1:0', '2:1'), inside(def.valueType!), {
        maxKeys: 2,
      });
    case 'union':
      return fc.oneof(...def.options!.map(inside));
    case 'enum':
      return fc.constantFrom(...Object.values(def.entries!));
    case 'literal':
      return fc.constantFrom(...def.values!);
    case 'nullable':
      return fc.option(inside(def.innerType!), { nil: null });
    case 'optional':
      return fc.option(inside(def.innerType!), { nil: undefined });
    case 'default':
    case 'prefault':
      return inside(def.innerType!);
    case 'boolean':
      return fc.boolean();
    case 'number':
      return numberOf(schema);
    case 'string': {
      const pattern = check('string_format')?.pattern?.source ?? '';
      if (pattern.includes('{64}')) return fc.constant('a'.repeat(64));
      return pattern.includes('#') ? fc.constant('#d8cdb6') : fc.constantFrom(...texts);
    }
    case 'unknown':
      return fc.constant(null);
    default:
      throw new Error(`No random values for a schema of type ${def.type}.`);
  }
}

/** Mostly what people type, now and then the ends of what the schema takes, and what is next to nothing. */
function numberOf(schema: z.ZodType): Arbitrary<number> {
  const { minValue, maxValue, isInt } = schema as unknown as {
    minValue: number | null;
    maxValue: number | null;
    isInt: boolean;
  };
  const [least, most] = [minValue ?? -1e6, maxValue ?? 1e6];
  const held = (v: number) => Math.min(most, Math.max(least, v));
  if (isInt)
    return fc.integer({ min: Math.ceil(least), max: Math.min(most, Math.max(least, 0) + MOST_COUNT) });
  return fc.oneof(
    { weight: 12, arbitrary: fc.integer({ min: -40, max: 120 }).map((v) => held(v / 10)) },
    { weight: 3, arbitrary: fc.constantFrom(0, 1, 45, 90, 180, 360).map(held) },
    { weight: 1, arbitrary: fc.constantFrom(least, most, 1e-9, -1e-9, 5e-324, 1e4).map(held) },
  );
}
