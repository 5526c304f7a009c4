import { surfacesOfMask } from '@/core/evaluate/masksUsed';
import { MOST_FACES } from '@/core/mesh/mask/schema';
import { setLayer } from '@/store/commands/masks';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { pick } from '../pick';
import { useView } from '../viewState';
import type { ViewHandle } from '@/view/handle';
import { whole } from '@/words/numbers';

/**
 * The faces tool: a click takes the flat piece under the pointer into the faces that a layer measures from, or out of
 * them; with Shift it is the single face.
 */
export async function facesClick(view: ViewHandle, x: number, y: number, single: boolean): Promise<void> {
  const { faces: target } = useView.getState();
  const { scene, readOnly } = useDocument.getState();
  const mask = scene.masks.find((m) => m.id === target?.mask);
  const hit = pick(view, x, y, 'surfaces');
  if (!mask || !target || readOnly || hit?.kind !== 'surface') return;
  const say = (said: string | null) => useView.setState({ faces: { ...target, said } });
  say(null);
  if (!surfacesOfMask(scene, mask).includes(hit.id)) {
    const name = scene.surfaces.find((s) => s.id === hit.id)?.name;
    say(`“${mask.name}” is not read on “${name}”: pick faces of what it is used on.`);
    return;
  }
  const piece = await engine().facesAt(hit.id, hit.point, single);
  // As it is now: the answer came later.
  const layer = useDocument
    .getState()
    .scene.masks.find((m) => m.id === target.mask)
    ?.layers.find((l) => l.id === target.layer);
  if (layer?.kind !== 'distance' || piece.length === 0) return;
  const had = new Set(layer.faces);
  const out = had.has(piece[0]);
  const next = out
    ? layer.faces.filter((f) => !piece.includes(f))
    : [...layer.faces, ...piece.filter((f) => !had.has(f))];
  if (next.length > MOST_FACES) {
    say(`A layer takes at most ${whole(MOST_FACES)} faces, and with this there are more.`);
    return;
  }
  dispatch(setLayer, { id: target.mask, layer: target.layer, values: { of: 'faces', faces: next } });
}
