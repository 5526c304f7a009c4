import { THREADS, type Thread } from '../arrange/base';
import { newArrangement, type Arrangement, type KindName } from '../arrange/registry';
import { orderEntrySchema, type OrderEntry } from '../arrange/steps/schema';
import { pathSchema, pointSchema, type PathPoint, type PointsPath } from '../curve/schema';
import { propSchema, type Prop } from '../mesh/propSchema';
import { surfaceSchema, type Surface, type SurfaceMesh } from '../mesh/surfaceSchema';
import type { MeshRef } from '../mesh/meshRef';
import { printSchema } from './printSchema';
import type { Scene } from './schema';
import { SCENE_VERSION } from './version';

/** A scene in which nothing is yet. */
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
    materials: [],
    arrangements: [],
    masks: [],
    measures: [],
    bundles: [],
    timed: [],
    links: [],
    light: null,
    lamps: [],
    viewpoints: [],
    print: printSchema.parse({}),
    view: null,
    aside: [],
  };
}

/** What ids are given to; each begins with its sort. */
type Sort =
  | 'mask'
  | 'layer'
  | 'stroke'
  | 'prop'
  | 'path'
  | 'pt'
  | 'surface'
  | 'entry'
  | 'keep'
  | 'peg'
  | 'item'
  | 'curve'
  | 'deformer'
  | KindName;

/** A fresh id such as "run7"; raises the scene's counter. Ids are never used again. */
export const takeId = (scene: Pick<Scene, 'nextId'>, sort: Sort | (string & {})): string =>
  `${sort}${scene.nextId++}`;

/** The dye that the fewest arrangements have. */
export function newThread(scene: Scene): Thread {
  const count = (t: Thread) => scene.arrangements.filter((a) => a.thread === t).length;
  return [...THREADS].sort((a, b) => count(a) - count(b))[0];
}

/** A prop of a mesh, its foot at the centre of its base, its front Z. */
export const newProp = (id: string, name: string, mesh: MeshRef): Prop =>
  propSchema.parse({ id, name, mesh });
/** A surface of a mesh at the origin, as large as it is. */
export const newSurface = (id: string, name: string, mesh: SurfaceMesh): Surface =>
  surfaceSchema.parse({ id, name, mesh });
/** A point of a path, sharp and without handles, roll or zone. */
export const newPoint = (
  id: string,
  kind: PathPoint['kind'],
  position: readonly [number, number, number],
): PathPoint => pointSchema.parse({ id, kind, position });
/** A path through points. */
export const newPath = (id: string, name: string, points: PathPoint[], closed = false): PointsPath =>
  pathSchema.parse({ id, name, source: { kind: 'points', points }, closed }) as PointsPath;
/** An entry of an order: once in turn, of weight 1, in every zone. */
export const newEntry = (id: string, item: OrderEntry['item']): OrderEntry =>
  orderEntrySchema.parse({ id, item });

/** A run with every step at its default: from the props' own footprint, upright, along the path, nothing random. */
export const newRun = (
  id: string,
  name: string,
  thread: Thread,
  path: string | null,
  entries: OrderEntry[],
): Extract<Arrangement, { kind: 'run' }> =>
  newArrangement('run', { id, name, thread }, { paths: path ? [{ part: 0, path }] : [], order: { entries } });
