import type { Vec3 } from '@/core/math/vec3';
import { lookAt } from '@/view/viewState';

/** A word in a line that leads to places of the scene. */
export const Look = ({ at, what }: { at: readonly Vec3[]; what: string }) => (
  <button
    type="button"
    title={`Looks at ${what}`}
    aria-label={`Look at ${what}`}
    className="underline hover:text-text"
    onClick={() => lookAt(at)}
  >
    Look
  </button>
);
