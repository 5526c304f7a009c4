import type { BentMesh } from '../mesh/bend';
import type { Mark } from '../mesh/mark';
import type { DrawnLines } from './drawnLines';
import type { PosedMesh } from './poses/posable';
import type { Inside } from './inside';

/** What one node of the scene evaluates to: arrays, ids and numbers; never interface text, never an object a prop. */

/** Why a slot is empty. The number in `Placements.state` is the index here; 0 is a placed prop. */
export const GAP_REASONS = [
  'placed',
  'pause',
  'chance',
  'keep-out',
  'hand',
  'taken',
  'past-end',
  'collision',
  'missed',
  'skipped',
  'fallen',
] as const;
export type GapReason = (typeof GAP_REASONS)[number];
export const STATE = {
  placed: 0,
  pause: 1,
  chance: 2,
  keepOut: 3,
  hand: 4,
  taken: 5,
  pastEnd: 6,
  collision: 7,
  missed: 8,
  skipped: 9,
  fallen: 10,
} as const;

/** One row a slot, gaps included (they keep the place where the prop would be). */
export interface Placements {
  count: number;
  slot: Float64Array;
  /** Index into {@link GAP_REASONS}. */
  state: Uint8Array;
  /** Index into `props`; -1 for a pause. A gap keeps the prop that would stand there. */
  prop: Int32Array;
  /** Ids of the props that `prop` counts. */
  props: string[];
  /** Foot, metres. */
  position: Float64Array;
  /** Unit quaternion x, y, z, w, from the prop's own space. */
  rotation: Float64Array;
  /** Factor per axis of the prop's own space; a negative X is mirrored left to right. */
  scale: Float64Array;
  /** Linear red, green, blue multiplied with the prop's own colour; absent where nothing is tinted. */
  tint?: Float32Array;
  /** Metres along the path, looseness included. */
  s: Float64Array;
  /** Metres that each has made beside that, where they have travelled; absent where they have not. */
  made?: Float64Array;
  /** Index into `bent` of those that are bent; -1 for the rigid ones. Absent where none is. */
  shape?: Int32Array;
  bent?: BentMesh[];
  /** Index into `posed` of those that stand in a pose; -1 for the others. Absent where none does. */
  pose?: Int32Array;
  posed?: PosedMesh[];
  /** Where they stood before they landed; absent where nothing lands. */
  before?: { position: Float64Array; rotation: Float64Array };
}

/** Something a careful artist should know. `detail` carries numbers and ids for the sentence. */
export interface Finding {
  kind: FindingKind;
  severity: 'error' | 'warning';
  /** The node it is about. */
  node: string;
  /** Slots, where it is about some of them. */
  slots?: number[];
  /** For each of those slots, or else of its marks, how far it is off what is meant, metres, where that is known. */
  amounts?: number[];
  /** What shows it in the scene, as far as {@link MOST_MARKS}. */
  marks?: Mark[];
  detail: Record<string, number | string>;
}

