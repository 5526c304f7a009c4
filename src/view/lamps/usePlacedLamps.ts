import { useMemo } from 'react';
import { lightAt } from '@/core/evaluate/timed/lightAt';
import type { Lamp } from '@/core/light/lampSchema';
import type { Vec3 } from '@/core/math/vec3';
import type { Scene } from '@/core/scene/schema';
import { useClock } from '@/store/clock';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { boxOf } from '../fit';
import { placesOf } from '../places';
import type { PlacedLamp } from './LampLights';

const NONE: PlacedLamp[] = [];

/** The lights put in by hand as they are at the moment that is shown, turned to what they are aimed at. */
export function usePlacedLamps(): PlacedLamp[] {
  const lamps = useDocument((s) => s.scene.lamps);
  const timed = useDocument((s) => s.scene.timed);
  const moves = timed.some((t) => lamps.some((l) => l.id === t.node));
  const time = useClock((s) => (moves ? s.time : 0));
  const aims = lamps.some((l) => l.aimedAt !== null);
  const result = useEngine((s) => (aims ? s.result : null));
  const links = useEngine((s) => s.result.links);
  return useMemo(() => {
    if (lamps.length === 0) return NONE;
    const { scene } = useDocument.getState();
    return lightAt({ ...scene, lamps, timed }, time, links).lamps.map((lamp) => ({
      ...lamp,
      aim: aimOf(scene, lamp),
    }));
    // What they are aimed at is where the result says.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [lamps, timed, time, links, result]);
}

/** Where a light is turned to: the middle of what it is aimed at, where that is somewhere. */
function aimOf({ arrangements, paths, surfaces }: Scene, { aim, aimedAt }: Lamp): Vec3 {
  const isIn = (list: readonly { id: string }[]) => list.some((n) => n.id === aimedAt);
  const kind = isIn(arrangements) ? 'arrangement' : isIn(surfaces) ? 'surface' : isIn(paths) ? 'path' : null;
  const places = aimedAt && kind ? placesOf({ kind, id: aimedAt }) : [];
  if (places.length === 0) return aim;
  const { min, max } = boxOf(places);
  return min.map((v, k) => (v + max[k]) / 2) as Vec3;
}
