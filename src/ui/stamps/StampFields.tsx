import type { PictureRef, Stamp } from '@/core/mesh/meshRef';
import { setStamp } from '@/store/commands/scene';
import { dispatch } from '@/store/document';
import { Button } from '../controls/Button';
import { FileField, PICTURES } from '../controls/FileField';
import { lengthField, NumberFields, type FieldSpec } from '../controls/NumberFields';
import { Segmented } from '../controls/Segmented';
import { takePicture } from '../controls/takePicture';

const size = (name: string, label: string, hint: string): FieldSpec => ({
  ...lengthField(name, label, 0.1, hint),
  step: 0.01,
  min: 0.0001,
  max: 1000,
});
const SIZE = [
  size('width', 'Width', 'From the left to the right side of its picture'),
  size('length', 'Length', 'From the upper to the lower side of its picture, which is its front'),
];
const DEPTH: FieldSpec = {
  ...lengthField('depth', 'Black to white', 0.005, 'How far what is white is raised over what is black'),
  step: 0.001,
  min: -10,
  max: 10,
};
const DRAWN: FieldSpec[] = [
  {
    ...{ name: 'strength', label: 'Strength', hint: 'Of its colours, and of how far it is raised' },
    ...{ dimension: 'percent', step: 0.05, min: 0, max: 1, reset: 1 },
  },
  {
    ...{ name: 'layer', label: 'Layer', hint: 'Stamps of a higher layer lie over the others' },
    ...{ whole: true, min: -100, max: 100, reset: 0 },
  },
];

/** What a stamp is: its pictures, its size, and how it is drawn into the surface that it lies on. */
export function StampFields({ id, stamp }: { id: string; stamp: Stamp }) {
  const set = (values: Partial<Omit<Stamp, 'source'>>, key?: string) =>
    dispatch(setStamp, { id, values }, key);
  return (
    <section aria-label="The stamp" className="mb-2">
      <OnePicture
        label="Colours"
        hint="A PNG or JPEG; what is transparent leaves what is beneath it"
        picture={stamp.picture}
        onChange={(picture) => set({ picture })}
      />
      <OnePicture
        label="Relief"
        hint="A PNG or JPEG: how it is raised, in shades of grey or as a normal map"
        picture={stamp.relief}
        onChange={(relief) => set({ relief })}
      />
      {stamp.relief && (
        <Segmented
          shown
          label="Relief is"
          hint="What its picture says of how it is raised"
          value={stamp.reliefIs}
          options={[
            { value: 'height', text: 'Height', hint: 'Black lies on the surface, white is raised' },
            { value: 'normal', text: 'Normals', hint: 'A normal map in tangent space, green upwards' },
          ]}
          onChange={(reliefIs) => set({ reliefIs })}
        />
      )}
      <NumberFields
        within=""
        fields={
          stamp.relief && stamp.reliefIs === 'height' ? [DEPTH, ...SIZE, ...DRAWN] : [...SIZE, ...DRAWN]
        }
        values={stamp}
        set={(values, key) => set(values as Partial<Stamp>, key)}
      />
    </section>
  );
}

function OnePicture(props: {
  label: string;
  hint: string;
  picture: PictureRef | null;
  onChange: (picture: PictureRef | null) => void;
}) {
  const { label, hint, picture, onChange } = props;
  return (
    <>
      <FileField
        label={label}
        name={`${label} of the stamp`}
        hint={hint}
        fileName={picture?.fileName}
        accept={PICTURES}
        onTake={async (bytes, fileName) => onChange(await takePicture(bytes, fileName))}
      />
      {picture && (
        <Button
          title={`Has no ${label.toLowerCase()} any more`}
          className="!px-1"
          onClick={() => onChange(null)}
        >
          Take the {label.toLowerCase()} off
        </Button>
      )}
    </>
  );
}
