import type { CompiledPath } from '../../curve/compile';
import { polyline } from '../../curve/sample';
import { channel, random01 } from '../../math/random';
import { selfCrossing } from '../../mesh/scatter/crossing';
import { outlineOf, type Outline } from '../../mesh/scatter/outline';
import type { ArrangeContext } from '../context';
import {
  allocatePlacements,
  NO_FACTS,
  type AreaFacts,
  type ArrangementResult,
  type Finding,
  type Placements,
} from '../result';
import { boundsOf, sayInto, type Say } from '../say';
import { settle, type Posing } from '../settle';
import type { Sites } from '../sites';
import type { StandsBy } from './dirty';
import { settledOnce, standsAlone } from './settledOnce';
import { swapByHand } from '../steps/byHand';
import { wholeGaps } from '../steps/gapsSchema';
import { keepOutsAround, keptOutAt } from '../steps/keepOuts';
import { weightedAt } from '../steps/weighted';
import { brush } from './brushed';
import { densityOf, ownDistance, tooMany, type Density } from './density';
import { inOutline } from './inOutline';
import { inVolume, insideOf, isOpen } from './inVolume';
import { groundArea, onSurfaces } from './onSurfaces';
import { boxAbout, withLids } from '../../mesh/closed';
import { somePlaces, type MaskPlaces } from '../../mesh/mask/places';
import { turnFronts } from './fronts';
import { maskedPlaces } from './masked';
import { remembered } from './remember';
import { propsOf, type Scatter, type ScatterOver } from './schema';
import type { Ground, SiteList } from './sites';

const PICK = channel('scatter.pick');

/** What is filled: how large it is, and its places at a density. */
interface Area {
  /** What its places follow from, by identity, beside the settings. */
  of: readonly object[];
  size: number;
  dimensions: 2 | 3;
  places(density: Density): SiteList;
}

/**
 * Works a scatter out: places over what it fills, each with a prop drawn for it alone. Without props its places are
 * pauses: one sees what will be filled. Nothing throws for what the schema admits.
 */
export function evaluateScatter(scatter: Scatter, context: ArrangeContext): ArrangementResult {
  const findings: Finding[] = [];
  const say = sayInto(findings, scatter.id);
  const ids = propsOf(scatter);
  const bounds = boundsOf(ids, context, say);
  const none = (area?: AreaFacts): ArrangementResult => ({
    placements: allocatePlacements(0, ids),
    findings,
    facts: NO_FACTS,
    parts: [],
    ...(area && { area }),
  });
  const area = areaOf(scatter, context, say);
  if (!area) return none();
  const { size, dimensions } = area;
  const density = densityOf(scatter.spread, ownDistance(scatter, bounds, dimensions === 3), size, dimensions);
  const facts: AreaFacts = { size, dimensions, distance: density.distance, places: 0 };
  const much = tooMany(density, scatter.spread, size, dimensions);
  if (much) {
    say('area-too-many', much);
    return none(facts);
  }
  if (scatter.props.length === 0) say('no-props', {});
  else if (scatter.props.every((p) => p.weight === 0)) say('order-empty', {});
  const list = placesOf(scatter, area, density);
  facts.places = list.count;
  if (list.count === 0 && density.number > 0)
    say(asksForUv(scatter) && lacksUv(area) ? 'area-no-uv' : 'area-none', {}, 'warning');
  const { rows, reads } = maskedPlaces(scatter, list, context, say);
  const settled = (some: SiteList, read?: MaskPlaces) =>
    settle(
      { ...scatter, posing: posingOf(scatter), gaps: wholeGaps(scatter.gaps) },
      [filled(scatter, some, read, ids, context, say)],
      { ids, bounds },
      context,
      say,
    );
  const result = (placements: Placements): ArrangementResult => ({
    placements,
    findings,
    facts: NO_FACTS,
    parts: [],
    unordered: true,
    area: facts,
  });
  if ((rows || reads) && standsAlone(scatter))
    return result(
      settledOnce(
        scatter,
        list,
        rows ?? allOf(list),
        ids,
        standsBy(scatter, reads, context),
        reads,
        (some, due) => settled(some, reads && somePlaces(reads, due)).placements,
      ),
    );
  const all = rows ? settled(list.only(rows), reads && somePlaces(reads, rows)) : settled(list, reads);
  findings.push(...all.findings);
  return result(all.placements);
}

/** What its places go by where they are: its brush, and the masks of its variation. */
const standsBy = (
  { brushed, variation }: Scatter,
  reads: MaskPlaces | undefined,
  context: ArrangeContext,
): StandsBy => ({
  brushed,
  values: [variation.mask, variation.sizeMask].map(
    (id) => (id && reads && context.mask?.(id)?.at(reads)) || null,
  ),
});

const everyRow = new WeakMap<SiteList, Uint32Array>();

/** All rows of a list. */
function allOf(list: SiteList): Uint32Array {
  let rows = everyRow.get(list);
  if (!rows) everyRow.set(list, (rows = Uint32Array.from({ length: list.count }, (_, i) => i)));
  return rows;
}

/** Headings of its own are in the fronts of its places already. */
const posingOf = ({ stand }: Scatter): Posing => ({
  ...stand,
  heading: stand.heading === 'outward' || stand.heading === 'drift' ? 'along' : stand.heading,
});

