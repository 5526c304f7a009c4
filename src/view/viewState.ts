import { boxOf } from './fit';
import { developsAtFirst, keepDevelops } from './develop/setting';
import { dequal } from 'dequal/lite';
import { create } from 'zustand';
import type { Tie } from '@/core/curve/hang/schema';
import type { Vec3 } from '@/core/math/vec3';
import type { PaintStroke } from '@/core/mesh/mask/schema';
import { NO_MEASURING, type Measuring } from './measure/measuring';
import type { Drawn } from './many/plan';
import type { PegPlace } from './pegPlace';
import type { Snap } from './snap/snap';

export type ViewMode = 'free' | 'top' | 'front' | 'side';
/** "hold": places of cloth are held by a click; "faces": a layer of a mask gets faces to measure from. */
export type Tool =
  'pick' | 'draw' | 'edge' | 'peg' | 'paint' | 'hold' | 'faces' | 'measure' | 'snap-point' | 'ask';
/** Where drawn points go: what is under the pointer, the ground alone, or an upright or the view's own plane. */
type DrawPlane = 'auto' | 'ground' | 'x' | 'z' | 'view';

/** Points of a path that is being drawn. */
export interface Drawing {
  points: Vec3[];
  /** What each of them is connected to, if anything. */
  ties: (Tie | null)[];
  /** Where the next point would go. */
  ahead: Vec3 | null;
  /** Whether the pointer is on the first point, so that a click closes. */
  closing: boolean;
  /** What the next point snaps to. */
  snap: Snap | null;
  /** The stroke that is gone on with, or the path that gets another one. */
  onto: { path: string; point: string | null } | null;
}

/** What the peg tool holds: a prop, and where it would go. */
export interface Pegging {
  turnDeg: number;
  lift: number;
  size: number;
  ahead: PegPlace | null;
  /** What a peg that is slid snaps to. */
  snap: Snap | null;
}

/** The brush, and where it would paint. */
export interface Brush {
  does: PaintStroke['does'];
  /** What it paints: how many there are, how large, which way they turn, which prop; or it selects them. */
  what: 'density' | 'size' | 'turn' | 'prop' | 'slots';
  /** The prop that it gives; null: the first of the basket. */
  prop: string | null;
  /** Metres. */
  radius: number;
  softness: number;
  strength: number;
  /** The layer that is painted, where one was chosen: its mask, and itself. */
  layer: { mask: string; layer: string } | null;
  ahead: { at: Vec3; normal: Vec3 } | null;
}

/** What is shown on a surface beside its looks. */
export type SurfaceMarks = 'none' | 'normals' | 'uv' | 'slope';

/** How the scene is looked at, and what the pointer does in it. Not part of the document. */
export interface ViewState {
  mode: ViewMode;
  tool: Tool;
  drawing: Drawing;
  plane: DrawPlane;
  /** What kind drawn points are. */
  pointKind: 'smooth' | 'corner';
  /** What is drawn on a surface stays on it. */
  stays: boolean;
  /** What a dragged point snaps to. */
  dragSnap: Snap | null;
  /** The edge loop under the pointer, while one is picked: its line in the scene. */
  edge: { surface: string; at: Vec3; line: Float64Array } | null;
  /** Where the keys' cursor is, pixels of the view; null while it is not moved by keys. */
  keyCursor: { x: number; y: number } | null;
  /** A box being dragged over what is to be taken in, in pixels. */
  box: { x: number; y: number; x1: number; y1: number } | null;
  /** Rises when something should be fitted into the view: the scene, or just the box that is to be looked at. */
  fitAsked: number;
  lookAt: { min: Vec3; max: Vec3 } | null;
  /** The camera moves right now: drawn coarser. */
  moving: boolean;
  /** Whether something is dragged that changes the scene, and the picture is coarser for that. */
  coarse: boolean;
  /** A prop dragged from the basket, over the scene. */
  dragged: { prop: string; path: string | null } | null;
  /** Nodes of the scene that are waited for (meshes, pictures). */
  loading: number;
  pegging: Pegging;
  brush: Brush;
  measuring: Measuring;
  /** The prop that gets snap points by clicks, and why the last one gave none. */
  snapPick: { prop: string; said: string | null } | null;
  /** The layer that gets faces, while they are picked, and why the last click took none. */
  faces: { mask: string; layer: string; said: string | null } | null;
  /** The mask that is shown in shades on its surfaces. */
  shades: string | null;
  /** What is shown on surfaces, by id. */
  marks: Record<string, SurfaceMarks>;
  /** Props of sheets are coloured by how they are stretched. */
  distortion: boolean;
  /** How many props the last frame has drawn, and how; and how many stamps lie in the materials of surfaces. */
  drawn: Drawn & { stamps: number };
  /** Whether the scene can be drawn: not where the browser has no WebGL, nor for as long as its context is lost. */
  picture: 'drawn' | 'lost' | 'none';
  /** The viewpoint whose frame lies over the view. */
  viewpoint: string | null;
  /** The frame is parted in thirds. */
  thirds: boolean;
  /** Where the view is asked to go to, anew each time. */
  goTo: { eye: Vec3; aim: Vec3 } | null;
  /** A still picture is being made: the view itself does not develop. */
  makingStill: boolean;
  /** The light put in by hand that is worked on. */
  lamp: string | null;
  /** So many times brighter the picture is shown where its exposure is measured. */
  measured: number;
  /** Frames drawn since the page was opened. */
  frames: number;
  /** The picture develops while nothing moves, and has done so. */
  develops: boolean;
  developed: boolean;
  /** Frames that the picture at rest has been added up from so far. */
  added: number;
}

