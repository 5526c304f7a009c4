import { cos, sin } from '../../math/portable';

/** Plain profiles to be swept along paths. */

export const PLAIN_PROFILES = ['round', 'square', 'half round', 'gutter', 'angle', 'star'] as const;
export type PlainProfile = (typeof PLAIN_PROFILES)[number];

/**
 * A closed outline as its smooth sides one after the other, each from corner to corner: x to the right, y up, round
 * counterclockwise. Where a side ends another begins, with an edge between them.
 */
export type Outline = [number, number][][];

const arc = (from: number, to: number, steps: number, r = 0.5, x = 0, y = 0): [number, number][] =>
  Array.from({ length: steps + 1 }, (_, i) => {
    const a = ((from + ((to - from) * i) / steps) * Math.PI) / 180;
    return [x + r * cos(a), y + r * sin(a)];
  });

const corners = (...at: [number, number][]): Outline => at.map((p, i) => [p, at[(i + 1) % at.length]]);

/** How thick the walls of those are that have some, as a share of their width. */
const WALL = 0.12;
const SPIKES = 6;

/** A plain profile of width and height 1, its middle at 0, 0. */
export function plainProfile(name: PlainProfile): Outline {
  switch (name) {
    case 'round':
      return [arc(0, 360, 32)];
    case 'square':
      return corners([-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]);
    case 'half round':
      // As wide as high: half an ellipse over a flat side.
      return [
        [
          [-0.5, -0.5],
          [0.5, -0.5],
        ],
        arc(0, 180, 24).map(([x, y]): [number, number] => [x, 2 * y - 0.5]),
      ];
    case 'gutter': {
      const inner = 0.5 - WALL;
      return [
        arc(180, 360, 24).map(([x, y]): [number, number] => [x, 2 * y + 0.5]),
        [
          [0.5, 0.5],
          [inner, 0.5],
        ],
        arc(360, 180, 24, inner).map(([x, y]): [number, number] => [x, 2 * y + 0.5]),
        [
          [-inner, 0.5],
          [-0.5, 0.5],
        ],
      ];
    }
    case 'angle':
      return corners(
        [-0.5, -0.5],
        [0.5, -0.5],
        [0.5, -0.5 + WALL],
        [-0.5 + WALL, -0.5 + WALL],
        [-0.5 + WALL, 0.5],
        [-0.5, 0.5],
      );
    case 'star':
      // Soft spikes, as cream leaves a nozzle.
      return [
        Array.from({ length: 73 }, (_, i): [number, number] => {
          const a = (2 * Math.PI * (i % 72)) / 72;
          const r = 0.39 + 0.11 * cos(SPIKES * a);
          return [r * cos(a), r * sin(a)];
        }),
      ];
  }
}

/** The area within an outline (Gauss’s shoelace). */
export function outlineArea(outline: Outline): number {
  let two = 0;
  for (const side of outline)
    for (let i = 0; i + 1 < side.length; i++)
      two += side[i][0] * side[i + 1][1] - side[i + 1][0] * side[i][1];
  return two / 2;
}
