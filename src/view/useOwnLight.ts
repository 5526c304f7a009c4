import { useEffect } from 'react';
import { lightAt } from '@/core/evaluate/timed/lightAt';
import { LIGHT_NODE } from '@/core/light/schema';
import { useClock } from '@/store/clock';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { setOwnLight } from './light';

/** Keeps what is drawn lit as the scene says, at the moment that is shown. */
export function useOwnLight(): void {
  const light = useDocument((s) => s.scene.light);
  const timed = useDocument((s) => s.scene.timed);
  const moves = light !== null && timed.some((t) => t.node === LIGHT_NODE);
  const time = useClock((s) => (moves ? s.time : 0));
  const links = useEngine((s) => s.result.links);
  useEffect(() => {
    setOwnLight(lightAt(useDocument.getState().scene, time, links).light);
  }, [light, timed, time, links]);
  useEffect(() => () => setOwnLight(null), []);
}
