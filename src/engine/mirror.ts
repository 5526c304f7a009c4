import { applyPatches, type Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';

/** What is said when patches do not follow on the scene that is here: the whole scene is needed once. */
export const LOST = 'The scene is needed whole.';

/**
 * The scene of the other side, kept in step with it by patches. What a patch does not name stays the same object, so
 * that whatever was worked out from it and is kept by identity holds.
 */
export class Mirror {
  private real: Scene | null = null;
  private shown: Scene | null = null;
  /** Number of the scene that is here, as the other side counts its changes. */
  private at = -1;

  whole(scene: Scene, at: number): void {
    this.real = this.shown = scene;
    this.at = at;
  }

  /** @param from number of the scene that the patches follow on; with another one here, this has lost its place */
  change(patches: Patch[], from: number, to: number): void {
    const { real } = this;
    this.real = null;
    if (!real || from !== this.at) return;
    this.real = this.shown = applyPatches(real, patches).value;
    this.at = to;
  }

  /** Shows the scene with a change that is not made; null, or the next real change, takes that away. */
  preview(patches: Patch[] | null): void {
    this.shown = this.real && patches ? applyPatches(this.real, patches).value : this.real;
  }

  /** The scene as it is shown. @throws Error with {@link LOST} */
  scene(at: number): Scene {
    if (!this.real || at !== this.at) throw new Error(LOST);
    return this.shown!;
  }
}
