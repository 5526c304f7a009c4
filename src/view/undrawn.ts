import type { Camera, Scene, WebGLRenderer } from 'three';
import type { StillSpec } from './still/spec';

interface Harness {
  /** Everything but the drawing goes on. */
  undrawn?: boolean;
  /** Pixels across that are drawn for each of the page, where they are not as many as that has: fewer are drawn sooner. */
  density?: number;
  /** The picture develops while nothing moves. */
  develops?: boolean;
  /** Answers when the picture has developed. */
  developed?: () => Promise<void>;
  isDeveloped?: () => boolean;
  /** Frames that the picture at rest has been added up from so far. */
  added?: () => number;
  /** Answers when the open scene has settled. */
  settled?: () => Promise<void>;
  /** Leaves the open scene and forgets all that was kept and chosen, without loading the page anew. */
  forget?: () => Promise<void>;
  /** The open scene as the .csv that would be sent out, with a row for every gap. */
  table?: () => Promise<string>;
  /** Where a place of the scene is seen, in pixels of the page. */
  onScreen?: (place: [number, number, number]) => { x: number; y: number };
  /**
   * A still picture of a viewpoint by its name (null: of the view as it is) at a time in seconds, as base64; or why
   * there is none.
   */
  still?: (
    view: string | null,
    seconds: number,
    choices: Pick<StillSpec, 'frames' | 'background' | 'color' | 'format'> & { size: number },
  ) => Promise<{ ok: boolean; text: string }>;
  /** The picture of a built-in prop as the library shows it, drawn now, as a data URL. */
  pictureOf?: (builtIn: string) => Promise<string>;
}

declare global {
  interface Window {
    /** Put there by tests and benches before the page starts, and filled by it; see `src/ui/shell/harness.ts`. */
    clothesline?: Harness;
  }
}

/** Whether this page was started with the order to draw nothing: all but the drawing itself goes on as ever. */
export const UNDRAWN = typeof window !== 'undefined' && window.clothesline?.undrawn === true;

/**
 * Stands where the renderer stands and draws nothing: no graphics context, no shaders. Matrices are brought up to
 * date as drawing would do it, so that cameras, picking, handles and the counting of frames are the real ones.
 */
class UndrawnRenderer {
  readonly domElement: HTMLCanvasElement;
  readonly shadowMap = { enabled: false, autoUpdate: false, needsUpdate: false, type: 0 };
  readonly xr = { enabled: false, isPresenting: false, addEventListener() {}, removeEventListener() {} };
  private ratio = 1;

  constructor(canvas: HTMLCanvasElement) {
    this.domElement = canvas;
  }

  render(scene: Scene, camera: Camera): void {
    scene.updateMatrixWorld();
    camera.updateMatrixWorld();
    this.shadowMap.needsUpdate = false;
  }

  setPixelRatio(ratio: number): void {
    this.ratio = ratio;
  }

  setSize(width: number, height: number): void {
    this.domElement.width = Math.floor(width * this.ratio);
    this.domElement.height = Math.floor(height * this.ratio);
    this.domElement.style.width = `${width}px`;
    this.domElement.style.height = `${height}px`;
  }

  getRenderTarget(): null {
    return null;
  }

  setRenderTarget(): void {}
  setClearColor(): void {}
  clear(): void {}
  readRenderTargetPixels(): void {}
  dispose(): void {}
}

/** The renderer for a page that draws nothing, in the place of the real one. */
export const undrawnRenderer = (canvas: HTMLCanvasElement): WebGLRenderer =>
  new UndrawnRenderer(canvas) as unknown as WebGLRenderer;
