import { OWN, THREADS } from '../arrange/base';
import { kindOf } from '../arrange/registry';
import { emptyScene, takeId } from './defaults';
import type { Patch } from './patch';
import type { Scene } from './schema';

/** Part of a scene, to be put into that one once more or into another. */
export interface Clipping {
  /** Where it is from: the same scene has what goes along already. */
  from: string;
  /** What was chosen; the rest goes along because it is needed. */
  chosen: string[];
  /** A scene of just these nodes. */
  scene: Scene;
}

const LISTS = ['materials', 'props', 'paths', 'surfaces', 'arrangements', 'masks', 'bundles'] as const;
type List = (typeof LISTS)[number];
type Node = Scene[List][number];

/** Fields that hold text of people or of files, and never the id of a node. */
const TEXTS = new Set(['name', 'group', 'clip', 'hash', 'fileName']);
/** Ids in the expressions of links. */
const REFERENCE = /(?<=\[)[^\].]+(?=\.)/g;
/** Fields that name nodes which are not needed: what is not there does no harm. */
const IDLE = new Set(['meant']);

const nodesOf = (scene: Scene): Map<string, { list: List; node: Node }> =>
  new Map(LISTS.flatMap((list) => (scene[list] as Node[]).map((node) => [node.id, { list, node }])));

/** Calls back for each text in a value that may be an id, keys of records too. */
function eachId(value: unknown, found: (id: string) => void): void {
  if (typeof value === 'string') return found(value);
  if (Array.isArray(value)) return value.forEach((v) => eachId(v, found));
  if (typeof value !== 'object' || value === null) return;
  for (const [key, v] of Object.entries(value)) {
    found(key);
    if (!TEXTS.has(key) && !IDLE.has(key)) eachId(v, found);
  }
}

/**
 * Cuts nodes out of a scene, with all that they need: the props and paths of a run, what it keeps away from, the
 * surface that a path lies on. @param ids of nodes of any sort; those that the scene has not are passed by
 */
export function clip(scene: Scene, ids: readonly string[], from: string): Clipping {
  const all = nodesOf(scene);
  const chosen = ids.filter((id) => all.has(id));
  const taken = new Set(chosen);
  // What is added while going through is gone through too.
  for (const id of taken) eachId(all.get(id)!.node, (other) => void (all.has(other) && taken.add(other)));
  const part: Scene = { ...emptyScene(scene.name), units: scene.units, nextId: scene.nextId };
  for (const list of LISTS)
    Object.assign(part, { [list]: (scene[list] as Node[]).filter((n) => taken.has(n.id)) });
  part.links = scene.links.filter((l) => taken.has(l.node));
  part.timed = scene.timed.filter((t) => taken.has(t.node));
  return { from, chosen, scene: part };
}

/** A scene in which no other nodes are shown than these. What it comes to is the whole scene's. */
export function shownAlone(scene: Scene, ids: readonly string[]): Scene {
  const hidden = <T extends { id: string; visible: boolean }>(list: readonly T[]): T[] =>
    list.map((n) => (ids.includes(n.id) ? n : { ...n, visible: false }));
  return {
    ...scene,
    paths: hidden(scene.paths),
    surfaces: hidden(scene.surfaces),
    arrangements: hidden(scene.arrangements),
  };
}

/** Nodes that come to the same, whatever their scenes call and gather them by. */
const isAlike = (a: Node, b: Node): boolean =>
  JSON.stringify({ ...a, id: '', group: '' }) === JSON.stringify({ ...b, id: '', group: '' });

/** Ids that have become others, and the slots of arrangements whose slots are the numbers of ids. */
interface Renamed {
  ids: ReadonlyMap<string, string>;
  slots(arrangement: string, slot: string): string;
}

