import { engine } from '@/store/engine';
import type { NodeRef } from '@/store/selection';
import { placesOf } from '@/view/places';
import { lookAt } from '@/view/viewState';

/** Looks at a node that was just made, as soon as it has been worked out where it is. */
export function lookWhenThere(node: NodeRef): void {
  const client = engine();
  const stop = client.subscribe(() => {
    const { busy, scene } = client.state;
    if (busy || !scene) return;
    stop();
    lookAt(placesOf(node));
  });
}
