import { differing } from '../differing';
import { BLOCK_PEGS, pegNumber, type Peg, type Pegs } from './schema';

/**
 * Pegs stand in a list of blocks, so that a change of one copies its block and the list of blocks, however many there
 * are. Their order is that of the blocks, one after the other; where one block ends and the next begins means nothing.
 */

type Blocks = Pegs['pegs'];
type Block = Blocks[number];

/** Pegs in full blocks. */
export function inBlocks<P>(pegs: readonly P[]): P[][] {
  const blocks: P[][] = [];
  for (let i = 0; i < pegs.length; i += BLOCK_PEGS) blocks.push(pegs.slice(i, i + BLOCK_PEGS));
  return blocks;
}

/** How many pegs there are in all blocks. */
export const pegCount = (blocks: Blocks): number => blocks.reduce((n, block) => n + block.length, 0);

const whole = new WeakMap<Blocks, readonly Peg[]>();

/** All pegs in their order, as one list: for what looks at all of them anyway. */
export function allPegs(blocks: Blocks): readonly Peg[] {
  let have = whole.get(blocks);
  if (!have) whole.set(blocks, (have = blocks.flat()));
  return have;
}

/**
 * The blocks with only the pegs that are to stay. Blocks that lose none are the same objects; the list is, where none
 * goes. Neighbours that have become small are joined, so that two together always are more than one could hold.
 */
export function keepPegs(blocks: Blocks, stays: (peg: Peg) => boolean): Blocks {
  const kept = blocks.map((block) => (block.every(stays) ? block : block.filter(stays)));
  if (kept.every((block, b) => block === blocks[b])) return blocks;
  const joined: Blocks = [];
  for (const block of kept) {
    const last = joined.at(-1);
    if (last && last.length + block.length <= BLOCK_PEGS) joined[joined.length - 1] = [...last, ...block];
    else joined.push(block);
  }
  return joined;
}

/** Where a peg is: its block, and its place in that. */
export interface PegPlace {
  block: number;
  index: number;
  peg: Peg;
}

const places = new WeakMap<Block, Map<string, number>>();
const asked = new WeakSet<Block>();

/** The place of a peg in a block; -1 where it is not there. An index is made for a block that is asked for again. */
function placeIn(block: Block, id: string): number {
  let here = places.get(block);
  // The block of what is dragged is another one at every step.
  if (!here && !asked.has(block)) {
    asked.add(block);
    return block.findIndex((peg) => peg.id === id);
  }
  if (!here) places.set(block, (here = new Map(block.map((peg, i) => [peg.id, i]))));
  return here.get(id) ?? -1;
}

/** Finds a peg by its id; undefined where there is none. */
export function pegById(blocks: Blocks, id: string): PegPlace | undefined {
  for (let b = 0; b < blocks.length; b++) {
    const index = placeIn(blocks[b], id);
    if (index >= 0) return { block: b, index, peg: blocks[b][index] };
  }
  return undefined;
}

/** The peg in a slot; undefined where there is none. */
export const pegOfSlot = (blocks: Blocks, slot: number): Peg | undefined =>
  allPegs(blocks).find((peg) => pegNumber(peg.id) === slot);

/** A peg that is another object than it was. */
export interface ChangedPeg {
  /** Its place among all. */
  row: number;
  now: Peg;
  was: Peg;
}

/** The pegs that are other objects than they were, in order; null where pegs came, went, or moved among blocks. */
export function changedIn(blocks: Blocks, was: Blocks): ChangedPeg[] | null {
  if (blocks.length !== was.length) return null;
  const changed: ChangedPeg[] = [];
  const others = differing(blocks, was);
  let from = 0;
  let next = 0;
  for (let b = 0; b < blocks.length && next < others.length; from += blocks[b++].length) {
    if (b !== others[next]) continue;
    next++;
    const [block, old] = [blocks[b], was[b]];
    if (block.length !== old.length) return null;
    for (const i of differing(block, old)) changed.push({ row: from + i, now: block[i], was: old[i] });
  }
  return changed;
}
