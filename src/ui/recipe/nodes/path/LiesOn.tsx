'use client';

import { placeMatrix, throughInverse } from '@/core/mesh/surface';
import type { PointsPath } from '@/core/curve/schema';
import { layPath } from '@/store/commands/pathEdits';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { restPlace, shownPoints } from '@/view/onSurface';
import { Choice } from '../../../controls/Choice';

/** The surface that a path lies on. It goes with it, and stays on it between its points. */
export function LiesOn({ path }: { path: PointsPath }) {
  const surfaces = useDocument((s) => s.scene.surfaces);
  const { on } = path.source;
  const offered = surfaces.filter((s) => s.visible || s.id === on);
  if (offered.length === 0 && !on) return null;
  const lay = (id: string) => {
    const shown = shownPoints(path, engine().state.result.paths.get(path.id));
    const surface = surfaces.find((s) => s.id === id);
    if (!surface) return dispatch(layPath, { path: path.id, on: null, places: shown.map(placeOf) });
    const turn = placeMatrix({ ...surface, position: [0, 0, 0] });
    const places = shown.map((p) => ({
      position: restPlace(id, p.position)?.rest ?? throughInverse(placeMatrix(surface), p.position),
      handleIn: throughInverse(turn, p.handleIn),
      handleOut: throughInverse(turn, p.handleOut),
    }));
    return dispatch(layPath, { path: path.id, on: id, places });
  };
  return (
    <>
      <Choice
        label="Lies on"
        hint="A surface that carries the path along as it moves"
        value={on ?? ''}
        options={[{ value: '', text: 'Nothing' }, ...offered.map((s) => ({ value: s.id, text: s.name }))]}
        none="A missing surface"
        onChange={(id) => id !== (on ?? '') && void lay(id)}
      />
      {on && (
        <p className="mb-1 text-[12px] text-soft">
          Its points are in numbers as they are on the surface at rest, in the surface’s own frame.
        </p>
      )}
    </>
  );
}

const placeOf = ({ position, handleIn, handleOut }: PointsPath['source']['points'][number]) => ({
  position,
  handleIn,
  handleOut,
});
