'use client';

import { Aperture, Crosshair, Eye, Plus, Trash2 } from 'lucide-react';
import { useState } from 'react';
import type { Viewpoint } from '@/core/scene/viewpointSchema';
import { removeViewpoint, setViewpoint } from '@/store/commands/viewpoints';
import { dispatch, useDocument } from '@/store/document';
import { useView } from '@/view/viewState';
import { BesidePanel } from '../controls/BesidePanel';
import { Button, IconButton } from '../controls/Button';
import { Choice } from '../controls/Choice';
import { NameField } from '../controls/NameField';
import { lengthField, NumberFields, PlaceField, type FieldSpec } from '../controls/NumberFields';
import { Toggle } from '../controls/Toggle';
import { openDialog } from '../uiState';
import { plural } from '@/words/numbers';
import { keepView, lookThrough, viewNow } from './looking';

const ASPECTS = [
  { value: 1, text: 'Square' },
  { value: 4 / 3, text: '4 : 3' },
  { value: 1.5, text: '3 : 2' },
  { value: 16 / 9, text: '16 : 9' },
  { value: 0.8, text: 'Portrait, 4 : 5' },
  { value: 9 / 16, text: 'Upright, 9 : 16' },
];
const OWN = 0;
const LENS: FieldSpec[] = [
  {
    ...{ name: 'focal', label: 'Focal length, mm', step: 1, min: 8, max: 800, reset: 35 },
    hint: 'Of a frame 24 mm high: 35 sees as people do, 85 is for portraits',
  },
];
const OWN_ASPECT: FieldSpec[] = [
  {
    ...{ name: 'aspect', label: 'Width by height', step: 0.05, min: 0.1, max: 10, reset: 1.5 },
    hint: 'How many times as wide as it is high',
  },
];
const FOCUS: FieldSpec[] = [
  { ...lengthField('distance', 'Sharp at', 10, 'From the eye'), min: 0.01 },
  {
    ...{ name: 'aperture', label: 'Aperture, f', step: 0.1, min: 0.5, max: 64, reset: 2.8 },
    hint: 'Smaller numbers blur more of what is nearer or farther',
  },
];

/** Viewpoints: ways of looking at the scene that are kept, with their frames. */
export function ViewpointsPanel() {
  const viewpoints = useDocument((s) => s.scene.viewpoints);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const chosen = useView((s) => s.viewpoint);
  const thirds = useView((s) => s.thirds);
  return (
    <BesidePanel name="Viewpoints" title="Viewpoints" said={plural(viewpoints.length, 'viewpoint')}>
      <div className="flex flex-wrap items-center gap-2 border-b border-edge px-3 py-2">
        <Button
          look="bordered"
          title="Keeps the view as it is now"
          disabled={readOnly}
          onClick={() => useView.setState({ viewpoint: keepView() })}
        >
          <Plus size={15} /> Keep this view
        </Button>
        <Button look="bordered" title="Makes a picture of the scene" onClick={() => openDialog('still')}>
          <Aperture size={15} /> Still picture…
        </Button>
      </div>
      <div className="thin-scroll min-h-0 flex-1 overflow-y-auto px-3 py-2">
        {viewpoints.length === 0 && (
          <p className="text-[13px] text-soft">
            None yet. Turn the view to what you want to show, then keep it: its frame can be set here.
          </p>
        )}
        <ul>
          {viewpoints.map((v) => (
            <li key={v.id}>
              <div className="flex items-center gap-1">
                <button
                  type="button"
                  aria-pressed={v.id === chosen}
                  title="Goes there, and shows its frame"
                  onClick={() => (v.id === chosen ? useView.setState({ viewpoint: null }) : lookThrough(v))}
                  className="flex min-w-0 flex-1 items-center gap-1.5 rounded-md px-1 py-1 text-left text-sm hover:bg-groove aria-pressed:font-semibold"
                >
                  <Eye size={14} className="shrink-0 text-soft" />
                  <span className="truncate">{v.name}</span>
                </button>
                <IconButton
                  name={`Take the view into ${v.name}`}
                  disabled={readOnly}
                  onClick={() => dispatch(setViewpoint, { id: v.id, values: viewNow() })}
                >
                  <Crosshair size={14} />
                </IconButton>
                <IconButton
                  name={`Remove ${v.name}`}
                  disabled={readOnly}
                  onClick={() => dispatch(removeViewpoint, { id: v.id })}
                >
                  <Trash2 size={14} />
                </IconButton>
              </div>
              {v.id === chosen && (
                <fieldset disabled={readOnly} className="rounded-lg bg-well px-2 py-1.5">
                  <Fields viewpoint={v} />
                </fieldset>
              )}
            </li>
          ))}
        </ul>
        {chosen !== null && (
          <Toggle
            label="Thirds"
            hint="Parts the frame in thirds, to compose by"
            value={thirds}
            onChange={(on) => useView.setState({ thirds: on })}
          />
        )}
      </div>
    </BesidePanel>
  );
}

function Fields({ viewpoint: v }: { viewpoint: Viewpoint }) {
  const set = (values: Partial<Omit<Viewpoint, 'id'>>, key?: string) =>
    dispatch(setViewpoint, { id: v.id, values }, key);
  /** The view goes with it. */
  const move = (values: Partial<Viewpoint>, key?: string) => {
    set(values, key);
    lookThrough({ ...v, ...values });
  };
  const [own, setOwn] = useState(false);
  const known = !own && ASPECTS.some((a) => Math.abs(a.value - v.aspect) < 1e-9);
  return (
    <>
      <NameField name={v.name} onRename={(name) => set({ name })} />
      <NumberFields fields={LENS} values={v} set={(values, key) => set(values, key)} />
      <Choice
        label="Frame"
        hint="Its shape"
        value={known ? ASPECTS.find((a) => Math.abs(a.value - v.aspect) < 1e-9)!.value : OWN}
        options={[...ASPECTS, { value: OWN, text: 'Own' }]}
        onChange={(aspect) => {
          setOwn(aspect === OWN);
          if (aspect !== OWN) set({ aspect });
        }}
      />
      {!known && <NumberFields fields={OWN_ASPECT} values={v} set={(values, key) => set(values, key)} />}
      <PlaceField
        shown
        label="Eye"
        hint="Where it is seen from"
        value={v.eye}
        onChange={(eye, key) => move({ eye }, key)}
      />
      <PlaceField
        shown
        label="Aim"
        hint="The middle of the frame"
        value={v.aim}
        onChange={(aim, key) => move({ aim }, key)}
      />
      <Toggle
        label="Focus"
        hint="Blurs what is nearer or farther, in the developing still picture"
        value={v.focus !== null}
        onChange={(on) =>
          set({
            focus: on
              ? {
                  distance: Number(Math.hypot(...v.eye.map((e, k) => e - v.aim[k])).toFixed(2)),
                  aperture: 2.8,
                }
              : null,
          })
        }
      />
      {v.focus && (
        <NumberFields
          fields={FOCUS}
          values={v.focus}
          set={(values, key) => set({ focus: { ...v.focus!, ...values } }, key)}
        />
      )}
    </>
  );
}
