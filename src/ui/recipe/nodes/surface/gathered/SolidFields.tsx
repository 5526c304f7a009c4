'use client';

import { Plus } from 'lucide-react';
import type { SolidSpec, SolidStep } from '@/core/mesh/solid/solidSchema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { addStep, moveStep, removeStep, setStep } from '@/store/commands/gathered';
import { dispatch } from '@/store/document';
import { CardHead } from '../../../../controls/CardHead';
import { Choice } from '../../../../controls/Choice';
import { lengthField, NumberFields } from '../../../../controls/NumberFields';
import { Optional } from '../../../../controls/Optional';
import { PlainMenu } from '../../../../controls/PlainMenu';
import { Segmented } from '../../../../controls/Segmented';
import { useBodies } from './useBodies';

const HOW = [
  { value: 'join', text: 'Join', hint: 'It becomes one with what is there' },
  { value: 'cut', text: 'Cut out', hint: 'It is taken out of what is there' },
  { value: 'keep', text: 'Keep within', hint: 'Only what is within it stays' },
] as const;
const MEND = [
  { value: 'none', text: 'No', hint: 'Meshes that are not closed are left out' },
  { value: 'faces', text: 'Faces', hint: 'Small holes are filled, and faces turned to look outward' },
  { value: 'voxels', text: 'Voxels', hint: 'Made anew of small cells, whatever it is' },
] as const;
const HOLE = { ...lengthField('grain', 'Holes up to', 0.05, 'Wider ones stay open'), min: 0.0001, max: 1000 };
const CELL = {
  ...lengthField('grain', 'Voxel', 0.05, 'How large each of the cells is'),
  min: 0.0001,
  max: 1000,
};

const GONE = 'What is gone';

/** The steps of a solid, in order. */
export function SolidFields({ surface: { id }, spec }: { surface: Surface; spec: SolidSpec }) {
  const bodies = useBodies(id);
  const add = (how: SolidStep['how'], of: string) => void dispatch(addStep, { id, how, of });
  return (
    <section aria-label="Steps of the solid">
      <div className="mb-1 flex items-center justify-between">
        <h3 className="font-display text-sm font-semibold">Made of</h3>
        <PlainMenu
          name="Add a step"
          entries={() =>
            bodies.map((b, i) => ({
              text: b.name,
              hint: 'Joined; how is chosen in its step',
              run: () => add('join', b.id),
              ...(i === 0 && { under: 'Join' }),
            }))
          }
        >
          <Plus size={16} />
        </PlainMenu>
      </div>
      {spec.steps.length === 0 && (
        <p className="text-[12.5px] text-soft">Nothing yet: add the surface or arrangement to begin with.</p>
      )}
      {spec.steps.map((step, i) => (
        <Step key={step.id} solid={id} step={step} first={i === 0} last={i === spec.steps.length - 1} />
      ))}
    </section>
  );
}

function Step(props: { solid: string; step: SolidStep; first: boolean; last: boolean }) {
  const { solid, step, first, last } = props;
  const bodies = useBodies(solid);
  const title = bodies.find((b) => b.id === step.of)?.name ?? GONE;
  const set = (values: Partial<Omit<SolidStep, 'id'>>, key?: string) =>
    dispatch(setStep, { id: solid, step: step.id, values }, key);
  return (
    <div className="mb-1.5 rounded-lg border border-edge bg-card px-2 py-1">
      <CardHead
        title={title}
        hint="Switched off it is passed by"
        on={step.on}
        first={first}
        last={last}
        out={`Take ${title} out`}
        onSwitch={(on) => set({ on })}
        onMove={(way) => dispatch(moveStep, { id: solid, step: step.id, way })}
        onOut={() => dispatch(removeStep, { id: solid, step: step.id })}
      />
      {step.on && (
        <>
          <Segmented
            label={`How ${title} is taken`}
            hint="What it does to what is there"
            value={step.how}
            options={HOW}
            onChange={(how) => set({ how })}
          />
          <Optional
            parts={[
              {
                label: 'Mend',
                hint: 'What becomes of meshes that are not closed',
                isSet: step.mend !== 'none',
                content: (
                  <>
                    <Segmented
                      shown
                      tight
                      label="Mend"
                      hint="What becomes of meshes that are not closed"
                      value={step.mend}
                      options={MEND}
                      onChange={(mend) => set({ mend })}
                    />
                    {step.mend !== 'none' && (
                      <NumberFields fields={[step.mend === 'faces' ? HOLE : CELL]} values={step} set={set} />
                    )}
                  </>
                ),
              },
              {
                label: 'Something else',
                hint: 'Takes another arrangement or surface instead',
                isSet: title === GONE,
                content: (
                  <Choice
                    label="Of"
                    hint="The arrangement or surface that is taken"
                    value={step.of}
                    options={bodies.map((b) => ({ value: b.id, text: b.name }))}
                    none={GONE}
                    onChange={(of) => set({ of })}
                  />
                ),
              },
            ]}
          />
        </>
      )}
    </div>
  );
}
