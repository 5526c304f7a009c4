/** How the frame of a viewpoint lies in a view, and what the view has to see so that it does. */

/** Height of the frame that focal lengths are told for, mm. */
const FRAME_MM = 24;
/** The frame takes so much of the view, at most. */
const SHARE = 0.88;

/** Half of what a frame sees from bottom to top, as the tangent of the angle. @param focal mm */
const slopeOf = (focal: number): number => FRAME_MM / 2 / focal;

/** Degrees that a camera sees from bottom to top. @param focal mm */
export const fovOf = (focal: number): number => (2 * Math.atan(slopeOf(focal)) * 180) / Math.PI;

/** The focal length, mm, of a camera that sees so many degrees from bottom to top. */
export const focalOf = (fovDeg: number): number => FRAME_MM / 2 / Math.tan((fovDeg * Math.PI) / 360);

/** Pixels of a frame in the middle of a view: as large as it can be with a margin. */
export function frameIn(view: { width: number; height: number }, aspect: number) {
  const height = Math.min(view.height * SHARE, (view.width * SHARE) / aspect);
  const width = height * aspect;
  return { x: (view.width - width) / 2, y: (view.height - height) / 2, width, height };
}

/** Degrees that the view has to see, for its frame to see what a focal length says. */
export function viewFov(view: { width: number; height: number }, aspect: number, focal: number): number {
  const slope = (slopeOf(focal) * view.height) / frameIn(view, aspect).height;
  return (2 * Math.atan(slope) * 180) / Math.PI;
}
