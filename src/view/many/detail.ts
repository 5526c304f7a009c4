import type { Camera } from 'three';

/** Between what is chosen for a frame and who draws it: whether the frame was rough, and how the fine one is chosen. */
export const detail: {
  /** A frame at rest takes so long that it is drawn in parts, after a rough one. */
  inParts: boolean;
  /** The last frame at rest was drawn coarser than it will be. */
  rough: boolean;
  /** Gives everything the level that it has at rest. @returns called when all of that is drawn, to say so */
  refine: () => () => void;
  /** Gives everything the level that it has in a picture of so many pixels in height, all of it in full. */
  forStill: (camera: Camera, height: number) => void;
} = { inParts: false, rough: false, refine: () => () => {}, forStill: () => {} };
