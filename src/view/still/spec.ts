import type { Vec3 } from '@/core/math/vec3';
import type { Viewpoint } from '@/core/scene/viewpointSchema';
import type { StillFormat } from './sheet';

/** What a still picture is to be. */

export interface Looks extends Pick<Viewpoint, 'eye' | 'aim' | 'focal' | 'focus'> {
  /** Seen straight on, without perspective: metres from the bottom of the picture to its top, and what is up in it. */
  straight?: { high: number; up: Vec3 };
}

export interface StillSpec {
  name: string;
  from: Looks;
  width: number;
  height: number;
  /** Frames of light that are added up; null: so many that twice as many change nothing that one sees. */
  frames: number | null;
  background: 'scene' | 'transparent' | 'plain';
  /** Of a plain background. */
  color: string;
  format: StillFormat;
  /** Also pictures of depth, of directions, and of what belongs to which arrangement. */
  beside: boolean;
}
