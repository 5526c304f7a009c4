'use client';

import { needsOf } from '@/core/arrange/registry';
import type { Prop } from '@/core/mesh/propSchema';
import { setGlow } from '@/store/commands/lamps';
import { setProp } from '@/store/commands/scene';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { hangProp } from '../../basket/hang';
import { BundlePart } from '../../bundles/BundlePart';
import { PropPicture } from '../../basket/PropPicture';
import { Button } from '../../controls/Button';
import { propEntries } from '../../menus/entries';
import { openDialog } from '../../uiState';
import { MaterialChoice } from '../../materials/MaterialChoice';
import { GlowFields } from '../../light/GlowFields';
import { metres } from '@/words/numbers';
import { Choice } from '../../controls/Choice';
import { StampFields } from '../../stamps/StampFields';
import { LineFields } from './LineFields';
import { AxisField, UnitField } from './MeshFields';
import { NodeHead } from './NodeHead';
import { lying, type Lie } from './poseProp';
import { SnapPoints } from './SnapPoints';

export const FEET = [
  { value: 'base', text: 'Base centre' },
  { value: 'centre', text: 'Centre' },
  { value: 'origin', text: 'Own origin' },
] as const;

/** A prop: its foot, front, up and unit, without touching its mesh. */
export function PropPanel({ id }: { id: string }) {
  const scene = useDocument((s) => s.scene);
  const prop = scene.props.find((p) => p.id === id);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const bounds = useEngine((s) => s.result.propBounds[id]);
  // What was brought in just now has not been measured yet.
  const isKnown = useEngine((s) => s.scene?.props.some((p) => p === prop) ?? false);
  if (!prop) return null;
  const set = (values: Partial<Omit<Prop, 'id' | 'mesh'>>, key?: string) =>
    dispatch(setProp, { id, values }, key);
  const pose = async (lie: Lie) => set(await lying(prop, lie));
  const size =
    bounds && ([0, 2, 1] as const).map((a) => metres(bounds.max[a] - bounds.min[a], scene.units)).join(' × ');
  const used = scene.arrangements.filter((a) => needsOf(a).props.includes(id));
  return (
    <>
      <NodeHead
        name={prop.name}
        kind="prop"
        color="var(--soft)"
        detail={used.length ? `In ${used.map((a) => a.name).join(', ')}` : 'Not used yet'}
        onRename={(name) => set({ name })}
        menu={() => propEntries(prop)}
      />
      <fieldset disabled={readOnly} className="thin-scroll min-w-0 min-h-0 flex-1 overflow-y-auto px-3 py-3">
        <div className="mb-3 flex justify-center rounded-lg bg-well py-4">
          <PropPicture prop={prop} size={112} />
        </div>
        <BundlePart prop={prop} />
        {prop.mesh.source === 'line' && <LineFields id={id} line={prop.mesh} />}
        {prop.mesh.source === 'stamp' && <StampFields id={id} stamp={prop.mesh} />}
        {prop.mesh.source === 'stamp' ? null : size ? (
          <p className="mb-2 text-[13px] text-soft">
            Wide × long × high: <span className="num text-text">{size}</span>
          </p>
        ) : !isKnown || prop.mesh.source === 'bundle' ? null : (
          <p role="alert" className="mb-2 text-[13px] text-danger">
            Its mesh is not at hand.{' '}
            <button
              type="button"
              title="Looks for its file"
              className="underline"
              onClick={() => openDialog('bring-in')}
            >
              Bring the file in again
            </button>
            ; it is known by its content.
          </p>
        )}
        <Choice
          label="Foot"
          hint="The point of the prop that touches and that it stands by"
          value={prop.foot.at}
          options={
            prop.foot.at === 'point' ? [...FEET, { value: 'point', text: 'Own point' } as const] : FEET
          }
          onChange={(at) => void pose({ foot: { at } })}
        />
        <AxisField label="Up axis" value={prop.up} onChange={(up) => void pose({ up })} />
        <AxisField
          label="Front axis"
          value={prop.front}
          not={prop.up}
          onChange={(front) => void pose({ front })}
        />
        {(prop.mesh.source === 'built' || prop.mesh.source === 'file') && (
          <UnitField value={prop.unitScale} onChange={(unitScale) => void pose({ unitScale })} />
        )}
        {prop.mesh.source !== 'stamp' && (
          <>
            <MaterialChoice ids={[id]} value={prop.material} />
            <GlowFields
              of={id}
              glow={prop.glow}
              onChange={(glow, key) => dispatch(setGlow, { id, glow }, key)}
            />
          </>
        )}
        <SnapPoints
          prop={id}
          points={prop.snapPoints}
          onChange={(snapPoints, key) => set({ snapPoints }, key)}
        />
        <Button
          look="bordered"
          title="As a new run along it"
          className="mt-3 w-full"
          onClick={() => hangProp(id)}
        >
          Hang on the selected path
        </Button>
      </fieldset>
    </>
  );
}
