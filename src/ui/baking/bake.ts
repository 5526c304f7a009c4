import { create } from 'zustand';
import { standingOn } from '@/core/evaluate/baking/standingOn';
import type { Baked, BakedMap } from '@/core/mesh/bake/bakeSchema';
import type { PictureRef } from '@/core/mesh/meshRef';
import { contentHash } from '@/core/formats/hash';
import type { BakedFiles } from '@/engine/baking/bake';
import { dropBaked, keepBaked, setBaked, wearBaked } from '@/store/commands/baking';
import { cancelGesture, dispatch, endGesture, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectNode } from '@/store/selection';
import { plural } from '@/words/numbers';
import { say } from '../uiState';
import { download, fileName as named } from '../dialogs/download';

/** As fine as this it is seen at once, before it is baked as fine as was asked. */
const AT_ONCE = 256;
const ROUGHLY = 4;

/** The surface whose maps are being baked; null: none. */
export const useBaking = create<{ surface: string | null }>(() => ({ surface: null }));

const surfaceOf = (id: string) => useDocument.getState().scene.surfaces.find((s) => s.id === id);

/** What is on a surface to begin with, looked at from a little over the highest of it. */
function startOf(id: string): Partial<Baked> {
  const { scene } = useDocument.getState();
  const standing = standingOn(scene, id);
  // What stands on nothing may lie over it all the same.
  const of = standing.length > 0 ? standing : scene.arrangements.flatMap((a) => (a.visible ? [a.id] : []));
  const { arrangements, propBounds } = engine().state.result;
  const heights = of.flatMap((a) =>
    (arrangements.get(a)?.placements.props ?? []).map((p) => propBounds[p]?.max[1] ?? 0),
  );
  return { of, reach: Number((1.2 * heights.reduce((most, h) => Math.max(most, h), 0.02)).toPrecision(2)) };
}

/** Gives a surface maps of what lies on it, and shows them at once on it, coarsely, instead of that. */
export function makeMaps(id: string): void {
  if (!surfaceOf(id)?.baked) dispatch(setBaked, { id, values: startOf(id) });
  selectNode('surface', id);
  void bakeMaps(id, true);
}

/**
 * Bakes coarsely and shows that, then as finely as was asked. What was there before stays where it is stopped.
 * @param coarsely that alone
 */
export async function bakeMaps(id: string, coarsely = false): Promise<void> {
  const surface = surfaceOf(id);
  if (!surface?.baked) return;
  const { baked, name } = surface;
  if (baked.of.length === 0) return say(`Choose what is in the maps: nothing stands on “${name}”.`);
  const key = `bake ${id}`;
  useBaking.setState({ surface: id });
  try {
    if (coarsely || baked.size > AT_ONCE) {
      const rough = { ...baked, size: AT_ONCE, within: 1, rays: Math.min(ROUGHLY, baked.rays) };
      const seen = await engine().bake(id, rough, `Maps of ${name}, coarsely`);
      keep(id, seen, key);
      if (coarsely && seen) dispatch(wearBaked, { id, shown: true }, key);
      if (coarsely && seen)
        say(`${resultOf(seen, name)} They are coarse as yet: bake them as finely as you like.`);
    }
    const made = coarsely ? null : await engine().bake(id, baked, `Maps of ${name}`);
    keep(id, made, key);
    if (made) say(resultOf(made, name));
    endGesture();
  } catch (error) {
    cancelGesture(key);
    say((error as Error).message);
  } finally {
    useBaking.setState({ surface: null });
  }
}

function keep(id: string, files: BakedFiles | null, key: string): void {
  if (!files || !surfaceOf(id)?.baked) return;
  const made = { normal: null, height: null, occlusion: null, color: null, props: null } as Record<
    BakedMap,
    PictureRef | null
  >;
  for (const { map, bytes, fileName } of files.maps)
    made[map] = { hash: contentHash(bytes), format: 'png', fileName };
  dispatch(keepBaked, { id, made, heights: files.heights }, key);
}

function resultOf({ covered, twice, beyond }: BakedFiles, name: string): string {
  const share = (v: number) => `${Math.round(v * 100)} %`;
  if (covered === 0)
    return `The texture coordinates of “${name}” lie outside of 0 to 1: its maps are empty. Lay them anew under Faces.`;
  const over =
    twice > 0.001 ? ` ${share(twice)} of it lies over other faces: what is there is baked once.` : '';
  const out =
    beyond > 0
      ? ` ${plural(beyond, 'face')} of it ${beyond === 1 ? 'reaches' : 'reach'} beyond 0 to 1 of the texture, where no map is: lay ${beyond === 1 ? 'it' : 'them'} anew under Faces.`
      : '';
  return `“${name}” covers ${share(covered)} of its maps.${over}${out}`;
}

export const wearMaps = (id: string, shown: boolean): void => void dispatch(wearBaked, { id, shown });

export const takeMapsOff = (id: string): void => void dispatch(dropBaked, { id });

/** The maps alone, as a zip of PNG files. */
export async function sendMapsOut(id: string): Promise<void> {
  const surface = surfaceOf(id);
  if (!surface) return;
  try {
    const bytes = await engine().sendOut({ kind: 'maps', surface: id });
    download(bytes, named(`${surface.name} maps`, 'zip'));
  } catch (error) {
    say((error as Error).message);
  }
}
