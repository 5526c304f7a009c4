import { runSchema, type Run } from '../arrange/run/schema';
import { orderEntrySchema, type OrderEntry } from '../arrange/steps/schema';
import {
  pathSchema,
  pointSchema,
  propSchema,
  surfaceSchema,
  type MeshRef,
  type PathPoint,
  type PointsPath,
  type Prop,
  type Scene,
  type Surface,
  type SurfaceMesh,
} from './schema';
import { SCENE_VERSION } from './version';

/** The threads in the order in which new arrangements take them. */
export const THREADS = ['madder', 'woad', 'weld', 'moss', 'plum'] as const;
export type Thread = (typeof THREADS)[number];

export function emptyScene(name: string): Scene {
  return {
    format: 'clothesline',
    version: SCENE_VERSION,
    name,
    units: 'm',
    nextId: 1,
    props: [],
    paths: [],
    surfaces: [],
    arrangements: [],
    view: null,
    aside: [],
  };
}

/** A fresh id such as "run7"; raises the scene's counter. Ids are never used again. */
export function takeId(
  scene: Pick<Scene, 'nextId'>,
  kind:
    | 'prop'
    | 'path'
    | 'pt'
    | 'surface'
    | 'run'
    | 'entry'
    | 'keep'
    | 'pegs'
    | 'peg'
    | 'riders'
    | 'spans'
    | 'sheet'
    | 'item'
    | 'curve'
    | 'deformer',
): string {
  return `${kind}${scene.nextId++}`;
}

/** The dye that the fewest arrangements have. */
export function newThread(scene: Scene): Thread {
  const count = (t: Thread) => scene.arrangements.filter((a) => a.thread === t).length;
  return [...THREADS].sort((a, b) => count(a) - count(b))[0];
}

export const newProp = (id: string, name: string, mesh: MeshRef): Prop =>
  propSchema.parse({ id, name, mesh });
export const newSurface = (id: string, name: string, mesh: SurfaceMesh): Surface =>
  surfaceSchema.parse({ id, name, mesh });
export const newPoint = (
  id: string,
  kind: PathPoint['kind'],
  position: readonly [number, number, number],
): PathPoint => pointSchema.parse({ id, kind, position });
export const newPath = (id: string, name: string, points: PathPoint[], closed = false): PointsPath =>
  pathSchema.parse({ id, name, source: { kind: 'points', points }, closed }) as PointsPath;
export const newEntry = (id: string, item: OrderEntry['item']): OrderEntry =>
  orderEntrySchema.parse({ id, item });

/** A run with every step at its default: from the props' own footprint, upright, along the path, nothing random. */
export function newRun(
  id: string,
  name: string,
  thread: Thread,
  path: string | null,
  entries: OrderEntry[],
): Run {
  return runSchema.parse({
    id,
    kind: 'run',
    name,
    thread,
    paths: path ? [{ part: 0, path }] : [],
    order: { entries },
    spacing: {},
    ground: {},
    facing: {},
    variation: {},
    gaps: {},
    hand: {},
    pulley: {},
  });
}
