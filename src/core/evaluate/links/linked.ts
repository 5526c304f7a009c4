import { checkChange, valueAt } from '../../scene/guard';
import { applyPatches, type Patch } from '../../scene/patch';
import { LIGHT_NODE } from '../../light/schema';
import type { Link } from '../../scene/linkSchema';
import type { Scene } from '../../scene/schema';
import { STATE, type Placements } from '../../arrange/result';
import type { Bounds } from '../../mesh/mesh';
import { indexIn } from '../indexIn';
import type { Plan } from '../plan';
import { referencesIn, valueOf, type Reference } from './expression';

/** Numbers that follow what other things measure: put in before a scene is worked out. */

/** What became of a link. */
export interface LinkResult {
  id: string;
  /** The number that is in force, where the link holds. */
  value: number | null;
  /** Why it does not: what it names is not there (or it cannot be read), it waits for itself, or its field is not there. */
  problem?: 'broken' | 'ring' | 'no-field';
}

const LISTS = ['paths', 'surfaces', 'arrangements', 'lamps'] as const;

/** Where a node stands in a scene; null where it does not. */
function holderOf(scene: Scene, node: string): Patch['path'] | null {
  if (node === LIGHT_NODE) return ['light'];
  for (const list of LISTS) {
    const at = scene[list].findIndex((n) => n.id === node);
    if (at >= 0) return [list, at];
  }
  return null;
}

/** Where the number of a link stands in a scene; null where there is none. */
export function placeOf(scene: Scene, { node, field }: Pick<Link, 'node' | 'field'>): Patch['path'] | null {
  const path = holderOf(scene, node);
  if (!path) return null;
  let value = valueAt(scene, path);
  for (const key of field) {
    const step = Array.isArray(value) ? indexIn(value, key) : key;
    value = (value as Record<string | number, unknown> | null | undefined)?.[step];
    path.push(step);
  }
  return typeof value === 'number' || value === null ? path : null;
}

/** A number is rounded, then held, and is within its bounds by then. */
const MOST_TIMES = 4;

/** A scene with the numbers of its links put in, each held to its bounds. */
export const withValues = (scene: Scene, values: ReadonlyMap<string, number>): Scene =>
  putNumbers(
    scene,
    scene.links.flatMap((link) => {
      const value = values.get(link.id);
      return value === undefined ? [] : [{ ...link, value }];
    }),
  );

/** A scene with some of its numbers others, each held to its bounds; those whose field is not there are passed by. */
export function putNumbers(
  scene: Scene,
  numbers: readonly (Pick<Link, 'node' | 'field'> & { value: number })[],
): Scene {
  let patches = numbers.flatMap(({ value, ...at }): Patch[] => {
    const path = placeOf(scene, at);
    return path ? [{ op: 'replace', path, value }] : [];
  });
  let put = scene;
  for (let i = 0; patches.length > 0 && i < MOST_TIMES; i++) {
    put = applyPatches(put, patches).value;
    const { held, refused } = checkChange(put, patches);
    if (refused) return scene;
    patches = held.map((h): Patch => ({ op: 'replace', path: h.path as Patch['path'], value: h.held }));
  }
  return put;
}

/** The number of a link as it stands in a scene. */
const numberAt = (scene: Scene, link: Link): number | null => {
  const path = placeOf(scene, link);
  const value = path && valueAt(scene, path);
  return typeof value === 'number' ? value : null;
};

/** What became of links, with the numbers that are in force in a scene into which they were put. */
export const inForce = (links: readonly LinkResult[], scene: Scene): LinkResult[] =>
  links.map((l, i) => (l.problem ? l : { ...l, value: numberAt(scene, scene.links[i]) }));

/** What of a scene that was worked out is measured. */
export interface Worked {
  paths: readonly { id: string; ok: boolean; length: number }[];
  arrangements: readonly { id: string; placements: Placements }[];
  propBounds: Readonly<Record<string, Bounds>>;
}

/** What things of a scene measure, as they were worked out. */
function measureIn({ paths, arrangements, propBounds }: Worked): (of: Reference) => number | undefined {
  return ({ id, measure }) => {
    if (measure === 'length') {
      const path = paths.find((p) => p.id === id);
      return path?.ok ? path.length : undefined;
    }
    if (measure === 'count') {
      const found = arrangements.find((a) => a.id === id)?.placements.state;
      return found && found.reduce((n, s) => n + (s === STATE.placed ? 1 : 0), 0);
    }
    const box = propBounds[id] as Bounds | undefined;
    const axis = { wide: 0, high: 1, long: 2 }[measure];
    return box && box.max[axis] - box.min[axis];
  };
}

/** What the links of a scene come to. @param rings links that wait for themselves */
export function linkValues(
  scene: Scene,
  result: Worked,
  rings: ReadonlySet<string>,
): { values: Map<string, number>; links: LinkResult[] } {
  const measure = measureIn(result);
  const values = new Map<string, number>();
  const links = scene.links.map(({ id, node, field, expression }): LinkResult => {
    if (!placeOf(scene, { node, field })) return { id, value: null, problem: 'no-field' };
    if (rings.has(id)) return { id, value: null, problem: 'ring' };
    const value = valueOf(expression, measure);
    if (value === null) return { id, value, problem: 'broken' };
    values.set(id, value);
    return { id, value };
  });
  return { values, links };
}

/** The links whose number goes, through the scene and through other links, into what it is taken from. */
export function ringsOf(links: readonly Link[], { order, place, followers }: Plan): Set<string> {
  const on = new Map<string, string[]>();
  for (const { node, expression } of links)
    for (const { id } of referencesIn(expression)) on.set(id, [...(on.get(id) ?? []), node]);
  const reaches = (from: string, to: string): boolean => {
    const seen = new Set<string>();
    const next = [from];
    for (let id = next.pop(); id !== undefined; id = next.pop()) {
      if (id === to) return true;
      if (seen.has(id)) continue;
      seen.add(id);
      const at = place.get(id);
      if (at !== undefined) next.push(...followers[at].map((k) => order[k].id));
      next.push(...(on.get(id) ?? []));
    }
    return false;
  };
  return new Set(
    links.filter((l) => referencesIn(l.expression).some(({ id }) => reaches(l.node, id))).map((l) => l.id),
  );
}

/** How often a scene is worked out at the most until its links hold: links on links take one time each. */
export const mostRounds = (links: readonly Link[]): number => Math.min(50, links.length + 1);

/** Whether links come to the same numbers, each to the last bit. */
export const sameValues = (a: ReadonlyMap<string, number>, b: ReadonlyMap<string, number>): boolean =>
  a.size === b.size && [...a].every(([id, v]) => Object.is(b.get(id), v));