/** A value in which ids have become others. */
function withIds(value: unknown, renamed: Renamed, field = ''): unknown {
  const { ids } = renamed;
  if (typeof value === 'string') return TEXTS.has(field) ? value : (ids.get(value) ?? value);
  if (Array.isArray(value)) return value.map((v) => withIds(v, renamed, field));
  if (typeof value !== 'object' || value === null) return value;
  const out = Object.fromEntries(
    Object.entries(value).map(([k, v]) => [ids.get(k) ?? k, withIds(v, renamed, k)]),
  );
  if ('arrangement' in value && 'slot' in value)
    out.slot = renamed.slots(String(value.arrangement), String(value.slot));
  return out;
}

/** What the slots of arrangements that are copied are called in their copies. */
function slotsAmong(copied: readonly Node[], ids: ReadonlyMap<string, string>): Renamed['slots'] {
  const kinds = new Map(copied.flatMap((n) => ('kind' in n ? [[n.id, kindOf(n)] as const] : [])));
  return (arrangement, slot) => {
    const id = kinds.get(arrangement)?.idOfSlot?.(slot);
    const now = id === undefined ? undefined : ids.get(id);
    return now === undefined ? slot : now.replace(/^\D+/, '');
  };
}

const sortOf = (id: string): string => /^[a-z]+/i.exec(id)?.[0] ?? 'node';

/** Gives everything inside a node that has an id a fresh one. */
function renewed(node: unknown, counter: Pick<Scene, 'nextId'>, ids: Map<string, string>): void {
  if (typeof node !== 'object' || node === null) return;
  for (const [key, value] of Object.entries(node)) {
    if (key === 'id' && typeof value === 'string' && !ids.has(value))
      ids.set(value, takeId(counter, sortOf(value)));
    else renewed(value, counter, ids);
  }
}

function freeName(names: ReadonlySet<string>, name: string): string {
  const stem = name.replace(/ \d+$/, '');
  let free = name;
  for (let k = 2; names.has(free); k++) free = `${stem} ${k}`;
  return free;
}

/**
 * Puts a clipping into a scene. In the scene that it is from, what goes along is what stands there already; in another
 * one it comes too, but for props that are there just so. What is put in has ids, and where needed names, of its own.
 * @param key of the scene @param aside by id: so far to the side a copy is moved, metres, unless what it stands on is
 * copied too
 * @returns the patches, and the ids that the chosen ones have now, in their order
 */
