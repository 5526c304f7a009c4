import { useEffect, useState } from 'react';
import type { AnimationRange } from '@/engine/service';
import { useClock } from '@/store/clock';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { asBytes } from '@/words/numbers';
import { NumberFields, type FieldSpec } from '../../controls/NumberFields';
import { Segmented } from '../../controls/Segmented';
import { useUi, type SendChoices } from '../../uiState';
import { Tick } from './Tick';

const rangeFields = (span: number): FieldSpec[] => [
  { name: 'from', label: 'From second', hint: 'Seconds at which the animation begins', step: 0.5, reset: 0 },
  { name: 'to', label: 'To second', hint: 'Seconds at which it ends', step: 0.5, reset: span },
  {
    name: 'rate',
    label: 'Frames a second',
    hint: 'Key frames for each second: more are smoother and larger',
    step: 1,
    min: 1,
    max: 120,
    reset: 12,
  },
];

/** What a glTF file holds. @param range of an animation */
export function GlbChoices({
  range,
  choose,
}: {
  range: AnimationRange;
  choose: (choice: Partial<SendChoices>) => void;
}) {
  const scene = useDocument((s) => s.scene);
  const time = useClock((s) => s.time);
  const span = useClock((s) => s.span);
  const { props: nodes, surfaces, snaps, lights, animated } = useUi((s) => s.send);
  return (
    <>
      <Segmented
        shown
        label="When"
        hint="One moment, or a stretch of time"
        value={animated ? 'animation' : 'still'}
        options={[
          { value: 'still', text: `Still at ${time.toFixed(2)} s` },
          {
            value: 'animation',
            text: 'Animation',
            hint: 'Baked transforms, and morph targets where a surface moves',
          },
        ]}
        onChange={(when) => choose({ animated: when === 'animation' })}
      />
      {animated && (
        <NumberFields
          fields={rangeFields(span)}
          values={range}
          set={(values) => choose({ range: { ...range, ...values } })}
        />
      )}
      {!animated && (
        <Segmented
          shown
          label="Props as"
          hint="How the file holds what is placed"
          value={nodes}
          options={[
            {
              value: 'instanced',
              text: 'Instances',
              hint: 'EXT_mesh_gpu_instancing: small, one node a prop and arrangement',
            },
            {
              value: 'nodes',
              text: 'Plain nodes',
              hint: 'One node a placed prop: read by everything',
            },
          ]}
          onChange={(props) => choose({ props })}
        />
      )}
      <Tick
        label="Surfaces go along"
        hint="Their meshes are in the file too, as they are drawn"
        checked={surfaces}
        onChange={(on) => choose({ surfaces: on })}
      />
      {scene.lamps.length + scene.viewpoints.length > 0 && (
        <Tick
          label="Lights and viewpoints go along"
          hint="Lights put in by hand as lights of the file, in candela; viewpoints as its cameras"
          checked={lights}
          onChange={(on) => choose({ lights: on })}
        />
      )}
      {scene.props.some((p) => p.snapPoints.length > 0) && (
        <Tick
          label="Snap points go along"
          hint="As nodes without a mesh, each pointing along its Z; they come in again as snap points"
          checked={snaps}
          onChange={(on) => choose({ snaps: on })}
        />
      )}
    </>
  );
}

/** How large an animation will be, as soon as that is known. */
export function AboutSize({
  range,
  only,
  surfaces,
}: {
  range: AnimationRange;
  only: string[] | undefined;
  surfaces: boolean;
}) {
  const [bytes, setBytes] = useState<number | null>(null);
  const key = JSON.stringify([range, only, surfaces]);
  useEffect(() => {
    let current = true;
    setBytes(null);
    engine()
      .animationSize(range, only, surfaces)
      .then((b) => current && setBytes(b))
      // It is only left unsaid.
      .catch(() => undefined);
    return () => {
      current = false;
    };
    // The key stands for what it is asked by.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return bytes ? <span role="status">{` · about ${asBytes(bytes)}`}</span> : null;
}
