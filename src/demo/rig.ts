import type { Mesh } from '@/core/mesh/mesh';
import { Motion, type MotionChannel } from '@/core/mesh/motion';
import { DEG } from '@/core/math/quat';
import { cos, sin } from '@/core/math/portable';
import type { Vec3 } from '@/core/math/vec3';
import type { Shape } from './shape';

/** Things of several parts that turn about joints, with animations of their own. */

export interface Joint {
  /** Number of the joint that it hangs on; -1 for the first. */
  parent: number;
  /** Where it is in the mesh, metres. */
  at: Vec3;
}

/** What a joint does over one round: degrees about an axis, or metres, at a share of it. */
export interface Swing {
  joint: number;
  about?: { axis: Vec3; deg: (share: number) => number };
  moved?: (share: number) => Vec3;
}

export interface Clip {
  name: string;
  /** Seconds. */
  duration: number;
  swings: Swing[];
}

/** Keys of one round. */
const KEYS = 24;

/** The motion of a mesh whose parts have been put onto joints with {@link Shape.on}. */
export function motionOf(shape: Shape, mesh: Mesh, joints: readonly Joint[], clips: readonly Clip[]): Motion {
  const from = (k: number): Vec3 => (joints[k].parent < 0 ? [0, 0, 0] : joints[joints[k].parent].at);
  const local = (k: number): Vec3 => joints[k].at.map((v, a) => v - from(k)[a]) as Vec3;
  return new Motion({
    nodes: joints.map(({ parent }, k) => ({
      parent,
      translation: local(k),
      rotation: [0, 0, 0, 1],
      scale: [1, 1, 1],
    })),
    pieces: shape.joints.map(({ joint, from: start }, i) => {
      const end = shape.joints[i + 1]?.from ?? mesh.positions.length / 3;
      const positions = mesh.positions.slice(start * 3, end * 3);
      for (let o = 0; o < positions.length; o++) positions[o] -= joints[joint].at[o % 3];
      return { node: joint, positions, targets: [], weights: [] };
    }),
    clips: clips.map(({ name, duration, swings }) => ({
      name,
      duration,
      channels: swings.flatMap((s) => channelsOf(s, duration, local(s.joint))),
    })),
  });
}

function channelsOf({ joint: node, about, moved }: Swing, duration: number, rest: Vec3): MotionChannel[] {
  const shares = Array.from({ length: KEYS + 1 }, (_, k) => k / KEYS);
  const times = Float32Array.from(shares, (t) => t * duration);
  const out: MotionChannel[] = [];
  if (about)
    out.push({
      node,
      path: 'rotation',
      times,
      interpolation: 'LINEAR',
      values: Float32Array.from(
        shares.flatMap((t) => {
          const half = (about.deg(t) * DEG) / 2;
          return [...about.axis.map((a) => a * sin(half)), cos(half)];
        }),
      ),
    });
  if (moved)
    out.push({
      node,
      path: 'translation',
      times,
      interpolation: 'LINEAR',
      values: Float32Array.from(shares.flatMap((t) => moved(t).map((v, a) => v + rest[a]))),
    });
  return out;
}

/** A wave over one round: the sine of a share, that far on. */
export const wave = (share: number, on = 0): number => sin(2 * Math.PI * (share + on));