export function pasting(
  scene: Scene,
  { from, chosen, scene: part }: Clipping,
  key: string,
  aside: Readonly<Record<string, number>> = {},
): { made: string[]; patches: Patch[] } {
  const there = nodesOf(scene);
  const isSame = from === key;
  const wanted = new Set(chosen);
  const counter = { nextId: Math.max(scene.nextId, 1) };
  const ids = new Map<string, string>();
  const copies: { list: List; node: Node }[] = [];
  for (const [id, one] of nodesOf(part)) {
    const has =
      isSame && !wanted.has(id) && there.get(id)?.list === one.list ? id : alikeIn(scene, one, wanted, ids);
    if (has) ids.set(id, has);
    else copies.push(one);
  }
  for (const { node } of copies) ids.set(node.id, takeId(counter, sortOf(node.id)));
  const pasted = new Set(copies.map(({ node }) => node.id));
  for (const { node } of copies) renewed({ ...node, id: undefined }, counter, ids);
  const renamedTo = {
    ids,
    slots: slotsAmong(
      copies.map((c) => c.node),
      ids,
    ),
  };
  const names = new Map(LISTS.map((list) => [list, new Set((scene[list] as Node[]).map((n) => n.name))]));
  const patches: Patch[] = [];
  let madeLinks = 0;
  const recipes = new Map<string, string>();
  const order = new Map(LISTS.map((list) => [list, [...(scene[list] as Node[])]]));
  for (const { list, node } of copies) {
    const copy = withIds(node, renamedTo) as Node;
    copy.name = freeName(names.get(list)!, node.name);
    names.get(list)!.add(copy.name);
    if ('thread' in copy && isSame)
      copy.thread = THREADS[(THREADS.indexOf(copy.thread) + 1) % THREADS.length];
    // Elsewhere the same ids are other things: what did not come along is not meant.
    if ('meant' in copy && 'meant' in node && !isSame)
      copy.meant = node.meant.flatMap((id) => (id === OWN ? [OWN] : (ids.get(id) ?? [])));
    // Those that share a recipe there share one here, and not one that was here before.
    if ('recipe' in copy && copy.recipe !== undefined && !isSame) {
      if (!recipes.has(copy.recipe)) recipes.set(copy.recipe, takeId(counter, 'recipe'));
      copy.recipe = recipes.get(copy.recipe)!;
    }
    const by = aside[node.id];
    if (by && !leansOn(node, pasted)) moveAside(copy, by);
    // Behind what it is a copy of, at the end of its group, or at the end.
    const all = order.get(list)!;
    const original = isSame ? all.findIndex((n) => n.id === node.id) : -1;
    const { group } = copy as { group?: string };
    const fellow =
      group === undefined ? -1 : all.findLastIndex((n) => (n as { group?: string }).group === group);
    const at = (original >= 0 ? original : fellow >= 0 ? fellow : all.length - 1) + 1;
    all.splice(at, 0, copy);
    patches.push({ op: 'add', path: [list, at], value: copy });
  }
  const timed = part.timed.flatMap((t) => {
    const node = pasted.has(t.node) ? ids.get(t.node) : undefined;
    return node ? [{ ...t, id: takeId(counter, 'timed'), node }] : [];
  });
  timed.forEach((value, i) => patches.push({ op: 'add', path: ['timed', scene.timed.length + i], value }));
  for (const link of part.links) {
    const node = pasted.has(link.node) ? ids.get(link.node) : undefined;
    // Elsewhere the same ids are other things.
    const there = (id: string) => ids.get(id) ?? (isSame ? id : undefined);
    const of = link.expression.match(REFERENCE)?.map((id) => there(id)) ?? [];
    if (!node || of.includes(undefined)) continue;
    const expression = link.expression.replace(REFERENCE, (id) => there(id)!);
    const value = { ...link, id: takeId(counter, 'link'), node, expression };
    patches.push({ op: 'add', path: ['links', scene.links.length + madeLinks++], value });
  }
  if (counter.nextId !== scene.nextId)
    patches.push({ op: 'replace', path: ['nextId'], value: counter.nextId });
  return { made: chosen.map((id) => ids.get(id)!).filter(Boolean), patches };
}

/** A material or a prop of the scene that is just like one that goes along. @param ids of what has been found there */
function alikeIn(
  scene: Scene,
  { list, node }: { list: List; node: Node },
  wanted: ReadonlySet<string>,
  ids: ReadonlyMap<string, string>,
): string | undefined {
  if (wanted.has(node.id)) return undefined;
  if (list === 'materials') return scene.materials.find((m) => isAlike(m, node))?.id;
  if (list !== 'props') return undefined;
  // What it wears is there by another id.
  const { material } = node as Scene['props'][number];
  const worn = { ...node, material: material && (ids.get(material) ?? '') } as Node;
  return scene.props.find((p) => isAlike(p, worn))?.id;
}

/** Whether a node names another one of those. */
function leansOn(node: Node, those: ReadonlySet<string>): boolean {
  let leans = false;
  eachId(node, (id) => (leans ||= id !== node.id && those.has(id)));
  return leans;
}

/** Moves a copy so that it is seen beside what it was copied from: along X, or X and Z. */
function moveAside(copy: Node, by: number): void {
  if ('kind' in copy) return kindOf(copy).putAside?.(copy, by);
  if ('source' in copy) {
    const { source } = copy;
    const places =
      source.kind === 'points'
        ? source.points.map((p) => p.position)
        : source.kind === 'generator'
          ? [source.position]
          : [];
    for (const place of places) {
      place[0] += by;
      place[2] += by;
    }
  } else if ('deformers' in copy) copy.position[0] += by;
}
