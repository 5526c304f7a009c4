import { inBlocks } from '@/core/arrange/pegs/blocks';
import { OWN, THREADS } from '@/core/arrange/base';
import { allEntries, type Order } from '@/core/arrange/steps/orderSchema';
import type { Gaps } from '@/core/arrange/steps/schema';
import type { Peg } from '@/core/arrange/pegs/schema';
import { kindOf, newArrangement, type Arrangement, type KindName, type With } from '@/core/arrange/registry';
import { slotName } from '@/core/arrange/slotId';
import { newThread, takeId } from '@/core/scene/defaults';
import { patchesBetween, type Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { command, patching } from '../command';
import { findArrangement, findPath, findSurface, findWith, freeName } from './find';
import { describeChange } from './naming';

/** Commands for arrangements of every kind: as a whole, the blocks of settings of their recipes, and single slots. */

/**
 * A new arrangement of a kind, with what `values` say. It stands at the end of the list, or behind the one that it is
 * `after`. For the commands that make some.
 * @param values what is not as by default; ids in it are taken after the arrangement's own
 */
export function addArrangement(
  scene: Scene,
  kind: KindName,
  name: string,
  values: () => object,
  after?: string,
): string {
  const id = takeId(scene, kind);
  const at = after
    ? scene.arrangements.indexOf(findArrangement(scene, after)) + 1
    : scene.arrangements.length;
  const base = { id, name: freeName(scene.arrangements, name), thread: newThread(scene) };
  scene.arrangements.splice(at, 0, newArrangement(kind, base, values()));
  return id;
}

/** Values of an arrangement of any kind; its blocks of settings are set by {@link setStep}. */
type ValuesOf<A> = A extends Arrangement ? Partial<Omit<A, 'id' | 'kind'>> : never;
export type ArrangementValues = ValuesOf<Arrangement>;

/** The changes that set fields of an arrangement, or of what stands at `at` in it. No draft is made of all the others. */
function setting(scene: Scene, id: string, at: string[], values: object): Patch[] {
  const found = findArrangement(scene, id);
  const block = at.reduce((v: object, key) => v[key as keyof object], found);
  if (block === undefined) throw new Error(`“${found.name}” has no ${at.join(' ')}.`);
  const path = ['arrangements', scene.arrangements.indexOf(found), ...at];
  return Object.entries(values).map(([field, value]) => ({
    op: field in block ? 'replace' : 'add',
    path: [...path, field],
    value,
  }));
}

/** Sets fields of an arrangement. */
export const setArrangement = patching<{ id: string; values: ArrangementValues }>({
  patches: (scene, { id, values }) => setting(scene, id, [], values),
  name(before, _, { id, values }) {
    const found = findArrangement(before, id);
    // In the recipe it is clear whose settings they are; these are set from the list too.
    const whose = 'name' in values || 'thread' in values || 'visible' in values ? `${found.name}: ` : '';
    return `${whose}${describeChange(found, values, before.units)}`;
  },
});

/**
 * Says that an arrangement may reach into another one or a surface (or, with its own id, that its props may reach into
 * each other), or takes that back.
 */
export const meanOverlap = command<{ id: string; other: string; meant: boolean }>({
  apply(scene, { id, other, meant }) {
    const one = findArrangement(scene, id);
    const isSurface = scene.surfaces.some((s) => s.id === other);
    const two = isSurface ? null : findArrangement(scene, other);
    const drop = (a: Arrangement, of: string) => (a.meant = a.meant.filter((m) => m !== of));
    const of = one === two ? OWN : other;
    drop(one, of);
    if (two && one !== two) drop(two, id);
    if (meant) one.meant.push(of);
  },
  name: (scene, _, { id, other, meant }) => {
    const { name } = scene.surfaces.find((s) => s.id === other) ?? findArrangement(scene, other);
    const whose = `overlap of ${findArrangement(scene, id).name}${id === other ? '' : ` with ${name}`}`;
    return `${whose} ${meant ? 'meant so' : 'minded again'}`;
  },
});

type AnyKey<A> = A extends Arrangement ? keyof A : never;
/** The blocks of settings that recipes are made of. */
export type Step = Extract<
  AnyKey<Arrangement>,
  | 'order'
  | 'spacing'
  | 'facing'
  | 'ground'
  | 'variation'
  | 'gaps'
  | 'pulley'
  | 'grid'
  | 'match'
  | 'spread'
  | 'stand'
  | 'filling'
  | 'sold'
>;
type PartialOf<T> = T extends unknown ? Partial<T> : never;

const blockOf = (scene: Scene, id: string, step: Step): object =>
  findWith(scene, id, step as string as 'order')[step as 'order'];

/** What the schema of its kind says of a block of settings. */
const blockSchema = (a: Arrangement, step: Step): { parse(value: unknown): unknown } =>
  (kindOf(a).schema.shape as Record<string, { parse(value: unknown): unknown }>)[step];

/** Sets some fields of one block of settings. */
export const setStep = patching<
  { [S in Step]: { id: string; step: S; values: PartialOf<With<S>[S]> } }[Step]
>({
  patches: (scene, { id, step, values }) => setting(scene, id, [step], values),
  name: (before, _, { id, step, values }) => describeChange(blockOf(before, id, step), values, before.units),
});

/** Puts one block of settings back to its defaults. */
export const resetStep = command<{ id: string; step: Exclude<Step, 'order'> }>({
  apply(scene, { id, step }) {
    blockOf(scene, id, step);
    const found = findArrangement(scene, id);
    Object.assign(found, { [step]: blockSchema(found, step).parse(undefined) });
  },
  name: (_, __, { step }) => `reset ${step}`,
});

/** One step of a recipe, copied to be pasted into others. */
export type CopiedStep = { [S in Step]: { step: S; settings: With<S>[S] } }[Step];

/**
 * Puts a copied step in place of an arrangement's own: of another kind what fits, the rest of the block at its defaults.
 * Stretches to keep out belong to their path and are not pasted.
 */
export const pasteStep = command<{ id: string; copied: CopiedStep }>({
  apply: (scene, { id, copied }) => putStep(scene, id, copied),
  name: (_, __, { copied }) => `paste ${copied.step}`,
});

/** The same for several at once. */
export const pasteStepInto = command<{ ids: string[]; copied: CopiedStep }>({
  apply: (scene, { ids, copied }) => ids.forEach((id) => putStep(scene, id, copied)),
  name: (_, __, { ids, copied }) => `${copied.step} alike in ${ids.length + 1}`,
});

function putStep(scene: Scene, id: string, copied: CopiedStep): void {
  const found = findArrangement(scene, id);
  const own = blockOf(scene, id, copied.step);
  const settings = JSON.parse(JSON.stringify(copied.settings));
  freshIds(scene, settings);
  if (copied.step === 'gaps') {
    const ranges = (own as Gaps).keepOuts.filter((k) => k.kind === 'range');
    const others = (settings as Gaps).keepOuts.filter((k) => k.kind !== 'range');
    settings.keepOuts = [...ranges, ...others];
  }
  Object.assign(found, { [copied.step]: blockSchema(found, copied.step).parse(settings) });
}

/** Gives what is in pasted settings ids of its own. What the arrangement has beside them keeps its. */
function freshIds(scene: Scene, { entries, keepOuts }: Partial<Order & Gaps>): void {
  for (const entry of allEntries(entries ?? [])) entry.id = takeId(scene, 'entry');
  for (const keepOut of keepOuts ?? []) keepOut.id = takeId(scene, 'keep');
}

/** Sets the seed that all its random values are drawn from. */
export const setSeed = command<{ id: string; seed: number }>({
  apply: (scene, { id, seed }) => void (findArrangement(scene, id).seed = seed),
  name: (before, _, { id, seed }) => `seed ${findArrangement(before, id).seed} → ${seed}`,
});

const renew = (scene: Scene, copy: Arrangement): void =>
  kindOf(copy).renew?.(copy, (sort) => takeId(scene, sort));

/**
 * A copy on another path or surface. It keeps its whole recipe and stands there instead; what was corrected by hand and
 * stretches to keep out stay with the original: they are places of the old one.
 */
export const duplicateTo = command<{ id: string; to: { path: string } | { surface: string } }>({
  apply(scene, { id, to }) {
    const at = scene.arrangements.findIndex((a) => a.id === id);
    const copy: Arrangement = JSON.parse(JSON.stringify(findArrangement(scene, id)));
    copy.id = takeId(scene, copy.kind);
    copy.name = freeName(scene.arrangements, copy.name);
    copy.thread = THREADS[(THREADS.indexOf(copy.thread) + 1) % THREADS.length];
    // Slots elsewhere are others.
    delete copy.within;
    renew(scene, copy);
    if ('path' in to) kindOf(copy).moveToPath?.(copy, to.path);
    else kindOf(copy).moveToSurface?.(copy, to.surface);
    scene.arrangements.splice(at + 1, 0, copy);
    // Numbers that follow something follow it in the copy too.
    for (const timed of scene.timed.filter((t) => t.node === id))
      scene.timed.push({ ...timed, moments: [...timed.moments], id: takeId(scene, 'timed'), node: copy.id });
    for (const link of scene.links.filter((l) => l.node === id))
      scene.links.push({ ...link, field: [...link.field], id: takeId(scene, 'link'), node: copy.id });
    return copy.id;
  },
  name: (before, _, { id, to }) =>
    `duplicate “${findArrangement(before, id).name}” to “${
      ('path' in to ? findPath(before, to.path) : findSurface(before, to.surface)).name
    }”`,
});

/** Takes slots out by hand, or brings them back: what that is, their kind says. */
export const setSlotsRemoved = patching<{ id: string; slots: number[]; removed: boolean }>({
  patches(scene, { id, slots, removed }) {
    const found = findArrangement(scene, id);
    const { removeSlots } = kindOf(found);
    if (!removeSlots) throw new Error(`Nothing of "${id}" can be taken out by hand.`);
    const at = scene.arrangements.indexOf(found);
    return patchesBetween(found, { ...found, ...removeSlots(found, slots, removed) }, ['arrangements', at]);
  },
  name(before, _, { id, slots, removed }) {
    const { noun } = kindOf(findArrangement(before, id));
    const what =
      slots.length > 1
        ? `${slots.length} ${noun}s`
        : noun === 'slot'
          ? `#${slotName(slots[0])}`
          : `a ${noun}`;
    return `${removed ? 'remove' : 'bring back'} ${what}`;
  },
});

/**
 * Makes single pegs of placed props: nothing moves, and nothing follows the recipe any more. The arrangement keeps its
 * id, so that what looks at it or keeps away from it goes on.
 */
export const freeze = command<{ id: string; pegs: Omit<Peg, 'id'>[] }>({
  apply(scene, { id, pegs }) {
    const at = scene.arrangements.findIndex((a) => a.id === id);
    const { name, thread, visible } = findArrangement(scene, id);
    scene.arrangements[at] = newArrangement(
      'pegs',
      { id, name, thread },
      { visible, pegs: inBlocks(pegs.map((p) => ({ ...p, id: takeId(scene, 'peg') }))) },
    );
  },
  name: (before, _, { id }) => `“${findArrangement(before, id).name}” into pegs`,
});
