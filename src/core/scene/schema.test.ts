import type { z } from 'zod';
import { sceneSchema } from './schema';

/** Every schema inside a schema, with its path. */
function* inside(
  schema: z.ZodType,
  path: string,
  seen = new Set<z.ZodType>(),
): Generator<[string, z.ZodType]> {
  if (seen.has(schema)) return;
  seen.add(schema);
  yield [path, schema];
  const d = (schema as unknown as { def: Record<string, unknown> }).def;
  const next: [string, unknown][] = [
    [path, d.innerType],
    [`${path}[]`, d.element],
    [`${path}{}`, d.valueType],
    ...((d.items ?? d.options ?? []) as z.ZodType[]).map((s, i): [string, unknown] => [`${path}|${i}`, s]),
    ...Object.entries((d.shape ?? {}) as object).map(([k, s]): [string, unknown] => [`${path}.${k}`, s]),
    [path, (d.getter as (() => unknown) | undefined)?.()],
  ];
  for (const [to, s] of next) if (s) yield* inside(s as z.ZodType, to, seen);
}

test('every number of a document has a least and a most', () => {
  const numbers = [...inside(sceneSchema, '')].filter(
    ([, s]) => (s as unknown as { def: { type: string } }).def.type === 'number',
  ) as [string, z.ZodNumber][];
  expect(numbers.length).toBeGreaterThan(50);
  const open = numbers.filter(
    ([, { minValue, maxValue }]) => !Number.isFinite(minValue ?? NaN) || !Number.isFinite(maxValue ?? NaN),
  );
  expect(open.map(([path]) => path)).toEqual([]);
});
