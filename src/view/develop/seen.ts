import {
  AdditiveBlending,
  DoubleSide,
  MeshBasicMaterial,
  NearestFilter,
  WebGLRenderTarget,
  type DepthTexture,
  type Material,
  type Mesh,
  type Object3D,
  type WebGLRenderer,
} from 'three';
import type { Tile } from '../tiles';

/**
 * Where in the picture a few things are seen that take long to draw. Without a graphics card each of their pixels takes
 * as long behind something else as where it is seen: sea under a quay, ground under grass. Nothing but a part of the
 * picture keeps them from being drawn.
 */

/** Rows of pixels that are looked through together. */
const BAND = 16;
/** Pixels around what is seen that are drawn too: from frame to frame the camera moves by parts of one. */
const AROUND = 2;
/** Two parts become one where that adds less than this share of the picture: each goes through the whole mesh again. */
const LITTLE = 0.04;

/** Bytes of a pixel that was looked at: a thing has one of them. */
const BYTES = 4;
/** So many things at most: one for each of red, green and blue. */
export const MOST_SEEN = 3;

export class Seen {
  private tiles = new Map<Object3D, readonly Tile[]>();
  private mask: WebGLRenderTarget | null = null;
  private paint = new MeshBasicMaterial({
    blending: AdditiveBlending,
    depthWrite: false,
    toneMapped: false,
    fog: false,
    // What is there already is itself, to the last bits of its depth.
    polygonOffset: true,
    polygonOffsetFactor: -1,
    polygonOffsetUnits: -4,
  });
  /** Which of the looks is the last one: what an earlier one has seen is forgotten. */
  private look = 0;

  constructor(private gl: WebGLRenderer) {}

  /** Forgets all: something has moved. */
  forget(): void {
    this.look++;
    this.tiles.clear();
  }

  /** The parts of the picture in which something is seen, which may be none; undefined where that is not known. */
  of = (thing: object): readonly Tile[] | undefined => this.tiles.get(thing as Object3D);

  /**
   * Looks where at most {@link MOST_SEEN} things are seen; it is known a little later.
   * @param depth what a frame has left, in which they are, where they are now
   * @param draw draws one of them alone into what the renderer draws into, as that frame was
   */
  at(things: readonly Mesh[], depth: DepthTexture, draw: (thing: Mesh) => void): void {
    const { gl, paint, look } = this;
    const { width, height } = depth;
    this.mask ??= new WebGLRenderTarget(1, 1, { minFilter: NearestFilter, magFilter: NearestFilter });
    const { mask } = this;
    mask.setSize(width, height);
    mask.depthTexture = depth;
    const { autoClear } = gl;
    gl.autoClear = false;
    gl.setRenderTarget(mask);
    gl.clear(true, false, false);
    things.forEach((thing, i) => {
      const { material } = thing;
      const sides = [material].flat().map(({ side }) => side);
      paint.side = sides.every((side) => side === sides[0]) ? sides[0] : DoubleSide;
      paint.color.setRGB(Number(i === 0), Number(i === 1), Number(i === 2));
      thing.material = paint;
      try {
        draw(thing);
      } finally {
        thing.material = material;
      }
    });
    gl.autoClear = autoClear;
    const pixels = new Uint8Array(width * height * BYTES);
    // Where it cannot be read, as where the context is lost, nothing is known.
    void gl.readRenderTargetPixelsAsync(mask, 0, 0, width, height, pixels).then(
      () => {
        if (look !== this.look) return;
        things.forEach((thing, i) => this.tiles.set(thing, tilesWhere(pixels, i, width, height)));
      },
      () => {},
    );
  }

  dispose(): void {
    this.forget();
    this.mask?.dispose();
    this.paint.dispose();
  }
}

/** Whether something can be looked for: it is drawn with its vertices where they are, and by light. */
export function canBeSought(o: Object3D): o is Mesh {
  const own = (o as Mesh).material as Material | Material[] | undefined;
  return (
    own !== undefined &&
    [own].flat().every((m) => 'isMeshLambertMaterial' in m || 'isMeshStandardMaterial' in m)
  );
}

/**
 * Few rectangles that have all pixels in them which are not 0, none of them in two.
 * @param pixels four bytes each, of which that one is asked for, the bottom row first
 */
export function tilesWhere(pixels: Uint8Array, byte: number, width: number, height: number): Tile[] {
  const tiles: Tile[] = [];
  for (let y = 0; y < height; y += BAND) {
    const rows = Math.min(BAND, height - y);
    let [left, right] = [width, -1];
    for (let row = Math.max(0, y - AROUND); row < Math.min(height, y + rows + AROUND); row++) {
      const from = (height - 1 - row) * width;
      for (let x = 0; x < left; x++) if (pixels[(from + x) * BYTES + byte] > 0) left = x;
      for (let x = width - 1; x > right; x--) if (pixels[(from + x) * BYTES + byte] > 0) right = x;
    }
    if (right < 0) continue;
    const x = Math.max(0, left - AROUND);
    tiles.push({ x, y, width: Math.min(width, right + 1 + AROUND) - x, height: rows });
  }
  return joined(tiles, LITTLE * width * height);
}

/** Rectangles, one below the other, of which those are joined that lose the least by it, as long as that is little. */
function joined(tiles: Tile[], little: number): Tile[] {
  for (;;) {
    let [best, lost] = [-1, little];
    for (let i = 0; i + 1 < tiles.length; i++) {
      const more = area(around(tiles[i], tiles[i + 1])) - area(tiles[i]) - area(tiles[i + 1]);
      if (more < lost) [best, lost] = [i, more];
    }
    if (best < 0) return tiles;
    tiles.splice(best, 2, around(tiles[best], tiles[best + 1]));
  }
}

const area = ({ width, height }: Tile): number => width * height;

/** The rectangle around two. */
function around(a: Tile, b: Tile): Tile {
  const [x, y] = [Math.min(a.x, b.x), Math.min(a.y, b.y)];
  const [right, bottom] = [Math.max(a.x + a.width, b.x + b.width), Math.max(a.y + a.height, b.y + b.height)];
  return { x, y, width: right - x, height: bottom - y };
}