export type FindingKind =
  | 'no-path'
  | 'path-missing'
  | 'path-too-few-points'
  | 'path-zero-length'
  | 'path-not-finite'
  | 'fillet-clipped'
  | 'fillet-needs-straight-sides'
  | 'coincident-points'
  | 'tie-missing'
  | 'tie-other'
  | 'sits-missing'
  | 'sits-other'
  | 'sits-ring'
  | 'hang-short'
  | 'hang-over'
  | 'hang-ground'
  | 'strands-alone'
  | 'ends-missing'
  | 'strands-snap-missing'
  | 'no-props'
  | 'order-empty'
  | 'prop-missing'
  | 'mesh-missing'
  | 'mesh-empty'
  | 'pitch-not-positive'
  | 'count-not-positive'
  | 'too-many-slots'
  | 'no-room'
  | 'loose-limited'
  | 'too-tight'
  | 'overlap'
  | 'doubled'
  | 'through'
  | 'buried'
  | 'floating'
  | 'path-surface-missing'
  | 'path-base-missing'
  | 'path-no-uv'
  | 'path-nothing-there'
  | 'path-too-fine'
  | 'path-cycle'
  | 'path-failed'
  | 'no-corners'
  | 'length-not-positive'
  | 'nothing-fits'
  | 'hairpin'
  | 'touch-uneven'
  | 'too-many-strokes'
  | 'keep-out-missing'
  | 'keep-out-open'
  | 'keep-out-crosses'
  | 'target-missing'
  | 'surface-missing'
  | 'surface-mesh-missing'
  | 'surface-empty'
  | 'surface-path-missing'
  | 'surface-picture-missing'
  | 'surface-too-few-paths'
  | 'surface-no-profile'
  | 'surface-too-fine'
  | 'solid-waits'
  | 'solid-nothing'
  | 'solid-missing'
  | 'solid-open'
  | 'solid-unsound'
  | 'solid-inside-out'
  | 'solid-many-cells'
  | 'solid-crossing'
  | 'network-missing'
  | 'network-near'
  | 'dust-missing'
  | 'dust-nothing'
  | 'dust-fine'
  | 'thickness-none'
  | 'too-thick'
  | 'no-ground'
  | 'ground-missed'
  | 'ground-along'
  | 'stamps-cards'
  | 'pin-lost'
  | 'pin-found'
  | 'pin-surface-missing'
  | 'posture-off-surface'
  | 'leader-missing'
  | 'span-snap-missing'
  | 'span-too-short'
  | 'too-many-members'
  | 'sheet-no-uv'
  | 'sheet-no-columns'
  | 'sheet-no-room'
  | 'sheet-no-extent'
  | 'sheet-missed'
  | 'sheet-larger'
  | 'sheet-straddles'
  | 'sheet-stretched'
  | 'area-missing'
  | 'area-nothing'
  | 'area-open'
  | 'area-crosses'
  | 'area-volume-open'
  | 'area-too-many'
  | 'area-none'
  | 'area-no-uv'
  | 'mask-missing'
  | 'mask-picture-missing'
  | 'mask-no-uv'
  | 'mask-open'
  | 'mask-crosses'
  | 'mask-nothing'
  | 'mask-refuses'
  | 'uv-overlap'
  | 'uv-turned'
  | 'clip-missing'
  | 'cloth-short'
  | 'cloth-line-missing'
  | 'cloth-collider-missing'
  | 'cloth-no-uv'
  | 'sag-no-tube'
  | 'sag-missing'
  | 'shelf-missing'
  | 'stock-nothing'
  | 'stock-no-boards'
  | 'stock-no-board'
  | 'stock-no-depth'
  | 'stock-no-height'
  | 'stock-too-many'
  | 'stock-too-wide'
  | 'stock-too-deep'
  | 'stock-too-high'
  | 'release-waits'
  | 'release-many'
  | 'release-inside'
  | 'release-lost'
  | 'release-restless'
  | 'release-shaped'
  | 'release-region'
  | 'release-against'
  | 'release-missing'
  | 'travel-no-surface'
  | 'travel-no-path'
  | 'travel-no-uv'
  | 'travel-shaped'
  | 'pulley-open'
  | 'poses-none'
  | 'poses-no-clip'
  | 'poses-still'
  | 'link-broken'
  | 'link-ring'
  | 'link-no-field'
  | 'timed-no-field'
  | 'cycle'
  | 'failed';

/** Facts for the recipe's phrases, by name. */
export interface SpacingFacts {
  /** Length of all its paths, metres. */
  length: number;
  /** The insets at the beginning and at the end, metres. */
  insets: [number, number];
  /** Metres left between the insets. */
  usable: number;
  /** Distance between neighbouring slots after the leftover rule. */
  pitch: number;
  /** The least and the greatest of them, where a run stands on several paths. */
  pitches: [number, number];
  /** The pitch asked for; from the footprint where none is set. */
  askedPitch: number;
  /** How far looseness really goes, metres. */
  loose: number;
  /** Touch: what all sizes were multiplied by to come out even. */
  factor: number;
}

export const NO_FACTS: SpacingFacts = {
  length: 0,
  insets: [0, 0],
  usable: 0,
  pitch: 0,
  pitches: [0, 0],
  askedPitch: 0,
  loose: 0,
  factor: 1,
};

/** For each stroke of each path of a run: where its slots are in the arrays and how long it is. */
export interface PartRange {
  part: number;
  path: string;
  /** Which stroke of the path. */
  stroke: number;
  rows: number;
  start: number;
  end: number;
  length: number;
  closed: boolean;
  /** Its lengths are those at rest of the surface that its path lies on. */
  rest?: true;
}

