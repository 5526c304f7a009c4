'use client';

import type { LayerOf } from '@/core/mesh/mask/schema';
import { Choice } from '../controls/Choice';
import { FileField, PICTURES } from '../controls/FileField';
import { NumberFields, type FieldSpec } from '../controls/NumberFields';
import { Segmented } from '../controls/Segmented';
import { takePicture } from '../controls/takePicture';

const CHANNELS = [
  { value: 'grey', text: 'brightness' },
  { value: 'red', text: 'red' },
  { value: 'green', text: 'green' },
  { value: 'blue', text: 'blue' },
  { value: 'alpha', text: 'opacity' },
] as const;
const BY = [
  { value: 'uv', text: 'By uv', hint: 'Again and again over the surface’s texture coordinates' },
  { value: 'above', text: 'From above', hint: 'Let down once, into its frame' },
] as const;

const side = (name: string, label: string, hint: string): FieldSpec => ({
  name,
  label,
  hint,
  dimension: 'length',
  step: 0.5,
  min: 0.001,
  max: 1e6,
  reset: 10,
});
const FRAME: FieldSpec[] = [
  { name: 'x', label: 'Middle X', hint: 'Where it comes down', dimension: 'length', step: 0.5, reset: 0 },
  { name: 'z', label: 'Middle Z', hint: 'Where it comes down', dimension: 'length', step: 0.5, reset: 0 },
  side('width', 'Width', 'Metres from its left side to its right'),
  side('depth', 'Depth', 'Metres from its upper side to its lower'),
  {
    name: 'turnDeg',
    label: 'Turned',
    hint: 'Degrees, seen from above',
    dimension: 'angle',
    step: 5,
    reset: 0,
  },
];

/** The picture of a layer, what of it counts, and how it lies. */
export function PictureFields({
  layer,
  set,
}: {
  layer: LayerOf<'picture'>;
  set: (values: object, key?: string) => void;
}) {
  return (
    <>
      <FileField
        label="Picture"
        name="Picture of the mask"
        hint="A PNG or JPEG picture"
        fileName={layer.picture?.fileName}
        accept={PICTURES}
        onTake={async (bytes, fileName) => set({ picture: await takePicture(bytes, fileName) })}
      />
      <Choice
        label="Counts"
        hint="What of the picture counts"
        value={layer.channel}
        options={CHANNELS}
        onChange={(channel) => set({ channel })}
      />
      <Segmented
        fill
        label="Laid"
        hint="How the picture lies on the surface"
        value={layer.by}
        options={BY}
        onChange={(by) => set({ by })}
      />
      {layer.by === 'above' && (
        <NumberFields
          fields={FRAME}
          values={layer.frame}
          set={(values, key) => set({ frame: { ...layer.frame, ...values } }, key)}
        />
      )}
    </>
  );
}
