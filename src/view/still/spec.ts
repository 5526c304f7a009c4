import type { Viewpoint } from '@/core/scene/viewpointSchema';
import type { StillFormat } from './sheet';

/** What a still picture is to be. */

export type Looks = Pick<Viewpoint, 'eye' | 'aim' | 'focal' | 'focus'>;

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
