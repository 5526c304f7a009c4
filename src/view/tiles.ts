import type { OrthographicCamera, PerspectiveCamera, Scene, WebGLRenderer } from 'three';

/** A picture that takes long is drawn in parts, one a turn of the page, so that nobody waits for all of it. */

/** Pixels of a picture, from its top left corner. */
export interface Tile {
  x: number;
  y: number;
  width: number;
  height: number;
}

/** A picture cut into so many parts (a power of two), as square as they come; every pixel is in one of them. */
export function tilesOf(width: number, height: number, count: number): Tile[] {
  let [columns, rows] = [1, 1];
  while (columns * rows < count) {
    if (width / columns >= height / rows) columns *= 2;
    else rows *= 2;
  }
  const edge = (i: number, of: number, size: number) => Math.round((i * size) / of);
  return Array.from({ length: columns * rows }, (_, i) => {
    const [column, row] = [i % columns, Math.floor(i / columns)];
    const [x, y] = [edge(column, columns, width), edge(row, rows, height)];
    return { x, y, width: edge(column + 1, columns, width) - x, height: edge(row + 1, rows, height) - y };
  }).filter((t) => t.width > 0 && t.height > 0);
}

/** A part of a picture that is too large to be drawn into at once: what is drawn into has its size. */
export interface Region extends Tile {
  of: { width: number; height: number };
}

/**
 * Draws a part of the scene into that part of what is drawn into, which is not the canvas. Where that has several places
 * a pixel they are not yet brought together: the library would do it after each part, for nothing but that part, and it
 * takes as long as drawing does.
 * @param of the size of what is drawn into, pixels @param shift of the whole picture by parts of a pixel
 * @param region what part of a picture is drawn into; null: all of it
 */
export function drawTile(
  gl: WebGLRenderer,
  scene: Scene,
  camera: PerspectiveCamera | OrthographicCamera,
  of: { width: number; height: number },
  tile: Tile,
  [dx, dy]: readonly [number, number] = [0, 0],
  region: Region | null = null,
): void {
  const target = gl.getRenderTarget()!;
  const { x, y, width, height } = tile;
  const whole = region?.of ?? of;
  const [left, top] = region ? [region.x, region.y] : [0, 0];
  camera.setViewOffset(whole.width, whole.height, left + x + dx, top + y + dy, width, height);
  const up = of.height - y - height;
  const { samples } = target;
  target.viewport.set(x, up, width, height);
  target.scissor.set(x, up, width, height);
  target.scissorTest = true;
  gl.setRenderTarget(target);
  // Drawn into what has its places by now.
  target.samples = 0;
  gl.render(scene, camera);
  target.samples = samples;
  camera.clearViewOffset();
  target.viewport.set(0, 0, of.width, of.height);
  target.scissor.set(0, 0, of.width, of.height);
  target.scissorTest = false;
}
