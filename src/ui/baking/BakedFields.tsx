'use client';

import { BAKED_MAPS, type Baked, type BakedMap } from '@/core/mesh/bake/bakeSchema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setBaked } from '@/store/commands/baking';
import { dispatch, useDocument } from '@/store/document';
import { metres } from '@/words/numbers';
import { Button } from '../controls/Button';
import { Choice } from '../controls/Choice';
import { lengthField, NumberFields, type FieldSpec } from '../controls/NumberFields';
import { Toggle } from '../controls/Toggle';
import { bakeMaps, makeMaps, sendMapsOut, takeMapsOff, useBaking, wearMaps } from './bake';

const MAPS: Record<BakedMap, { text: string; hint: string }> = {
  normal: { text: 'Normals', hint: 'In tangent space (MikkTSpace), green upwards, over those that it has' },
  height: { text: 'Height', hint: 'Over the surface, black the lowest and white the highest, of 16 bits' },
  occlusion: { text: 'Occlusion', hint: 'How much light comes there, by rays' },
  color: { text: 'Colours', hint: 'Its own, and those of what lies on it' },
  props: { text: 'Which prop', hint: 'A colour for each prop; what is sent out names them' },
};
const SIZES = [256, 512, 1024, 2048, 4096, 8192].map((n) => ({ value: String(n), text: `${n} × ${n}` }));
const REACH: FieldSpec = {
  ...lengthField('reach', 'Seen from', 0.1, 'So far off the surface: what is higher is not in the maps'),
  step: 0.01,
  min: 0.0001,
  max: 1000,
};
const whole = (name: string, label: string, hint: string, min: number, max: number, reset: number) => ({
  ...{ name, label, hint, min, max, reset },
  whole: true,
});
const FINE: FieldSpec[] = [
  whole('within', 'Places a pixel', 'Looked at along each side of one: more have smoother edges', 1, 4, 1),
  whole('margin', 'Margin, pixels', 'The maps go on beyond their islands, so that no seam is seen', 0, 64, 8),
];
const SHADE: FieldSpec[] = [
  whole('rays', 'Rays', 'For the occlusion of each place: more are less grainy', 1, 256, 16),
  {
    ...lengthField('shade', 'Shade within', 0.3, 'Farther things take no light away'),
    min: 0.0001,
    max: 1000,
  },
];

/** What lies on a surface as maps in its material: normals, height, occlusion, colours, and which prop is where. */
export function BakedFields({ surface: { id, baked } }: { surface: Surface }) {
  return (
    <section aria-label="Maps">
      <h3 className="mb-1 mt-3 font-display text-sm font-semibold">Maps</h3>
      {baked ? (
        <Settings id={id} baked={baked} />
      ) : (
        <Button
          look="bordered"
          className="mb-1 w-full"
          title="Props and stamps as pictures in its texture coordinates"
          onClick={() => makeMaps(id)}
        >
          Bake what lies on it
        </Button>
      )}
    </section>
  );
}

function Settings({ id, baked }: { id: string; baked: Baked }) {
  const units = useDocument((s) => s.scene.units);
  const set = (values: Partial<Omit<Baked, 'shown' | 'made' | 'heights'>>, key?: string) =>
    dispatch(setBaked, { id, values }, key);
  const baking = useBaking((s) => s.surface);
  const { maps, made, heights } = baked;
  return (
    <>
      {BAKED_MAPS.map((map) => (
        <Toggle
          key={map}
          label={MAPS[map].text}
          hint={MAPS[map].hint}
          value={maps.includes(map)}
          onChange={(on) => set({ maps: BAKED_MAPS.filter((m) => (m === map ? on : maps.includes(m))) })}
        />
      ))}
      <Of id={id} of={baked.of} />
      <Choice
        label="Size"
        hint="Pixels along each side"
        value={String(baked.size)}
        none={`${baked.size} × ${baked.size}`}
        options={SIZES}
        onChange={(size) => set({ size: Number(size) })}
      />
      <NumberFields
        within=""
        fields={[REACH, ...FINE, ...(maps.includes('occlusion') ? SHADE : [])]}
        values={baked}
        set={(values, key) => set(values as Partial<Baked>, key)}
      />
      {made && (
        <Toggle
          label="Instead of the props"
          hint="It wears the maps, and what is in them is hidden"
          value={baked.shown}
          onChange={(shown) => wearMaps(id, shown)}
        />
      )}
      {made?.height && heights && (
        <p className="mb-1 text-[13px] text-soft">
          Height: black is {metres(heights[0], units, 4)}, white {metres(heights[1], units, 4)} over it.
        </p>
      )}
      <div className="mb-1 grid grid-cols-2 gap-1">
        <Button
          look="bordered"
          title="Coarsely at once, then as finely as is asked"
          disabled={maps.length === 0 || baking !== null}
          onClick={() => void bakeMaps(id)}
        >
          {baking === id ? 'Baking…' : made ? 'Bake anew' : 'Bake'}
        </Button>
        {made && (
          <Button look="bordered" title="PNG files in a zip" onClick={() => void sendMapsOut(id)}>
            Send the maps out
          </Button>
        )}
        <Button title="It has no maps any more" onClick={() => takeMapsOff(id)}>
          Take them off
        </Button>
      </div>
    </>
  );
}

/** Which arrangements are in the maps. */
function Of({ id, of }: { id: string; of: readonly string[] }) {
  const arrangements = useDocument((s) => s.scene.arrangements);
  return (
    <details className="mb-1">
      <summary className="flex min-h-8 cursor-pointer items-center text-sm">
        {of.length} of {arrangements.length} arrangements
      </summary>
      {arrangements.map((a) => (
        <Toggle
          key={a.id}
          label={a.name}
          hint="Its props and stamps are in the maps"
          value={of.includes(a.id)}
          onChange={(on) =>
            dispatch(setBaked, { id, values: { of: on ? [...of, a.id] : of.filter((x) => x !== a.id) } })
          }
        />
      ))}
    </details>
  );
}
