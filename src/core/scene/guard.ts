import type { Patch } from './patch';
import type { z } from 'zod';
import { sceneSchema, type Scene } from './schema';
import { walk } from './walk';

/** A number that went beyond what its field may be, and what it is held to. */
export interface Held {
  path: PropertyKey[];
  given: number;
  held: number;
}

/** Why a change cannot be made at all: what would be wrong, and where. */
export interface Refusal {
  kind: 'too-many' | 'not-allowed' | 'ids-used-up';
  path: PropertyKey[];
  /** For "too-many". */
  most?: number;
}

export interface Checked {
  held: Held[];
  refused: Refusal | null;
}

/** What {@link checkChange} answers where all is well. */
export const FINE: Checked = { held: [], refused: null };

/**
 * Looks at what a change put into a scene, and at nothing else: the cost goes by the change, not by the scene. A scene
 * that was sound before is sound after it, once the numbers that it names are held.
 * @param scene as it is after the change
 * @param patches the change, as Immer tells it
 */
export function checkChange(scene: Scene, patches: readonly Patch[]): Checked {
  const held = new Map<string, Held>();
  const seen = new Set<string>();
  for (const patch of patches) {
    const key = patch.path.join('/');
    if (seen.has(key)) continue;
    seen.add(key);
    const { schema, value, path: at, beyond } = walk(sceneSchema, scene, patch.path);
    if (beyond) return { held: [], refused: { kind: 'too-many', ...beyond } };
    // What was taken out, or changed again by a later patch of a place around it.
    if (!schema || (patch.op === 'remove' && value === undefined)) continue;
    const result = schema.safeParse(value);
    if (result.success) continue;
    for (const issue of result.error.issues) {
      const path = [...at, ...issue.path];
      const one = heldNumber(issue, valueAt(scene, path));
      if (path[0] === 'nextId') return { held: [], refused: { kind: 'ids-used-up', path } };
      if (one === undefined) {
        const many = issue.code === 'too_big' && issue.origin === 'array';
        return {
          held: [],
          refused: many
            ? { kind: 'too-many', path, most: Number(issue.maximum) }
            : { kind: 'not-allowed', path },
        };
      }
      holdAt(held, { path, ...one });
    }
  }
  return held.size ? { held: [...held.values()], refused: null } : FINE;
}

/** Notes a held number; of several bounds at one place the tightest counts. */
function holdAt(held: Map<string, Held>, one: Held): void {
  const place = one.path.join('/');
  const have = held.get(place);
  if (!have) held.set(place, one);
  else have.held = have.given > one.held ? Math.min(have.held, one.held) : Math.max(have.held, one.held);
}

/** A number brought within the bounds that an issue names; undefined where the issue is about something else. */
export function heldNumber(
  issue: z.core.$ZodIssue,
  given: unknown,
): { given: number; held: number } | undefined {
  if (typeof given !== 'number' || !Number.isFinite(given)) return undefined;
  if (issue.code === 'too_small' || issue.code === 'too_big') {
    const bound = Number(issue.code === 'too_small' ? issue.minimum : issue.maximum);
    return { given, held: bound };
  }
  // A whole number was wanted.
  if (issue.code === 'invalid_type' && !Number.isInteger(given)) return { given, held: Math.round(given) };
  return undefined;
}

/** The value at a path; undefined where there is none. */
export function valueAt(root: unknown, path: readonly PropertyKey[]): unknown {
  return path.reduce<unknown>((at, key) => (at as Record<PropertyKey, unknown> | undefined)?.[key], root);
}
