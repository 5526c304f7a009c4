import type { CompiledPath } from '../../curve/compile';
import { rampAt } from '../../math/ramp';
import type { GreyPicture } from '../make/picture';
import type { TriMesh } from '../triMesh';
import { aboveWater, coverHeights, distancesTo, flattened, outlineDistances } from './above';
import { distancesAlong } from './along';
import { depthsInside } from './inside';
import { borderMesh, facesOf, lineMesh } from './lineMesh';
import { painted } from './painted';
import { brightness } from './pictured';
import type { MaskPlaces } from './places';
import { curvatures, facings, heights, patches, slopes, uvs } from './readings';
import type { LayerOf, Mask, MaskLayer } from './schema';

/** Where the layers of a mask find what they name. Undefined: the scene does not have it. */
export interface MaskSources {
  path(id: string): readonly CompiledPath[] | undefined;
  /** A surface, or all that an arrangement has placed, as it stands in the scene at time 0. */
  thing(id: string): TriMesh | undefined;
  picture(hash: string): GreyPicture | undefined;
  /** Changes whenever that of the id does. */
  keyOf(id: string): string | undefined;
}

/** What is wrong with a layer where it is read. */
type LayerTrouble = (
  kind: 'mask-no-uv' | 'mask-picture-missing' | 'mask-missing',
  layer: MaskLayer,
  id?: string,
) => void;

/** A mask to be read: as often as one likes, wherever there are places. */
export interface MaskField {
  mask: Mask;
  /** Changes whenever any value of it may. */
  key: string;
  /** A number from 0 to 1 for each place. */
  at(places: MaskPlaces, trouble?: LayerTrouble): Float64Array;
  /** What one layer alone comes to, turned over where it is. */
  layerAt(layer: MaskLayer, places: MaskPlaces, trouble?: LayerTrouble): Float64Array;
}

/** Ids of the nodes that a mask's layers name. */
export function maskNeeds({ layers }: Mask): { paths: string[]; surfaces: string[]; arrangements: string[] } {
  const on = layers.filter((l) => l.on);
  const all = (of: (l: MaskLayer) => readonly string[]) => [...new Set(on.flatMap(of))];
  const named = (l: MaskLayer) =>
    l.kind === 'covered' || l.kind === 'outline' || (l.kind === 'distance' && l.of === 'things');
  return {
    paths: all((l) => (l.kind === 'inside' || (l.kind === 'distance' && l.of === 'paths') ? l.paths : [])),
    surfaces: all((l) =>
      named(l) ? (l as LayerOf<'covered'>).surfaces : l.kind === 'water' && l.surface ? [l.surface] : [],
    ),
    arrangements: all((l) => (named(l) ? (l as LayerOf<'covered'>).arrangements : [])),
  };
}

/** Layers that are read off the surface that a place is on. */
const READ = new Set(['slope', 'facing', 'curvature', 'picture', 'painted', 'u', 'v', 'distance', 'noise']);

/** Whether anything of a mask depends on the surface that a place is on. */
export const readsSurface = ({ layers }: Mask): boolean => layers.some((l) => l.on && READ.has(l.kind));

/** The share between its beginning and its end that a measure stands for, 0–1: where both are one, a step. */
function shareOf({ from, to }: Pick<MaskLayer, 'from' | 'to'>, measure: number): number {
  if (from === to) return measure >= from ? 1 : 0;
  return Math.min(1, Math.max(0, (measure - from) / (to - from)));
}

/** What a layer makes of its measures: shares, through its ramp, turned over. */
function shaped(layer: MaskLayer, measures: Float64Array): Float64Array {
  const { ramp, over } = layer;
  return measures.map((m) => {
    // What cannot be read lets everything pass.
    if (Number.isNaN(m)) return 1;
    const share = shareOf(layer, m);
    const value = ramp.length > 0 ? rampAt(ramp, share, share) : share;
    return over ? 1 - value : value;
  });
}

/** Puts layers together in place: into the first. */
function combine(how: Mask['combine'], values: Float64Array, next: Float64Array): void {
  for (let i = 0; i < values.length; i++)
    values[i] =
      how === 'product'
        ? values[i] * next[i]
        : how === 'largest'
          ? Math.max(values[i], next[i])
          : Math.max(0, values[i] - next[i]);
}

interface Read {
  measures: Float64Array;
  /** What was wrong, to be told each time. */
  troubles: Parameters<LayerTrouble>[];
}

/** What was read, by place and by what it depends on: a ramp that is dragged reads nothing again. */
const read = new WeakMap<MaskPlaces, Map<string, Read>>();
const MOST_READ = 24;

/**
 * A mask made ready to be read.
 * @param key changes whenever the mask, or anything that its layers name, does
 */
export function maskField(mask: Mask, key: string, sources: MaskSources): MaskField {
  const layerAt: MaskField['layerAt'] = (layer, places, trouble) =>
    shaped(layer, measured(layer, places, sources, trouble ?? (() => {})));
  return {
    mask,
    key,
    layerAt,
    at(places, trouble) {
      const layers = mask.layers.filter((l) => l.on);
      if (layers.length === 0) return new Float64Array(places.count).fill(1);
      const values = layerAt(layers[0], places, trouble);
      for (const layer of layers.slice(1)) combine(mask.combine, values, layerAt(layer, places, trouble));
      return values;
    },
  };
}

