import { z } from 'zod';
import { sceneSchema } from './schema';
import { SCENE_VERSION } from './version';

/** The scene format in words and as a JSON Schema, both made from the one Zod schema. */

interface Node {
  $ref?: string;
  $defs?: Record<string, Node>;
  type?: string | string[];
  const?: unknown;
  enum?: unknown[];
  description?: string;
  default?: unknown;
  properties?: Record<string, Node>;
  required?: string[];
  additionalProperties?: Node | boolean;
  items?: Node | false;
  prefixItems?: Node[];
  oneOf?: Node[];
  anyOf?: Node[];
  minimum?: number;
  maximum?: number;
  exclusiveMinimum?: number;
  maxItems?: number;
  maxLength?: number;
  pattern?: string;
}

/** The scene as a JSON Schema (draft 2020-12) of what a file may hold: fields with a default may be left out. */
export function jsonSchema(): Record<string, unknown> {
  return z.toJSONSchema(sceneSchema, { io: 'input' }) as Record<string, unknown>;
}

function typeOf(n: Node): string {
  if (n.$ref) return 'object';
  if (n.const !== undefined) return `\`${JSON.stringify(n.const)}\``;
  if (n.enum) return n.enum.map((v) => `\`${JSON.stringify(v)}\``).join(', ');
  const options = n.oneOf ?? n.anyOf;
  if (options) return options.map((o) => typeOf(o)).join(' or ');
  if (n.prefixItems) return `[${n.prefixItems.map(typeOf).join(', ')}]`;
  if (n.type === 'array') return `list of ${n.items ? typeOf(n.items) : 'anything'}`;
  if (n.type === 'object') return n.properties ? 'object' : 'object by name';
  return String(n.type ?? 'anything');
}

function limits(n: Node): string {
  const parts: string[] = [];
  const huge = (v: number) => Math.abs(v) >= Number.MAX_SAFE_INTEGER;
  if (n.minimum !== undefined && !huge(n.minimum)) parts.push(`at least ${n.minimum}`);
  if (n.exclusiveMinimum !== undefined) parts.push(`more than ${n.exclusiveMinimum}`);
  if (n.maximum !== undefined && !huge(n.maximum)) parts.push(`at most ${n.maximum}`);
  if (n.maxItems !== undefined) parts.push(`at most ${n.maxItems} of them`);
  if (n.maxLength !== undefined) parts.push(`at most ${n.maxLength} characters`);
  return parts.join(', ');
}

/** Rows of one object's fields, nested ones below their owner with a dotted name. */
function rows(n: Node, at: string, out: string[], defs: Record<string, Node>, within: string[] = []): void {
  if (n.$ref) {
    // What holds itself (a group in an order) is written once.
    const name = n.$ref.split('/').pop()!;
    if (!within.includes(name)) rows(defs[name], at, out, defs, [...within, name]);
    return;
  }
  for (const option of n.oneOf ?? n.anyOf ?? []) rows(option, at, out, defs, within);
  if (n.items) rows(n.items, `${at}[]`, out, defs, within);
  if (typeof n.additionalProperties === 'object') rows(n.additionalProperties, `${at}.*`, out, defs, within);
  for (const [name, child] of Object.entries(n.properties ?? {})) {
    const here = at ? `${at}.${name}` : name;
    const fallback =
      child.default === undefined
        ? n.required?.includes(name)
          ? 'needed'
          : 'may be left out'
        : `\`${JSON.stringify(child.default)}\``;
    const about = [child.description, limits(child)].filter(Boolean).join('; ');
    const row =
      `| \`${here}\` | ${typeOf(child)} | ${fallback.length > 60 ? 'the defaults below' : fallback} | ${about} |`.replaceAll(
        '[]|',
        '[] |',
      );
    if (!out.includes(row)) out.push(row);
    rows(child, here, out, defs, within);
  }
}

/** docs/scene-format.md */
export function formatDocument(): string {
  const out: string[] = [];
  const schema = jsonSchema() as Node;
  rows(schema, '', out, schema.$defs ?? {});
  return `# The scene format, version ${SCENE_VERSION}

Made from the schema in \`src/core/scene/schema.ts\` by \`npm run docs\`; do not edit. The same as a JSON Schema:
[scene.schema.json](scene.schema.json).

A \`.clothesline\` file is a zip of \`scene.json\`, described here, and \`meshes/<SHA-256>.glb\` for every mesh that was
brought in. Lengths are metres, angles degrees, Y is up. Fields that are not named here are left out when a file is
opened, and that is said. Ids are never used again; \`nextId\` is the number of the next one.

| field | type | default | about |
|---|---|---|---|
${out.join('\n')}
`;
}