const NO_DRAWING: Drawing = { points: [], ties: [], ahead: null, closing: false, snap: null, onto: null };

/** What is of one scene, and not of the next one that is opened. */
const OF_A_SCENE = {
  mode: 'free',
  edge: null,
  fitAsked: 0,
  lookAt: null,
  marks: {},
  distortion: false,
  lamp: null,
  viewpoint: null,
  goTo: null,
  measured: 1,
  snapPick: null,
  faces: null,
  shades: null,
} satisfies Partial<ViewState>;

export const useView = create<ViewState>(() => ({
  ...OF_A_SCENE,
  tool: 'pick',
  drawing: NO_DRAWING,
  plane: 'auto',
  pointKind: 'smooth',
  stays: true,
  dragSnap: null,
  keyCursor: null,
  box: null,
  moving: false,
  coarse: false,
  dragged: null,
  loading: 0,
  thirds: false,
  makingStill: false,
  pegging: { turnDeg: 0, lift: 0, size: 1, ahead: null, snap: null },
  brush: {
    does: 'add',
    what: 'density',
    prop: null,
    radius: 1,
    softness: 0.5,
    strength: 1,
    layer: null,
    ahead: null,
  },
  measuring: NO_MEASURING,
  drawn: { full: 0, simple: 0, boxes: 0, points: 0, left: 0, stamps: 0 },
  picture: 'drawn',
  frames: 0,
  develops: developsAtFirst(),
  developed: false,
  added: 0,
}));

const set = useView.setState;

/** @param onto for drawing: a path that gets another stroke */
export function chooseTool(tool: Tool, onto: Drawing['onto'] = null): void {
  set((s) => ({
    tool,
    drawing: { ...NO_DRAWING, onto },
    edge: null,
    measuring: NO_MEASURING,
    pegging: { ...s.pegging, ahead: null, snap: null },
    brush: { ...s.brush, ahead: null, layer: null },
  }));
}
/** For a scene that is opened: nothing is in hand, and nothing is left of how the one before was looked at. */
export function viewAnew(): void {
  chooseTool('pick');
  set(OF_A_SCENE);
}
export const setDrawAs = (values: Partial<Pick<ViewState, 'plane' | 'pointKind' | 'stays'>>): void =>
  set(values);
export const setDragSnap = (dragSnap: Snap | null): void => set({ dragSnap });
export const setMode = (mode: ViewMode): void => set({ mode });
export const setSurfaceMarks = (id: string, value: SurfaceMarks): void =>
  set((s) => ({ marks: { ...s.marks, [id]: value } }));
export const setPegging = (values: Partial<Pegging>): void =>
  set((s) => ({ pegging: { ...s.pegging, ...values } }));
export const setBrush = (values: Partial<Brush>): void => set((s) => ({ brush: { ...s.brush, ...values } }));
export const setShades = (shades: string | null): void => set({ shades });
export function setDrawn(drawn: ViewState['drawn']): void {
  if (!dequal(useView.getState().drawn, drawn)) set({ drawn });
}
export const showDistortion = (distortion: boolean): void => set({ distortion });
export function setDevelops(develops: boolean): void {
  keepDevelops(develops);
  set({ develops });
}
export const askFit = (): void => set((s) => ({ fitAsked: s.fitAsked + 1, lookAt: null }));
/** Metres seen around places, where they are known by their feet alone: with them is seen what stands around. */
const AROUND = 2;
/** Looks at places. @param around metres that are seen around them */
export function lookAt(places: readonly Vec3[], around = AROUND): void {
  if (places.length === 0) return;
  const { min, max } = boxOf(places);
  const by = (box: Vec3, d: number): Vec3 => [box[0] + d, box[1] + d, box[2] + d];
  set((s) => ({ fitAsked: s.fitAsked + 1, lookAt: { min: by(min, -around), max: by(max, around) } }));
}
export const setDrawing = (drawing: Partial<Drawing>): void =>
  set((s) => ({ drawing: { ...s.drawing, ...drawing } }));
export const waitFor = async <T>(work: Promise<T>): Promise<T> => {
  set((s) => ({ loading: s.loading + 1 }));
  try {
    return await work;
  } finally {
    set((s) => ({ loading: s.loading - 1 }));
  }
};
