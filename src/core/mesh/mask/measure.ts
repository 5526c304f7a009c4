import type { CompiledPath } from '../../curve/compile';
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
import type { LayerOf, MaskLayer } from './schema';

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
export type LayerTrouble = (
  kind: 'mask-no-uv' | 'mask-picture-missing' | 'mask-missing',
  layer: MaskLayer,
  id?: string,
) => void;

/** What a layer reads at places, in its own measure. What is farther than it can matter is only known to be so. */
export function measure(
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
      return coverHeights(places, meshes(layer), reachOf(layer));
    case 'outline':
      return outlineDistances(places, meshes(layer), reachOf(layer));
    case 'water': {
      const water =
        layer.surface === null ? layer.level : found([layer.surface], (id) => sources.thing(id))[0];
      return water === undefined ? new Float64Array(places.count).fill(NaN) : aboveWater(places, water);
    }
    case 'inside':
      return depthsInside(
        places,
        strokes(layer.paths).filter((s) => s.closed),
        reachOf(layer),
      );
    case 'distance':
      return distances(layer, places, strokes, meshes);
  }
}

/**
 * Metres beyond which a layer is as it is at its end, in steps of the double: dragging that end asks for what is farther
 * only now and then.
 */
export function reachOf({ from, to }: Pick<MaskLayer, 'from' | 'to'>): number {
  const far = Math.max(Math.abs(from), Math.abs(to), 1e-3);
  let reach = 1;
  while (reach < far * 1.001) reach *= 2;
  while (reach / 2 >= far * 1.001) reach /= 2;
  return reach;
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
  const most = reachOf(layer);
  const lines = layer.of === 'paths' ? [lineMesh(strokes(layer.paths), above)] : [];
  const things = layer.of === 'things' ? meshes(layer) : [];
  const own = (mesh: TriMesh): TriMesh[] =>
    layer.of === 'border' ? [borderMesh(mesh)] : layer.of === 'faces' ? [facesOf(mesh, layer.faces)] : [];
  const all = (mesh: TriMesh) => [...lines, ...things, ...own(mesh)];
  if (layer.measured === 'along') return distancesAlong(places, all);
  const seen = (mesh: TriMesh) => (above ? flattened(mesh) : mesh);
  const shared = [...lines, ...things.map(seen)];
  if (layer.of === 'paths' || layer.of === 'things') return distancesTo(places, shared, above, most);
  // Borders and faces are those of the surface that a place is on.
  const out = new Float64Array(places.count).fill(Infinity);
  places.grounds.forEach(({ read: mesh }, g) => {
    const rows = Uint32Array.from(places.ground.keys()).filter((i) => places.ground[i] === g);
    const position = new Float64Array(rows.length * 3);
    rows.forEach((row, i) => position.set(places.position.subarray(row * 3, row * 3 + 3), i * 3));
    const away = distancesTo({ ...places, count: rows.length, position }, own(mesh).map(seen), above, most);
    rows.forEach((row, i) => (out[row] = away[i]));
  });
  return out;
}
