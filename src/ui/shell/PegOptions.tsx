'use client';

import { useState } from 'react';
import type { Vec3 } from '@/core/math/vec3';
import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { peggedProp, pegTyped } from '@/view/pegTool';
import { useSnap } from '@/view/snap/snapState';
import { Button } from '../controls/Button';
import { Choice } from '../controls/Choice';
import { NumberBox } from '../controls/NumberField';
import { PlaceField } from '../controls/NumberFields';
import { sayNothingAt } from '../kinds/pegs/recipe/typedPlaces';

/** Stands for the scene itself among the surfaces. */
const SCENE = '';

/** While props are pegged: what a click does, and a place by numbers instead of one. */
export function PegOptions() {
  const { props, surfaces } = useDocument((s) => s.scene);
  const parts = useSnap((s) => (s.on ? s.parts : 1));
  const [where, setWhere] = useState(SCENE);
  const [at, setAt] = useState<Vec3>([0, 0, 0]);
  const [uv, setUv] = useState<[number, number]>([0.5, 0.5]);
  // What is pegged follows the selection.
  useSelection((s) => s.node);
  const prop = props.find((p) => p.id === peggedProp());
  const on = surfaces.find((s) => s.id === where);
  const peg = async () => {
    if (!(await pegTyped(on ? { surface: on.id, uv } : { at })) && on) sayNothingAt(on.id, uv);
  };
  return (
    <div className="absolute inset-x-0 top-[70px] mx-auto flex w-fit max-w-[96%] flex-col items-center gap-1.5">
      <div className="flex items-center gap-1.5 rounded-lg bg-paper/95 px-2 py-1 text-[12.5px] shadow">
        <Choice
          bare
          label="Typed place is in"
          hint="What the typed numbers count from"
          value={on ? where : SCENE}
          options={[
            { value: SCENE, text: 'In the scene' },
            ...surfaces.map((s) => ({ value: s.id, text: s.name })),
          ]}
          onChange={setWhere}
        />
        {on ? (
          (['u', 'v'] as const).map((axis, k) => (
            <NumberBox
              key={axis}
              label={`Typed place ${axis}`}
              prefix={axis}
              step={0.05}
              value={uv[k]}
              className="w-[86px]"
              onChange={(v) => v !== null && setUv(k === 0 ? [v, uv[1]] : [uv[0], v])}
            />
          ))
        ) : (
          <div className="w-[280px]">
            <PlaceField
              label="Typed place"
              hint="Where the peg goes: x, y, z, or u and v on a surface"
              value={at}
              onChange={setAt}
            />
          </div>
        )}
        <Button look="ink" title="At the place that is typed" disabled={!prop} onClick={() => void peg()}>
          Peg here
        </Button>
      </div>
      <div className="rounded-lg bg-paper/95 px-3 py-1.5 text-[12.5px] shadow" role="status">
        {prop
          ? `A click puts ${prop.name} on a surface, a path or the ground. The wheel turns it; Shift lifts, Alt sizes.`
          : 'Take a prop into the basket first; then click it onto a surface, a path or the ground.'}
        {prop && (parts > 1 ? ` Snaps to ${parts} parts.` : ' A number divides paths.')}
      </div>
    </div>
  );
}
