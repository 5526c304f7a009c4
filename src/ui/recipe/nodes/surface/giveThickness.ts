import { setThickness } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';

/** About how thick things of a size are: a fiftieth of the side of a square with as many faces' area. */
const SHARE = 1 / 50;

/** Gives a surface thickness that suits its size, to one figure, inwards: what stands on it stays where it is. */
export async function giveThickness(id: string): Promise<void> {
  const facts = await engine().solidOf(id);
  const surface = useDocument.getState().scene.surfaces.find((s) => s.id === id);
  if (!surface || surface.thickness) return;
  const size = facts && facts.area > 0 ? Math.sqrt(facts.area) : 1;
  dispatch(setThickness, { id, values: { inwards: Number((size * SHARE).toPrecision(1)) } });
}
