import { placeOf } from '@/core/evaluate/links/linked';
import type { Patch } from '@/core/scene/patch';
import { takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { referencesIn } from '@/core/evaluate/links/expression';
import { showLink } from '@/words/links';
import { command } from '../command';

/** Commands of numbers that follow what other things measure. */

/** A number of a node. */
export interface LinkedField {
  node: string;
  field: readonly string[];
}

export const linkOf = (scene: Pick<Scene, 'links'>, { node, field }: LinkedField) =>
  scene.links.find((l) => l.node === node && l.field.join() === field.join());

/** Puts a number into its field, where that is there. */
export function setNumber(scene: Scene, at: LinkedField, value: number): void {
  const path = placeOf(scene, { node: at.node, field: [...at.field] });
  if (!path) return;
  const holder = path
    .slice(0, -1)
    .reduce<unknown>((o, k) => (o as Record<string | number, unknown>)[k], scene);
  (holder as Record<string | number, unknown>)[path[path.length - 1]] = value;
}

/** Lets a number follow an expression from now on. @param value what it comes to, kept for when the link breaks */
export const linkField = command<LinkedField & { expression: string; value: number | null }>({
  apply(scene, { node, field, expression, value }) {
    const have = linkOf(scene, { node, field });
    if (have) have.expression = expression;
    else scene.links.push({ id: takeId(scene, 'link'), node, field: [...field], expression });
    // A number goes by one of the two: what it follows, or the time.
    scene.timed = scene.timed.filter((t) => t.node !== node || t.field.join() !== field.join());
    if (value !== null) setNumber(scene, { node, field }, value);
  },
  name: (before, _, { expression }) => `= ${showLink(expression, before)}`,
});

/** A number of its own again: that which is typed, or that which it was. */
export const unlinkField = command<LinkedField & { value: number }>({
  apply(scene, { node, field, value }) {
    scene.links = scene.links.filter((l) => l !== linkOf(scene, { node, field }));
    setNumber(scene, { node, field }, value);
  },
  name: (before, _, { node, field }) => {
    const link = linkOf(before, { node, field });
    return `no longer = ${link ? showLink(link.expression, before) : '?'}`;
  },
});

/** What links came to last. */
export type LinkNumbers = readonly { link: string; value: number }[];

/** Puts the numbers of links into their fields, so that they stay when what they are taken from goes. */
export const keptNumbers = (scene: Scene, numbers: LinkNumbers): Patch[] =>
  numbers.flatMap(({ link, value }) => {
    const found = scene.links.find((l) => l.id === link);
    const path = found && placeOf(scene, found);
    return path ? [{ op: 'replace', path, value }] : [];
  });

/** Links that take their number from one of some nodes. */
export const linksTo = (scene: Pick<Scene, 'links'>, nodes: readonly string[]) =>
  scene.links.filter((l) => referencesIn(l.expression).some(({ id }) => nodes.includes(id)));
