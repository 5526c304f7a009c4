import type { Vec3 } from '@/core/math/vec3';
import { setDeformer } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { restPlace } from './onSurface';
import { pickPlace } from './pick';
import type { ViewHandle } from '@/view/handle';

/** The hold tool: a click on cloth holds it there; a click near a held place lets that go. */

/** As a share of the surface's size: nearer than this is the same place. */
const NEAR = 0.02;

/** The surface in hand with its cloth. */
function clothInHand() {
  const { node } = useSelection.getState();
  const surface =
    node?.kind === 'surface'
      ? useDocument.getState().scene.surfaces.find((s) => s.id === node.id)
      : undefined;
  const cloth = surface?.deformers.find((d) => d.on && d.kind === 'cloth');
  return surface && cloth?.kind === 'cloth' ? { surface, cloth } : null;
}

export function holdClick(view: ViewHandle, x: number, y: number): void {
  const found = clothInHand();
  const place = pickPlace(view, x, y);
  if (!found || place?.surface !== found.surface.id) return;
  const at = restPlace(found.surface.id, place.at)?.rest;
  if (!at) return;
  const { holds } = found.cloth;
  const away = (p: Vec3) => Math.hypot(p[0] - at[0], p[1] - at[1], p[2] - at[2]);
  const size = Math.max(0.01, ...holds.map(away), Math.hypot(...at));
  const near = holds.filter((p) => away(p) <= NEAR * size);
  dispatch(setDeformer, {
    id: found.surface.id,
    deformer: found.cloth.id,
    values: { holds: near.length ? holds.filter((p) => !near.includes(p)) : [...holds, at] },
  });
}