function measured(
  layer: MaskLayer,
  places: MaskPlaces,
  sources: MaskSources,
  trouble: LayerTrouble,
): Float64Array {
  // It keeps its own, stroke by stroke.
  if (layer.kind === 'painted') return painted(places, layer);
  const { ramp: _r, from: _f, to: _t, over: _o, on: _on, id: _id, ...own } = layer;
  const { paths, surfaces, arrangements } = maskNeeds({ layers: [layer] } as Mask);
  const key = JSON.stringify([
    own,
    ...[...paths, ...surfaces, ...arrangements].map((id) => sources.keyOf(id)),
  ]);
  let of = read.get(places);
  if (!of) read.set(places, (of = new Map()));
  let have = of.get(key);
  if (!have) {
    const troubles: Read['troubles'] = [];
    have = { measures: measure(layer, places, sources, (...said) => troubles.push(said)), troubles };
    of.set(key, have);
    if (of.size > MOST_READ) of.delete(of.keys().next().value!);
  }
  for (const [kind, , id] of have.troubles) trouble(kind, layer, id);
  return have.measures;
}

function measure(
  layer: MaskLayer,
  places: MaskPlaces,
  sources: MaskSources,
  trouble: LayerTrouble,
): Float64Array {
  const found = <T>(ids: readonly string[], of: (id: string) => T | undefined): T[] =>
    ids.flatMap((id) => {
      const one = of(id);
      if (one === undefined) trouble('mask-missing', layer, id);
      return one === undefined ? [] : [one];
    });
  const strokes = (ids: readonly string[]) => found(ids, (id) => sources.path(id)).flat();
  const meshes = (l: { surfaces: readonly string[]; arrangements: readonly string[] }) =>
    found([...l.surfaces, ...l.arrangements], (id) => sources.thing(id));
  switch (layer.kind) {
    case 'slope':
      return slopes(places);
    case 'height':
      return heights(places);
    case 'facing':
      return facings(places, layer);
    case 'curvature':
      return curvatures(places);
    case 'noise':
      return patches(places, layer);
    case 'u':
    case 'v':
      return told(uvs(places, layer.kind === 'u' ? 0 : 1), layer, trouble);
    case 'picture': {
      const picture = layer.picture && sources.picture(layer.picture.hash);
      if (!picture) {
        trouble('mask-picture-missing', layer);
        return new Float64Array(places.count).fill(NaN);
      }
      return told(brightness(places, layer, picture), layer, trouble);
    }
    case 'painted':
      return painted(places, layer);
    case 'covered':
      return coverHeights(places, meshes(layer));
    case 'outline':
      return outlineDistances(places, meshes(layer));
    case 'water': {
      const water =
        layer.surface === null ? layer.level : found([layer.surface], (id) => sources.thing(id))[0];
      return water === undefined ? new Float64Array(places.count).fill(NaN) : aboveWater(places, water);
    }
    case 'inside':
      return depthsInside(
        places,
        strokes(layer.paths).filter((s) => s.closed),
      );
    case 'distance':
      return distances(layer, places, strokes, meshes);
  }
}

/** Says once that a surface has no texture coordinates where they are asked for. */
function told(measures: Float64Array, layer: MaskLayer, trouble: LayerTrouble): Float64Array {
  if (measures.some(Number.isNaN)) trouble('mask-no-uv', layer);
  return measures;
}

function distances(
  layer: LayerOf<'distance'>,
  places: MaskPlaces,
  strokes: (ids: readonly string[]) => CompiledPath[],
  meshes: (l: LayerOf<'distance'>) => TriMesh[],
): Float64Array {
  const above = layer.measured === 'above';
  const lines = layer.of === 'paths' ? [lineMesh(strokes(layer.paths), above)] : [];
  const things = layer.of === 'things' ? meshes(layer) : [];
  const own = (mesh: TriMesh): TriMesh[] =>
    layer.of === 'border' ? [borderMesh(mesh)] : layer.of === 'faces' ? [facesOf(mesh, layer.faces)] : [];
  const all = (mesh: TriMesh) => [...lines, ...things, ...own(mesh)];
  if (layer.measured === 'along') return distancesAlong(places, all);
  const seen = (mesh: TriMesh) => (above ? flattened(mesh) : mesh);
  const shared = [...lines, ...things.map(seen)];
  if (layer.of === 'paths' || layer.of === 'things') return distancesTo(places, shared, above);
  // Borders and faces are those of the surface that a place is on.
  const out = new Float64Array(places.count).fill(Infinity);
  places.grounds.forEach(({ read: mesh }, g) => {
    const rows = Uint32Array.from(places.ground.keys()).filter((i) => places.ground[i] === g);
    const position = new Float64Array(rows.length * 3);
    rows.forEach((row, i) => position.set(places.position.subarray(row * 3, row * 3 + 3), i * 3));
    const away = distancesTo({ ...places, count: rows.length, position }, own(mesh).map(seen), above);
    rows.forEach((row, i) => (out[row] = away[i]));
  });
  return out;
}
