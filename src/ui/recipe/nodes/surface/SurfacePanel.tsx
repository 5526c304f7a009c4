'use client';

import { isOwnMesh } from '@/core/mesh/meshRef';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setSurface } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { Button } from '../../../controls/Button';
import { NumberFields, PlaceField } from '../../../controls/NumberFields';
import { angleFields, sizeField } from '../../../controls/poseFields';
import { KIND_UIS } from '../../../kinds/registry';
import { MaterialChoice } from '../../../materials/MaterialChoice';
import { takesFrom } from '../../../lists/newPath';
import { surfaceEntries } from '../../../menus/entries';
import { sentence } from '@/words/findings';
import { plural } from '@/words/numbers';
import { BakedFields } from '../../../baking/BakedFields';
import { AxisField, UnitField } from '../MeshFields';
import { NodeHead } from '../NodeHead';
import { useBody } from './BodyFacts';
import { Deformers } from './Deformers';
import { FaceFields, LockedField, SurfaceColor } from './FaceFields';
import { DustFields } from './gathered/DustFields';
import { NetworkFields } from './gathered/NetworkFields';
import { SolidFields } from './gathered/SolidFields';
import { Look } from './Look';
import { Plays } from './Plays';
import { Printed } from './Printed';
import { ShapeFields } from './ShapeFields';
import { ThicknessFields } from './ThicknessFields';
import { LinkScope } from '../../../controls/LinkScope';

const PLACING = [...angleFields(), sizeField(0.001)];
/** A surface: what it is made of, where it stands, and what deforms it. */
export function SurfacePanel({ id }: { id: string }) {
  const scene = useDocument((s) => s.scene);
  const surface = scene.surfaces.find((x) => x.id === id);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const served = useEngine((s) => s.result.surfaces.get(id));
  const checks = useEngine((s) => s.checks.get(id));
  const { body, looked } = useBody(id);
  if (!surface) return null;
  const set = (
    values: Partial<Omit<Surface, 'id' | 'mesh' | 'deformers' | 'thickness' | 'baked'>>,
    key?: string,
  ) => dispatch(setSurface, { id, values }, key);
  const problem = served?.findings[0] ?? checks?.[0];
  const made = !isOwnMesh(surface.mesh);
  return (
    <>
      <NodeHead
        name={surface.name}
        kind="surface"
        color="var(--color-linen-400)"
        detail={served ? plural(served.faces, 'face') : 'Being worked out…'}
        onRename={(name) => set({ name })}
        menu={() => surfaceEntries(surface)}
      />
      <fieldset disabled={readOnly} className="thin-scroll min-w-0 min-h-0 flex-1 overflow-y-auto px-3 py-2">
        {problem && (
          <p role="alert" className="mb-2 text-[13px] text-danger">
            {sentence(problem, scene)}
            {problem.marks && (
              <>
                {' '}
                <Look at={problem.marks.flat()} what="what was found" />
              </>
            )}
          </p>
        )}
        {surface.mesh.source === 'solid' && <SolidFields surface={surface} spec={surface.mesh} />}
        {surface.mesh.source === 'network' && <NetworkFields surface={surface} spec={surface.mesh} />}
        {surface.mesh.source === 'dust' && <DustFields surface={surface} spec={surface.mesh} />}
        {surface.mesh.source !== 'made' && <SurfaceColor surfaces={[surface]} />}
        <LinkScope node={surface.id} at="mesh.shape">
          <ShapeFields surface={surface} />
        </LinkScope>
        <h3 className="mb-1 mt-2 font-display text-sm font-semibold">Place</h3>
        <PlaceField
          label="Position"
          hint="Where it stands: x, y, z"
          value={surface.position}
          onChange={(position, key) => set({ position }, key)}
        />
        <LinkScope node={surface.id} at="">
          <NumberFields within="" fields={PLACING} values={surface} set={set} />
        </LinkScope>
        <LockedField surfaces={[surface]} />
        <h3 className="mb-1 mt-2 font-display text-sm font-semibold">Faces</h3>
        <FaceFields surfaces={[surface]} />
        <MaterialChoice ids={[id]} value={surface.material} />
        {surface.mesh.source === 'file' && <Plays surface={surface} />}
        <Deformers surface={surface} />
        <ThicknessFields surface={surface} body={body} />
        <BakedFields surface={surface} />
        <h3 className="mb-1 mt-3 font-display text-sm font-semibold">Lay on it</h3>
        <div className="mb-2 grid grid-cols-2 gap-1">
          {KIND_UIS.flatMap(({ ontoSurface = [] }) => ontoSurface).map(({ short, hint, run }) => (
            <Button key={short} look="bordered" title={hint} onClick={() => run(id)}>
              {short}
            </Button>
          ))}
        </div>
        <h3 className="mb-1 mt-3 font-display text-sm font-semibold">Take a path</h3>
        <div className="mb-2 grid gap-1">
          {takesFrom(surface).map((t) => (
            <Button
              key={t.text}
              look="bordered"
              title="A path that goes with the surface"
              className="!justify-start !text-[12.5px]"
              onClick={t.run}
            >
              {t.text}
            </Button>
          ))}
        </div>
        {!made && (
          <>
            <UnitField value={surface.unitScale} onChange={(unitScale) => set({ unitScale })} />
            <AxisField label="Up axis" value={surface.up} onChange={(up) => set({ up })} />
          </>
        )}
        {/* It comes late, and is the last: nothing moves away from under the pointer. */}
        {body?.closed && body.volume !== null && body.volume > 0 && (
          <Printed print={scene.print} volume={body.volume} looked={looked} />
        )}
      </fieldset>
    </>
  );
}
