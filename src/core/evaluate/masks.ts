import { placedMesh } from '../arrange/steps/placedMesh';
import type { ArrangeContext } from '../arrange/context';
import type { Finding } from '../arrange/result';
import { maskField, type MaskField } from '../mesh/mask/field';
import type { MaskSources } from '../mesh/mask/measure';
import { maskNeeds } from '../mesh/mask/needs';
import type { LayerOf, Mask } from '../mesh/mask/schema';
import { selfCrossing } from '../mesh/scatter/crossing';
import type { TriMesh } from '../mesh/triMesh';

/** A mask of the scene: what is wrong with it. What it gives is asked for where there are places. */
export interface MaskResult {
  id: string;
  /** Changes whenever any value of it may. */
  key: string;
  findings: Finding[];
}

/** What masks are made from. */
export interface MaskContext {
  arrange: ArrangeContext;
  picture: MaskSources['picture'];
  /** A surface as it stands at time 0. */
  still(id: string): TriMesh | undefined;
  keyOf: MaskSources['keyOf'];
}

/** Ids of the nodes that a mask waits for. */
export function maskWaitsFor(mask: Mask): string[] {
  const { paths, surfaces, arrangements } = maskNeeds(mask);
  return [...paths, ...surfaces, ...arrangements];
}

/** Hashes of the pictures of a mask. */
export const maskPictures = ({ layers }: Mask): string[] =>
  layers.flatMap((l) => (l.on && l.kind === 'picture' && l.picture ? [l.picture.hash] : []));

/** Makes a mask ready to be read, and looks for what its layers name and the scene has not. */
export function workedMask(
  mask: Mask,
  key: string,
  ring: string[] | undefined,
  context: MaskContext,
): { field: MaskField; result: MaskResult } {
  const { arrange } = context;
  const sources: MaskSources = {
    path: (id) => {
      const compiled = arrange.path(id);
      return compiled?.ok ? compiled.strokes : undefined;
    },
    thing(id) {
      const placements = arrange.arrangement?.(id);
      return placements ? placedMesh(placements, arrange) : context.still(id);
    },
    picture: context.picture,
    keyOf: context.keyOf,
  };
  const findings: Finding[] = [];
  const say = (kind: Finding['kind'], detail: Finding['detail']) =>
    findings.push({ kind, severity: ring ? 'error' : 'warning', node: mask.id, detail });
  // What waits for itself is read nowhere: everything passes.
  if (ring) say('cycle', { ring: ring.join(' → ') });
  else lookThrough(mask, sources, arrange, say);
  const field = maskField(ring ? { ...mask, layers: [] } : mask, key, sources);
  return { field, result: { id: mask.id, key, findings } };
}

function lookThrough(
  mask: Mask,
  sources: MaskSources,
  { path }: ArrangeContext,
  say: (kind: Finding['kind'], detail: Finding['detail']) => void,
): void {
  mask.layers.forEach((layer, i) => {
    if (!layer.on) return;
    const at = { layer: layer.kind, number: i + 1 };
    const { paths, surfaces, arrangements } = maskNeeds({ ...mask, layers: [layer] });
    for (const id of paths) if (!path(id)?.ok) say('mask-missing', { ...at, path: id });
    for (const id of surfaces) if (!sources.thing(id)) say('mask-missing', { ...at, surface: id });
    for (const id of arrangements) if (!sources.thing(id)) say('mask-missing', { ...at, arrangement: id });
    if (layer.kind === 'picture' && !(layer.picture && sources.picture(layer.picture.hash)))
      say('mask-picture-missing', at);
    if (layer.kind === 'inside' && paths.some((id) => isOpen(sources, id))) say('mask-open', at);
    if (layer.kind === 'inside')
      for (const id of paths)
        if (sources.path(id)?.some((s) => s.closed && selfCrossing(s)))
          say('mask-crosses', { ...at, path: id });
    if (namesNothing(layer)) say('mask-nothing', at);
  });
}

const isOpen = (sources: MaskSources, id: string) => sources.path(id)?.every((s) => !s.closed) ?? false;

/** Whether a layer that goes by other things names none. */
function namesNothing(layer: Mask['layers'][number]): boolean {
  const things = ({ surfaces, arrangements }: LayerOf<'covered'>) =>
    surfaces.length + arrangements.length === 0;
  if (layer.kind === 'covered' || layer.kind === 'outline') return things(layer as LayerOf<'covered'>);
  if (layer.kind === 'inside') return layer.paths.length === 0;
  if (layer.kind !== 'distance' || layer.of === 'border') return false;
  return layer.of === 'paths'
    ? layer.paths.length === 0
    : layer.of === 'faces'
      ? layer.faces.length === 0
      : things(layer as never);
}
