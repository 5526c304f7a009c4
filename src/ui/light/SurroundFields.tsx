'use client';

import type { Surround } from '@/core/light/panoramaSchema';
import { setSurround } from '@/store/commands/light';
import { dispatch } from '@/store/document';
import { engine } from '@/store/engine';
import { putMesh } from '@/store/keeping/scenes';
import { lookAtPanorama } from '@/view/surround/panoramas';
import { FileField } from '../controls/FileField';
import { NumberFields } from '../controls/NumberFields';
import { Segmented } from '../controls/Segmented';
import { Toggle } from '../controls/Toggle';
import { angle, share } from './fields';

const BY = [
  { value: 'sky', text: 'Sky', hint: 'The sky as it is above' },
  { value: 'panels', text: 'Panels', hint: 'A room of soft panels, as in a photographer’s studio' },
  { value: 'panorama', text: 'Panorama', hint: 'A picture of all directions, of your own' },
] as const;
const FIELDS = [
  angle('turnDeg', 'Turned', 0, 'Degrees clockwise, seen from above', -3600, 3600),
  share('brightness', 'Brightness', '100 is as it comes'),
];
const FILES = '.hdr,.png,.jpg,.jpeg,image/vnd.radiance,image/png,image/jpeg';

/** What is around the scene, for what mirrors it: and light from a panorama. */
export function SurroundFields({ surround }: { surround: Surround }) {
  const set = (values: Partial<Surround>, key?: string) => dispatch(setSurround, values, key);
  const take = async (bytes: Uint8Array, fileName: string) => {
    await lookAtPanorama(bytes, fileName);
    const panorama = await engine().bringInPanorama(bytes, fileName);
    await putMesh(panorama.hash, bytes);
    set({ panorama });
  };
  return (
    <section aria-label="Around" className="mt-2">
      <h3 className="font-display text-sm font-semibold">Around</h3>
      <Segmented
        fill
        label="Reflected"
        hint="What smooth things and metals mirror"
        value={surround.by}
        options={BY}
        onChange={(by) => set({ by })}
      />
      {surround.by === 'panorama' && (
        <>
          <FileField
            label="Panorama"
            name="Picture of all around"
            hint="Twice as wide as it is high: .hdr, PNG or JPEG"
            fileName={surround.panorama?.fileName}
            accept={FILES}
            onTake={take}
          />
          <Toggle
            label="Gives the light"
            hint="In place of the sky; the sun stays as it is set above"
            value={surround.lights}
            onChange={(lights) => set({ lights })}
          />
          <Toggle
            label="Is seen"
            hint="Behind the scene, in place of the sky"
            value={surround.seen}
            onChange={(seen) => set({ seen })}
          />
        </>
      )}
      {surround.by !== 'sky' && (
        <NumberFields within="surround" fields={FIELDS} values={surround} set={set} />
      )}
    </section>
  );
}
