import { readFileSync } from 'node:fs';
import { exampleScene } from '../testing/scene';
import { formatDocument, jsonSchema } from './describe';

test('the documents on disk are those that the schema gives', () => {
  expect(readFileSync('docs/scene-format.md', 'utf8')).toBe(formatDocument());
  expect(JSON.parse(readFileSync('docs/scene.schema.json', 'utf8'))).toEqual(jsonSchema());
});

test('every field of a scene is described', () => {
  const text = formatDocument();
  const names = (value: unknown): string[] =>
    Array.isArray(value)
      ? value.flatMap(names)
      : typeof value === 'object' && value !== null
        ? Object.entries(value).flatMap(([k, v]) => [k, ...names(v)])
        : [];
  for (const name of new Set(
    names({ ...exampleScene(), arrangements: exampleScene().arrangements.map((a) => ({ ...a, hand: {} })) }),
  )) {
    expect(text).toContain(`${name}\``);
  }
});
