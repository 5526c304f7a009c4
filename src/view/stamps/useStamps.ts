import { useEffect, useMemo, useState } from 'react';
import type { Stamp } from '@/core/mesh/meshRef';
import { stampLayers, type StampsLaid } from '@/core/mesh/stamp/layers';
import type { StampMaps } from '@/core/mesh/stamp/maps';
import { useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import type { ServedArrangement } from '@/engine/served';
import { letGoOfStamps, stampPictures, stampUniforms, type StampPictures } from './textures';
import type { StampUniforms } from './stampMaterial';

/** What a stamp’s maps follow from, as text. */
const lookOf = ({ picture, relief, reliefIs, width, length }: Stamp): string =>
  JSON.stringify([picture?.hash, relief?.hash, reliefIs, reliefIs === 'normal' ? [width, length] : 0]);

/** The pictures of stamps, kept as long as the same ones are shown. */
function usePictures(
  stamps: Stamp[],
  redraw: () => void,
): { textures: StampPictures; of: Map<string, number> } | null {
  const looks = [...new Map(stamps.map((s) => [lookOf(s), s]))].sort(([a], [b]) => (a < b ? -1 : 1));
  const key = looks.map(([look]) => look).join();
  const [ready, setReady] = useState<{
    key: string;
    textures: StampPictures;
    of: Map<string, number>;
  } | null>(null);
  useEffect(() => {
    if (key === '') return undefined;
    let wanted = true;
    void Promise.all(looks.map(([, stamp]) => engine().stampMaps(stamp))).then((maps: StampMaps[]) => {
      if (!wanted) return;
      setReady({ key, textures: stampPictures(maps), of: new Map(looks.map(([look], i) => [look, i])) });
      redraw();
    });
    return () => void (wanted = false);
    // eslint-disable-next-line react-hooks/exhaustive-deps -- the key says all that the looks do
  }, [key, redraw]);
  useEffect(
    () => () => {
      ready?.textures.colors.dispose();
      ready?.textures.slopes.dispose();
    },
    [ready],
  );
  return ready?.key === key ? ready : null;
}

/** What the materials of surfaces read of the stamps that lie on them, by surface. */
export function useStamps(redraw: () => void): Map<string, StampUniforms> {
  const arrangements = useDocument((s) => s.scene.arrangements);
  const results = useEngine((s) => s.result.arrangements);
  // Where no prop is a stamp nothing has to be gone through at each step of a drag.
  const any = useDocument((s) => s.scene.props.some(({ mesh }) => mesh.source === 'stamp'));
  const shown = useMemo(
    () =>
      (any ? arrangements : []).flatMap((a): NonNullable<ServedArrangement['stamps']>[] => {
        const stamps = a.visible ? results.get(a.id)?.stamps : undefined;
        return stamps ? [stamps] : [];
      }),
    [any, arrangements, results],
  );
  const pictures = usePictures(
    shown.flatMap(({ stamps }) => stamps.filter((s) => s !== null)),
    redraw,
  );
  const [kept, keep] = useState({
    shown: [] as typeof shown,
    pictures,
    made: new Map<string, StampUniforms>(),
  });
  const same =
    kept.pictures === pictures &&
    kept.shown.length === shown.length &&
    shown.every((s, i) => s === kept.shown[i]);
  let { made } = kept;
  if (!same) {
    made = new Map<string, StampUniforms>();
    const on = new Map<string, StampsLaid[]>();
    for (const { on: surfaces, stamps } of pictures ? shown : []) {
      const by = {
        pictures: stamps.map((s) => (s ? (pictures!.of.get(lookOf(s)) ?? 0) : 0)),
        layers: stamps.map((s) => s?.layer ?? 0),
      };
      for (const { surface, numbers } of surfaces)
        on.set(surface, [...(on.get(surface) ?? []), { numbers, ...by }]);
    }
    for (const [surface, all] of on) made.set(surface, stampUniforms(stampLayers(all), pictures!.textures));
    keep({ shown, pictures, made });
  }
  useEffect(() => () => made.forEach(letGoOfStamps), [made]);
  return made;
}
