import type { Grid } from './grid';
import type { SurfaceShape } from './schema';

/** A picture in shades of grey, row after row from the top left; 0 black, 1 white. */
export interface GreyPicture {
  width: number;
  height: number;
  values: Float32Array;
  /** Red, green, blue and alpha of each pixel, 0–255 as they are stored; absent where all are the shade of grey. */
  colours?: Uint8Array;
}

/**
 * A height field from a picture: its top side lies to the north (−Z), black at height 0, white at the full height.
 * Between the pixels' middles heights run evenly (bilinear).
 */
export function pictureField(s: Extract<SurfaceShape, { shape: 'picture' }>, picture: GreyPicture): Grid[] {
  const { width, height, values } = picture;
  const held = (v: number, most: number) => Math.min(most - 1, Math.max(0, v));
  const at = (x: number, y: number) => values[held(y, height) * width + held(x, width)];
  return [
    {
      columns: s.columns,
      rows: s.rows,
      at: (u, v) => {
        // The sides of the surface are the middles of the outermost pixels.
        const x = u * (width - 1);
        const y = (1 - v) * (height - 1);
        const [i, j] = [Math.floor(x), Math.floor(y)];
        const [a, b] = [x - i, y - j];
        const upper = at(i, j) * (1 - a) + at(i + 1, j) * a;
        const lower = at(i, j + 1) * (1 - a) + at(i + 1, j + 1) * a;
        return {
          position: [(u - 0.5) * s.width, (upper * (1 - b) + lower * b) * s.height, (0.5 - v) * s.depth],
        };
      },
    },
  ];
}
