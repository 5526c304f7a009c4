import { PerspectiveCamera, Vector3 } from 'three';
import { focalOf, fovOf, frameIn, viewFov } from './framing';

test('focal lengths are those of a frame 24 mm high, both ways', () => {
  // A lens of 12 mm sees a right angle from bottom to top.
  expect(fovOf(12)).toBeCloseTo(90, 9);
  for (const focal of [8, 24, 35, 85, 800]) expect(focalOf(fovOf(focal))).toBeCloseTo(focal, 9);
});

test.each([
  [1280, 720, 1],
  [1280, 720, 16 / 9],
  [500, 900, 1.5],
  [900, 400, 0.5],
])(
  'in a view of %d × %d the frame of %f lies whole, in the middle, and its rim is what the lens sees',
  (width, height, aspect) => {
    const frame = frameIn({ width, height }, aspect);
    expect(frame.width / frame.height).toBeCloseTo(aspect, 9);
    expect(frame.x).toBeGreaterThan(0);
    expect(frame.y).toBeGreaterThan(0);
    const camera = new PerspectiveCamera(viewFov({ width, height }, aspect, 35), width / height);
    camera.lookAt(0, 0, -1);
    camera.updateMatrixWorld();
    // What the frame's own camera sees at its upper right corner.
    const slope = 12 / 35;
    const corner = new Vector3(slope * aspect * 7, slope * 7, -7).project(camera);
    expect(((corner.x + 1) / 2) * width).toBeCloseTo(frame.x + frame.width, 6);
    expect(((1 - corner.y) / 2) * height).toBeCloseTo(frame.y, 6);
  },
);