const asksForUv = ({ spread }: Scatter) => spread.how === 'grid' && spread.rows === 'uv';
const lacksUv = ({ of }: Area) => of.every((mesh) => !(mesh as { uvs?: unknown }).uvs);

/** All places; the same list again where nothing has changed that they follow from. */
function placesOf(scatter: Scatter, area: Area, density: Density): SiteList {
  const { over, seed, stand } = scatter;
  const spread = { ...scatter.spread, mask: null };
  const { lean, heading, driftSpan } = stand;
  const key = JSON.stringify(['places', over, spread, seed, lean, heading, driftSpan, density]);
  return remembered(area.of, key, () => turnFronts(scatter, area.places(density)));
}

/** The places with the props drawn for them, and where some are kept out. */
function filled(
  scatter: Scatter,
  list: SiteList,
  reads: MaskPlaces | undefined,
  ids: string[],
  context: ArrangeContext,
  say: Say,
): Sites {
  const drawn = scatter.props.some((p) => p.weight > 0);
  const index = new Map(ids.map((id, i) => [id, i]));
  const prop = new Int32Array(list.count).fill(-1);
  if (drawn)
    for (let i = 0; i < list.count; i++)
      prop[i] = index.get(weightedAt(scatter.props, random01(scatter.seed, list.slot[i], PICK)))!;
  const bare = list.sites(prop);
  const sites = reads && scatter.brushed.length > 0 ? brush(scatter, bare, reads, ids, context) : bare;
  swapByHand(scatter.hand, sites.slot, sites.prop, ids);
  const around = keepOutsAround(scatter, context, (kind, detail) => say(kind, detail, 'warning'));
  return { ...sites, keptOut: keptOutAt(around, sites.position, sites.slot), ...(reads && { reads }) };
}

/** What a scatter fills; null, and said, where there is nothing of it. */
function areaOf(scatter: Scatter, context: ArrangeContext, say: Say): Area | null {
  const { over } = scatter;
  if (over.kind === 'paths') return insidePaths(scatter, over.paths, context, say);
  if (over.kind === 'volume') return insideSurface(scatter, over, context, say);
  const grounds = over.surfaces.flatMap((id, part): Ground[] => {
    const states = context.surfaceStates?.(id);
    if (!states) say('area-missing', { surface: id }, over.surfaces.length > 1 ? 'warning' : 'error');
    return states ? [{ id, states, part }] : [];
  });
  if (over.surfaces.length === 0) say('area-nothing', {});
  const size = grounds.reduce((sum, g) => sum + groundArea(g), 0);
  if (grounds.length > 0 && !(size > 0)) say('area-nothing', {});
  if (!(size > 0)) return null;
  return {
    of: grounds.flatMap((g) => [g.states.rest, g.states.now]),
    size,
    dimensions: 2,
    places: (density) => onSurfaces(scatter, grounds, density),
  };
}

function insidePaths(scatter: Scatter, paths: string[], context: ArrangeContext, say: Say): Area | null {
  const lines = paths.flatMap((id) => {
    const compiled = context.path(id);
    if (!compiled?.ok) {
      say('area-missing', { path: id }, paths.length > 1 ? 'warning' : 'error');
      return [];
    }
    const closed = compiled.strokes.filter((s) => s.closed);
    if (closed.length === 0) say('area-open', { path: id }, paths.length > 1 ? 'warning' : 'error');
    const crossed = closed.map(selfCrossing).filter((at) => at !== null);
    if (crossed.length > 0)
      say(
        'area-crosses',
        { path: id },
        'warning',
        undefined,
        crossed.map((at) => [at]),
      );
    return closed;
  });
  if (paths.length === 0) say('area-nothing', {});
  if (lines.length === 0) return null;
  const { outline, height } = remembered(lines, 'outline', () => outlineAround(lines));
  if (!(outline.area > 0)) {
    say('area-nothing', {});
    return null;
  }
  return {
    of: [outline],
    size: outline.area,
    dimensions: 2,
    places: (density) => inOutline(scatter, outline, height, density),
  };
}

/** What closed lines enclose, and their height in the mean: from there what is beneath is looked for. */
function outlineAround(lines: CompiledPath[]): { outline: Outline; height: number } {
  const rings = lines.map((line) => polyline(line, 0.005).position);
  let [sum, count] = [0, 0];
  for (const ring of rings)
    for (let i = 1; i < ring.length; i += 3) {
      sum += ring[i];
      count++;
    }
  return { outline: outlineOf(rings), height: sum / count };
}

function insideSurface(
  scatter: Scatter,
  { surface, open: how, shell }: Extract<ScatterOver, { kind: 'volume' }>,
  context: ArrangeContext,
  say: Say,
): Area | null {
  const states = context.surfaceStates?.(surface);
  if (!states) {
    say('area-missing', { surface });
    return null;
  }
  const open = isOpen(states.rest);
  if (open && how === 'as-is') say('area-volume-open', { surface }, 'warning');
  const rest = open && how !== 'as-is' ? (how === 'box' ? boxAbout : withLids)(states.rest) : states.rest;
  const solid = { ...states, rest };
  const size = insideOf(solid, shell);
  if (!(size > 0)) {
    say('area-nothing', {});
    return null;
  }
  return {
    of: [rest, states.now],
    size,
    dimensions: 3,
    places: (density) => inVolume(scatter, solid, density, shell),
  };
}
