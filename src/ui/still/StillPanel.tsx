'use client';

import { Aperture } from 'lucide-react';
import { useDocument } from '@/store/document';
import { MOST_PIXELS } from '@/view/still/still';
import { UNDRAWN } from '@/view/undrawn';
import { useView } from '@/view/viewState';
import { whole } from '@/words/numbers';
import { BesidePanel } from '../controls/BesidePanel';
import { Button } from '../controls/Button';
import { Choice } from '../controls/Choice';
import { ColorField } from '../controls/ColorField';
import { NumberFields, type FieldSpec } from '../controls/NumberFields';
import { Segmented } from '../controls/Segmented';
import { Toggle } from '../controls/Toggle';
import { inRow, MOST_IN_ROW, sizeOf, VIEW_NOW, type StillChoices } from './jobs';
import { cancelStill, lookNow, sendStills, useStills } from './making';

const QUIET = 0;
const FRAMES = [
  { value: 16, text: '16, a first look' },
  { value: 32, text: '32' },
  { value: 64, text: '64, good' },
  { value: 128, text: '128' },
  { value: 256, text: '256, finest' },
  { value: QUIET, text: 'Until it is quiet' },
];
const BACKGROUNDS = [
  { value: 'scene', text: 'Kept' },
  { value: 'transparent', text: 'None' },
  { value: 'plain', text: 'Plain' },
] as const;
const FORMATS = [
  { value: 'png8', text: 'PNG' },
  { value: 'png16', text: 'PNG, 16 bits' },
  { value: 'exr', text: 'EXR' },
] as const;
const ROWS = [
  { value: 'one', text: 'One' },
  { value: 'turn', text: 'A turn' },
  { value: 'time', text: 'A time' },
] as const;
const SIZE: FieldSpec[] = [
  {
    ...{ name: 'size', label: 'Longer side, pixels', step: 10, min: 16, max: MOST_PIXELS, reset: 1920 },
    ...{ whole: true, hint: `Up to ${MOST_PIXELS}` },
  },
];
const TURN: FieldSpec[] = [
  {
    ...{ name: 'count', label: 'Pictures', step: 1, min: 2, max: MOST_IN_ROW, whole: true, reset: 24 },
    hint: 'Of a whole turn about the middle of the frame',
  },
];
const TIME: FieldSpec[] = [
  { name: 'from', label: 'From second', hint: 'When the first is taken', step: 0.5, reset: 0 },
  { name: 'to', label: 'To second', hint: 'When the last is taken', step: 0.5, reset: 4 },
  {
    ...{ name: 'rate', label: 'Pictures a second', step: 1, min: 1, max: 120, reset: 12 },
    hint: 'How many for each second',
  },
];

/** A still picture of the scene: of which views, how large and how fine; it is made while one works on. */
export function StillPanel() {
  const viewpoints = useDocument((s) => s.scene.viewpoints);
  const choices = useStills();
  const { views, size, frames, background, color, format, beside, row, share, said } = choices;
  const set = (values: Partial<StillChoices>) => useStills.setState(values);
  const cannot = useView((s) => s.picture !== 'drawn') || UNDRAWN;
  const framed = viewpoints.filter((v) => views.includes(v.id));
  const toggle = (id: string, on: boolean) =>
    set({ views: on ? [...views, id] : views.filter((v) => v !== id) });
  // Of several the first: the others are as long on their longer side.
  const { width, height } = sizeOf(
    framed[0] && views[0] !== VIEW_NOW ? framed[0].aspect : lookNow().aspect,
    size,
  );
  const known = views.filter((id) => id === VIEW_NOW || framed.some((v) => v.id === id)).length;
  const count = known * inRow(choices);
  const tooMany = count > MOST_IN_ROW;
  return (
    <BesidePanel name="Still picture" title="Still picture" said={known === 0 ? '' : `${width} × ${height}`}>
      <fieldset disabled={share !== null} className="thin-scroll min-h-0 flex-1 overflow-y-auto px-3 py-2">
        <section aria-label="Views">
          <Toggle
            label="The view as it is"
            hint="In the shape of the view"
            value={views.includes(VIEW_NOW)}
            onChange={(on) => toggle(VIEW_NOW, on)}
          />
          {viewpoints.map((v) => (
            <Toggle
              key={v.id}
              label={v.name}
              hint="A viewpoint of the scene"
              value={views.includes(v.id)}
              onChange={(on) => toggle(v.id, on)}
            />
          ))}
        </section>
        <NumberFields fields={SIZE} values={choices} set={set} />
        <Choice
          label="Frames"
          hint="So many are added up: more make shadows smoother, and take longer"
          value={frames ?? QUIET}
          options={FRAMES}
          onChange={(n) => set({ frames: n === QUIET ? null : n })}
        />
        <Segmented
          shown
          label="Background"
          hint="The sky, nothing, or one colour"
          value={background}
          options={BACKGROUNDS}
          onChange={(to) => set({ background: to })}
        />
        {background === 'plain' && (
          <ColorField
            name="Colour of the background"
            hint="Behind everything"
            value={color}
            onChange={(c) => set({ color: c })}
          />
        )}
        <Choice
          label="File"
          hint="EXR keeps the light itself, for work on it elsewhere"
          value={format}
          options={FORMATS}
          onChange={(to) => set({ format: to })}
        />
        <Toggle
          label="Depth, mask and directions"
          hint="Three pictures beside it: how far off, which arrangement, where it faces"
          value={beside}
          onChange={(on) => set({ beside: on })}
        />
        <Segmented
          shown
          label="How many"
          hint="One a view, a turn around its middle, or a stretch of time: numbered, in a zip"
          value={row}
          options={ROWS}
          onChange={(to) => set({ row: to })}
        />
        {row === 'turn' && <NumberFields fields={TURN} values={choices} set={set} />}
        {row === 'time' && <NumberFields fields={TIME} values={choices} set={set} />}
      </fieldset>
      <footer className="border-t border-edge px-3 py-2">
        {cannot && (
          <p role="alert" className="mb-2 text-[13px] text-danger">
            This browser draws no scene now, so it makes no pictures of it either.
          </p>
        )}
        {tooMany && (
          <p role="alert" className="mb-2 text-[13px] text-danger">
            That would be {whole(count)} pictures; {whole(MOST_IN_ROW)} are the most. Take fewer a second, or
            a shorter time.
          </p>
        )}
        {share === null ? (
          <Button
            look="ink"
            title="It is made while you go on"
            className="w-full"
            disabled={count === 0 || cannot || tooMany}
            onClick={() => void sendStills()}
          >
            <Aperture size={15} /> {count === 1 ? 'Make the picture' : `Make ${count} pictures`}
          </Button>
        ) : (
          <div className="flex items-center gap-3">
            <progress
              value={share}
              max={1}
              aria-label="Progress of the picture"
              className="h-1.5 flex-1 accent-weld"
            />
            <span className="num text-[13px]">{Math.floor(share * 100)} %</span>
            <Button look="bordered" title="Stops; nothing is changed" onClick={cancelStill}>
              Cancel
            </Button>
          </div>
        )}
        <p role="status" className="mt-1 min-h-5 text-[13px] text-soft">
          {said}
        </p>
      </footer>
    </BesidePanel>
  );
}
