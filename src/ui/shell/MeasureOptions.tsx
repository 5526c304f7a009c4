'use client';

import { Eye, EyeOff, Ruler, Trash2 } from 'lucide-react';
import { useEffect, useState } from 'react';
import { keepMeasure, removeMeasure, setMeasure } from '@/store/commands/measures';
import { dispatch, useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { currentView } from '@/view/handle';
import { measured } from '@/view/measure/measured';
import { NO_MEASURING, type Measuring, type Taken } from '@/view/measure/measuring';
import { alongPath, overGround, placeNow } from '@/view/measure/measureTool';
import { useView } from '@/view/viewState';
import { metres } from '@/words/numbers';
import { Button, IconButton } from '../controls/Button';
import { RenameField } from '../recipe/RenameField';

/** While one measures: what lies between the places, and the measures that are kept. */
export function MeasureOptions() {
  const scene = useDocument((s) => s.scene);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const measuring = useView((s) => s.measuring);
  useEngine((s) => s.result);
  const { taken } = measuring;
  const along = useAlongSurface(taken);
  const facts = [...factsOf(measuring), ...along];
  return (
    <div className="absolute inset-x-0 top-[70px] mx-auto flex w-fit max-w-[96%] flex-col items-center gap-1.5">
      <div
        className="flex flex-wrap items-center gap-x-3 gap-y-1 rounded-lg bg-paper/95 px-3 py-1.5 text-[12.5px] shadow"
        role="status"
      >
        <Ruler size={13} aria-hidden />
        {facts.length === 0
          ? 'Click two places for a distance, a third for an angle. Props, paths and corners are snapped to.'
          : facts.map(([what, value]) => (
              <span key={what}>
                <span className="text-soft">{what} </span>
                <span className="num">{value}</span>
              </span>
            ))}
        {taken.length > 1 && (
          <>
            <Button
              look="ink"
              className="!py-1"
              disabled={readOnly}
              title="It stays in the scene as a dimension line, and goes with what it measures"
              onClick={() => {
                const places = taken.map(({ position, tie }) => ({ position, ...(tie && { tie }) }));
                if (dispatch(keepMeasure, { places })) useView.setState({ measuring: NO_MEASURING });
              }}
            >
              Keep it
            </Button>
            <Button
              title="Begins anew"
              className="!py-1"
              onClick={() => useView.setState({ measuring: NO_MEASURING })}
            >
              Clear
            </Button>
          </>
        )}
      </div>
      {scene.measures.length > 0 && (
        <ul
          aria-label="Kept measures"
          className="flex max-h-28 flex-wrap justify-center gap-1.5 overflow-y-auto rounded-lg bg-paper/95 px-2 py-1 text-[12.5px] shadow"
        >
          {scene.measures.map((m) => {
            const { straight, angleDeg } = measured(m.places.map(placeNow));
            return (
              <li key={m.id} className="flex items-center gap-1">
                <RenameField
                  small
                  name={m.name}
                  label={`Name of ${m.name}`}
                  onRename={(name) => dispatch(setMeasure, { id: m.id, values: { name } })}
                />
                <span className="num">
                  {angleDeg === null ? metres(straight, scene.units, 3) : `${Number(angleDeg.toFixed(2))}°`}
                </span>
                <IconButton
                  name={m.visible ? `Hide ${m.name}` : `Show ${m.name}`}
                  aria-pressed={!m.visible}
                  disabled={readOnly}
                  onClick={() => dispatch(setMeasure, { id: m.id, values: { visible: !m.visible } })}
                >
                  {m.visible ? <Eye size={13} className="opacity-65" /> : <EyeOff size={13} />}
                </IconButton>
                <IconButton
                  name={`Remove ${m.name}`}
                  disabled={readOnly}
                  onClick={() => dispatch(removeMeasure, { id: m.id })}
                >
                  <Trash2 size={13} />
                </IconButton>
              </li>
            );
          })}
        </ul>
      )}
    </div>
  );
}

/** How far two places are from each other along a surface that both lie on, as soon as that is known. */
function useAlongSurface(taken: readonly Taken[]): [string, string][] {
  const result = useEngine((s) => s.result);
  const [found, setFound] = useState<{ surface: string; length: number } | null>(null);
  useEffect(() => {
    let current = true;
    setFound(null);
    if (taken.length === 2)
      void engine()
        .alongSurface(placeNow(taken[0]), placeNow(taken[1]))
        .then((way) => current && setFound(way));
    return () => void (current = false);
  }, [taken, result]);
  const { units, surfaces } = useDocument((s) => s.scene);
  const name = surfaces.find((s) => s.id === found?.surface)?.name;
  return found && name ? [[`Along ${name}`, metres(found.length, units, 3)]] : [];
}

/** What there is to tell of the places so far; before there are two, of what is under the pointer. */
function factsOf({ taken, ahead, prop }: Measuring): [string, string][] {
  const { units, surfaces } = useDocument.getState().scene;
  const m = (v: number) => metres(v, units, 3);
  const view = currentView();
  const last = taken.at(-1) ?? ahead;
  const ground = last && view ? overGround(view, placeNow(last)) : null;
  const below = surfaces.find((s) => s.id === ground?.surface)?.name;
  const over: [string, string][] = ground && below ? [[`Over ${below}`, m(ground.height)]] : [];
  if (taken.length < 2) return [...sizeOf(prop), ...over];
  const { straight, level, rise, angleDeg } = measured(taken.map(placeNow));
  if (angleDeg !== null) return [['Angle', `${Number(angleDeg.toFixed(3))}°`]];
  const along = alongPath(taken[0], taken[1]);
  return [
    ['Straight', m(straight)],
    ['Level', m(level)],
    ['Rises', m(rise)],
    ...(along === null ? [] : ([['Along the path', m(along)]] as [string, string][])),
    ...over,
  ];
}

/** How large a placed prop is: wide, long and high. */
function sizeOf(at: Measuring['prop']): [string, string][] {
  if (!at) return [];
  const { scene } = useDocument.getState();
  const { arrangements, propBounds } = engine().state.result;
  const p = arrangements.get(at.arrangement)?.placements;
  const row = p ? p.slot.indexOf(at.slot) : -1;
  if (!p || row < 0 || p.prop[row] < 0) return [];
  const id = p.props[p.prop[row]];
  const box = propBounds[id];
  const name = scene.props.find((q) => q.id === id)?.name ?? 'It';
  if (!box) return [];
  const [wide, high, long] = [0, 1, 2].map((a) => (box.max[a] - box.min[a]) * Math.abs(p.scale[row * 3 + a]));
  const m = (v: number) => metres(v, scene.units, 2);
  return [[`${name}, wide × long × high`, `${m(wide)} × ${m(long)} × ${m(high)}`]];
}
