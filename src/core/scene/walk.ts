import type { z } from 'zod';

/** Walking down a schema beside a value, so that a small change can be checked without reading the whole. */

type Schema = z.ZodType;

/** What of a schema's definition the walk reads. */
interface Definition {
  type: string;
  innerType?: Schema;
  shape?: Record<string, Schema>;
  element?: Schema;
  items?: Schema[];
  valueType?: Schema;
  options?: Schema[];
  discriminator?: string;
  getter?: () => Schema;
  checks?: { _zod: { def: { check: string; maximum?: number } } }[];
}

const definition = (schema: Schema): Definition => (schema as unknown as { def: Definition }).def;

const WRAPS = new Set(['default', 'optional', 'nullable', 'prefault']);

/** A schema without what only says that a value may be missing. */
function plain(schema: Schema): Schema {
  const d = definition(schema);
  if (WRAPS.has(d.type)) return plain(d.innerType!);
  return d.type === 'lazy' ? plain(d.getter!()) : schema;
}

/** The schema of a value inside: defaults, optional and nullable ones opened, of several the one that the value names. */
function opened(schema: Schema, value: unknown): Schema {
  const inner = plain(schema);
  const d = definition(inner);
  if (d.type === 'union' && d.discriminator) {
    const said = (value as Record<string, unknown> | null)?.[d.discriminator];
    const option = d.options!.find((o) => {
      const field = definition(opened(o, value)).shape?.[d.discriminator!];
      return field?.safeParse(said).success;
    });
    return option ? opened(option, value) : inner;
  }
  return inner;
}

export interface Step {
  /** What a value at the end of the path must be; undefined where the schema knows no such place. */
  schema: Schema | undefined;
  value: unknown;
  /** Where that value is: the end of the path, or a thing around it that has to be looked at whole. */
  path: readonly PropertyKey[];
  /** The first list on the way that is longer than it may be: where, and how long it may be. */
  beyond?: { path: PropertyKey[]; most: number };
}

/** Follows `path` down a schema and a value together. */
export function walk(schema: Schema, value: unknown, path: readonly PropertyKey[]): Step {
  let at: Schema | undefined = schema;
  let beyond: Step['beyond'];
  for (const [i, key] of path.entries()) {
    if (!at) return { schema: undefined, value: undefined, path, beyond };
    const inner = opened(at, value);
    // What it is changes with this word, or is unknown: then it is looked at whole.
    const said: string | undefined = definition(plain(at)).discriminator;
    if (said !== undefined && (definition(inner).type === 'union' || key === said))
      return { schema: at, value, path: path.slice(0, i), beyond };
    const d = definition(inner);
    if (d.type === 'array' && Array.isArray(value)) {
      const most = d.checks?.find((c) => c._zod.def.check === 'max_length')?._zod.def.maximum;
      if (most !== undefined && value.length > most) beyond ??= { path: path.slice(0, i), most };
      if (key === 'length') return { schema: undefined, value: undefined, path, beyond };
    }
    at =
      d.type === 'object'
        ? d.shape![String(key)]
        : d.type === 'array'
          ? d.element
          : d.type === 'tuple'
            ? d.items![Number(key)]
            : d.type === 'record'
              ? d.valueType
              : undefined;
    value = (value as Record<PropertyKey, unknown> | null | undefined)?.[key];
  }
  return { schema: at, value, path, beyond };
}
