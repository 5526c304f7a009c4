import { z } from 'zod';
import { sceneSchema, type Scene } from './schema';
import { SCENE_VERSION } from './version';

/** A scene that was read, with what was left out of it. */
export interface ReadScene {
  scene: Scene;
  /** Where the file has fields that this version does not know, e.g. "arrangements[0].glow". */
  unknown: string[];
}

/** Thrown for a scene that cannot be read; the message is one sentence: what, where, what to do. */
class SceneFileError extends Error {}

/** Steps from version n to n + 1, by n. */
const STEPS: Record<number, (old: Record<string, unknown>) => Record<string, unknown>> = {
  // Keep-outs were stretches only. What is not shaped as it should be is left for the schema to complain about.
  1: (old) => ({ ...old, arrangements: each(old.arrangements, (a) => ({ ...a, gaps: rangesOnly(a.gaps) })) }),
};

const rangesOnly = (gaps: unknown) =>
  isRecord(gaps) && 'keepOuts' in gaps
    ? { ...gaps, keepOuts: each(gaps.keepOuts, (k) => ({ kind: 'range', ...k })) }
    : gaps;

const isRecord = (v: unknown): v is Record<string, unknown> =>
  typeof v === 'object' && v !== null && !Array.isArray(v);
const each = (v: unknown, change: (item: Record<string, unknown>) => unknown): unknown =>
  Array.isArray(v) ? v.map((item) => (isRecord(item) ? change(item) : item)) : v;

/**
 * A scene from parsed JSON of any version up to this one.
 * @throws SceneFileError for what is no scene, of a newer version, or breaks the schema
 */
export function readScene(json: unknown): ReadScene {
  if (typeof json !== 'object' || json === null || (json as { format?: unknown }).format !== 'clothesline') {
    throw new SceneFileError(
      'This is not a Clothesline scene: its "format" is not "clothesline". Choose another file.',
    );
  }
  let data = json as Record<string, unknown>;
  const version = Number(data.version);
  if (!Number.isInteger(version) || version < 1) {
    throw new SceneFileError(
      'The scene has no readable "version". The file may be damaged; open an earlier copy.',
    );
  }
  if (version > SCENE_VERSION) {
    throw new SceneFileError(
      `This scene was saved by a newer Clothesline (format ${version}; this one reads up to ${SCENE_VERSION}). Update Clothesline, then open it again.`,
    );
  }
  for (let v = version; v < SCENE_VERSION; v++) data = { ...STEPS[v](data), version: v + 1 };
  const parsed = sceneSchema.safeParse(data);
  if (!parsed.success) throw new SceneFileError(describeIssue(parsed.error));
  checkIds(parsed.data);
  return { scene: parsed.data, unknown: unknownFields(data, parsed.data, '') };
}

/** Two nodes of one id would shadow each other, and a counter behind them would hand an id out twice. */
function checkIds(scene: Scene): void {
  const seen = new Set<string>();
  for (const { id } of [...scene.props, ...scene.paths, ...scene.surfaces, ...scene.arrangements]) {
    if (seen.has(id)) {
      throw new SceneFileError(
        `The scene has the id "${id}" twice. Give one of the two another id in the file.`,
      );
    }
    seen.add(id);
  }
  const numbers = JSON.stringify(scene).match(/"id":"[a-z]+(\d+)"/g) ?? [];
  for (const match of numbers) scene.nextId = Math.max(scene.nextId, Number(/\d+/.exec(match)![0]) + 1);
}

function describeIssue(error: z.ZodError): string {
  const issue = error.issues[0];
  const where = issue.path.length ? place(issue.path) : 'the top level';
  const more = error.issues.length > 1 ? ` (and ${error.issues.length - 1} more places)` : '';
  return `The scene cannot be read at ${where}: ${issue.message}${more}. Correct it in the file, or open an earlier copy.`;
}

const place = (path: PropertyKey[]) =>
  path.map((p, i) => (typeof p === 'number' ? `[${p}]` : i === 0 ? String(p) : `.${String(p)}`)).join('');

/** Places in `given` that the schema dropped. */
function unknownFields(given: unknown, kept: unknown, at: string): string[] {
  if (Array.isArray(given)) {
    return given.flatMap((v, i) => unknownFields(v, (kept as unknown[])?.[i], `${at}[${i}]`));
  }
  if (typeof given !== 'object' || given === null) return [];
  return Object.entries(given).flatMap(([key, value]) => {
    const here = at ? `${at}.${key}` : key;
    if (typeof kept !== 'object' || kept === null || !(key in kept)) return value === undefined ? [] : [here];
    return unknownFields(value, (kept as Record<string, unknown>)[key], here);
  });
}
