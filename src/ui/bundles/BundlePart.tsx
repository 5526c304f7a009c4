'use client';

import type { Prop } from '@/core/mesh/propSchema';
import { setCopiesAlike } from '@/store/commands/bundles';
import { dispatch, useDocument } from '@/store/document';
import { plural } from '@/words/numbers';
import { Button } from '../controls/Button';
import { Toggle } from '../controls/Toggle';
import { closeBundle, openToEdit, takeApart, takeSnapPoints } from './making';

/** What there is to a prop that is a bundle: what is in it, opened or taken apart, its copies alike or each by itself. */
export function BundlePart({ prop }: { prop: Prop }) {
  const { bundles, arrangements } = useDocument((s) => s.scene);
  const { id, mesh } = prop;
  const bundle = mesh.source === 'bundle' ? bundles.find((b) => b.id === mesh.bundle) : undefined;
  if (!bundle) return null;
  const held = arrangements.filter((a) => bundle.members.some((m) => m.id === a.id));
  return (
    <section aria-label="Bundle" className="mb-3 rounded-lg bg-well px-2.5 py-2">
      <p className="text-[13px] text-soft" title={held.map((a) => a.name).join(', ')}>
        {held.length === 0
          ? 'A bundle of nothing: what was in it is gone. Delete it, or undo.'
          : `A bundle of ${held.length < 4 ? held.map((a) => a.name).join(', ') : plural(held.length, 'arrangement')}`}
      </p>
      <Toggle
        label="Copies alike"
        hint="On: every copy is as it was made. Off: each draws its random values anew"
        value={bundle.alike}
        onChange={(alike) => dispatch(setCopiesAlike, { prop: id, alike })}
      />
      <div className="mt-1 grid grid-cols-2 gap-1.5">
        {bundle.open ? (
          <Button look="bordered" title="Back to the whole scene" onClick={closeBundle}>
            Done
          </Button>
        ) : (
          <Button
            look="bordered"
            title="What it holds is edited where it was made; all copies follow"
            onClick={() => openToEdit(id)}
          >
            Open to edit
          </Button>
        )}
        <Button
          look="bordered"
          title="What it holds stands in the scene by itself again"
          onClick={() => takeApart(id)}
        >
          Take apart
        </Button>
        <Button
          look="bordered"
          className="col-span-2"
          title="Strands, pegs and riders can then be hung on them in every copy"
          onClick={() => void takeSnapPoints(prop)}
        >
          Take the snap points in it
        </Button>
      </div>
    </section>
  );
}