/** A sheet laid flat: what its flat view shows. Metres on the layout from its lower left corner. */
export interface SheetLayout {
  width: number;
  height: number;
  closedAcross: boolean;
  closedUp: boolean;
  /** How its corner meets the surface's: as it is set, or as it was guessed. */
  match: { flipU: boolean; flipV: boolean; swap: boolean; otherSide: boolean };
  /** Three numbers a row of the surface, from the lowest up: its height, where it begins, how wide it is. */
  outline: Float64Array;
  /** x and y a placement. */
  at: Float64Array;
  /** Width and height of the place of each in the grid; 0 for free ones. */
  cell: Float64Array;
  /** How much larger a small square becomes, and how many degrees its corners are off, a placement. */
  distortion: Float32Array;
  /** xyz in the scene: round the border from the lower left corner, across first; and how far up that corner its sides run. */
  border: Float64Array;
  /** xyz: the lower left corner, a place across from it, and one up from it. */
  corner: Float64Array;
  /** Its lines as they run, x and y a place: metres of the layout, or shares of a cell where they are repeated. */
  lines: Float64Array[];
}

/** What is filled, and how densely. */
export interface AreaFacts {
  /** Square metres, or cubic ones. */
  size: number;
  dimensions: 2 | 3;
  /** Metres from one to the next: as asked for, from the footprint, or as it comes of the number. */
  distance: number;
  /** How many places there are, those too that a mask refuses. */
  places: number;
}

/** What the flat view of stock shows: its shelves from the front. Metres. */
export interface StockLayout {
  shelves: StockShelf[];
  facings: StockFacing[];
  /** Six numbers a placement: x0, x1 along the edge, y0, y1 over the board, z0, z1 behind the edge (z1 the front). */
  box: Float32Array;
}

/** A front edge with what is clear over it. */
interface StockShelf {
  /** Which of the arrangement's shelves, and which board of that. */
  part: number;
  board: number;
  length: number;
  depth: number;
  /** Infinity where nothing is above. */
  height: number;
  /** Of its edge's middle, in the scene. */
  at: [number, number, number];
  closed: boolean;
}

/** One place along an edge: the same prop in rows, stacked. */
export interface StockFacing {
  /** Its name in the document. */
  name: string;
  /** Index into `shelves`. */
  shelf: number;
  /** Index into the placements' `props`; -1 a pause. */
  prop: number;
  x0: number;
  x1: number;
  /** Its rows in the placements: from, and the one after the last. */
  start: number;
  end: number;
  /** How many rows behind each other, and the highest stack of them. */
  deep: number;
  high: number;
}

export interface ArrangementResult {
  placements: Placements;
  findings: Finding[];
  facts: SpacingFacts;
  parts: PartRange[];
  /** Its rows come in no order: what follows one is what is near it. */
  unordered?: true;
  sheet?: SheetLayout;
  area?: AreaFacts;
  lines?: DrawnLines;
  stock?: StockLayout;
  /** What the copies of bundles hold that it has placed; absent where it has placed none. */
  inside?: Inside;
  /**
   * Rows that are others than in the result that it was made from, and drawn among the same ones as there; absent where
   * all may be. The arrays may be those of that result, written over.
   */
  rows?: Int32Array;
}

/** Placements of nothing. */
export function emptyPlacements(): Placements {
  return allocatePlacements(0, []);
}

/** Placements of so many rows: all placed, of no prop, at the origin, of size 1. Rotations are nothing until they are written. */
export function allocatePlacements(count: number, props: string[]): Placements {
  return {
    count,
    props,
    slot: new Float64Array(count),
    state: new Uint8Array(count),
    prop: new Int32Array(count).fill(-1),
    position: new Float64Array(count * 3),
    rotation: new Float64Array(count * 4),
    scale: new Float64Array(count * 3).fill(1),
    s: new Float64Array(count),
  };
}

/** How many rows are in each state. */
export function countStates(placements: Placements): Record<GapReason, number> {
  const counts = new Array<number>(GAP_REASONS.length).fill(0);
  for (const state of placements.state) counts[state]++;
  return Object.fromEntries(GAP_REASONS.map((reason, i) => [reason, counts[i]])) as Record<GapReason, number>;
}
