import type { Deformer } from '@/core/mesh/deform/schema';
import { useDocument } from '@/store/document';
import { LinkScope } from '../../../controls/LinkScope';
import { NumberFields, type FieldSpec } from '../../../controls/NumberFields';
import { Toggle } from '../../../controls/Toggle';

type Sag = Extract<Deformer, { kind: 'sag' }>;

const FRICTION: FieldSpec = {
  name: 'friction',
  label: 'Friction',
  hint: 'The steepest slope that it stays on, as a tangent: 1 is 45°',
  step: 0.05,
  min: 0,
  max: 10,
  reset: 0.5,
};

/** What a tube that sags lies on, how it holds there, and which of its ends stay. */
export function SagFields({
  surface,
  sag: d,
  set,
}: {
  surface: string;
  sag: Sag;
  set: (values: Partial<Sag>, key?: string) => void;
}) {
  const surfaces = useDocument((s) => s.scene.surfaces);
  const others = surfaces.filter((s) => s.id !== surface);
  return (
    <>
      {others.length > 0 && (
        <fieldset className="my-1">
          <legend className="text-sm">Lies on</legend>
          <div className="thin-scroll ml-2 max-h-40 overflow-y-auto border-l-2 border-edge pl-2">
            {others.map(({ id, name }) => (
              <Toggle
                key={id}
                label={name}
                hint={`It comes to lie on “${name}”`}
                value={d.onto.includes(id)}
                onChange={(on) => set({ onto: on ? [...d.onto, id] : d.onto.filter((o) => o !== id) })}
              />
            ))}
          </div>
        </fieldset>
      )}
      <Toggle
        label="Sticks"
        hint="Where it has touched it stays, also when that is turned or moves"
        value={d.sticks}
        onChange={(sticks) => set({ sticks })}
      />
      {!d.sticks && (
        <LinkScope node={surface} at={`deformers.${d.id}`}>
          <NumberFields
            within=""
            fields={[FRICTION]}
            values={d}
            set={(values, key) => set(values as Partial<Sag>, key)}
          />
        </LinkScope>
      )}
      <Toggle
        label="Lies on itself"
        hint="Its turns come to lie on each other"
        value={d.itself}
        onChange={(itself) => set({ itself })}
      />
      <Toggle
        label="Hold its beginning"
        hint="That end stays where its path begins"
        value={d.holdStart}
        onChange={(holdStart) => set({ holdStart })}
      />
      <Toggle
        label="Hold its end"
        hint="That end stays where its path ends"
        value={d.holdEnd}
        onChange={(holdEnd) => set({ holdEnd })}
      />
    </>
  );
}
