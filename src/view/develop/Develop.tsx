import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import type {
  DirectionalLight,
  HemisphereLight,
  OrthographicCamera,
  PerspectiveCamera,
  Scene,
  WebGLRenderer,
} from 'three';
import { useClock } from '@/store/clock';
import { engine } from '@/store/engine';
import { SOFTWARE } from '../software';
import { useView } from '../viewState';
import { Developer, type Lights, type Plan } from './developer';

/** What develops while nothing moves: in software fewer frames do, since each takes a tenth of a second. */
const PLAN: Plan = SOFTWARE ? { edges: 8, light: 32 } : { edges: 16, light: 64 };
/** Milliseconds without a frame before it begins. */
const AT_REST_MS = 350;

const isAtRest = (): boolean => {
  const { moving, loading, develops } = useView.getState();
  const { busy } = engine().state;
  return develops && !moving && loading === 0 && !busy && !useClock.getState().playing && !document.hidden;
};

/** The work that goes on by itself; any frame of the view begins it anew, and nobody waits for it. */
class Developing {
  private developer: Developer | null = null;
  private waiting: ReturnType<typeof setTimeout> | undefined;
  private next = 0;

  constructor(
    private gl: WebGLRenderer,
    private scene: Scene,
    private camera: () => PerspectiveCamera | OrthographicCamera,
  ) {}

  /** The view has drawn a frame of its own. */
  touched(): void {
    this.stop();
    if (!useView.getState().develops) return;
    this.waiting = setTimeout(() => this.begin(), AT_REST_MS);
  }

  private begin(): void {
    if (!isAtRest()) {
      this.waiting = setTimeout(() => this.begin(), AT_REST_MS);
      return;
    }
    const lights = lightsOf(this.scene);
    if (!lights) return;
    this.developer ??= new Developer(this.gl, PLAN);
    const { developer } = this;
    developer.restart();
    const step = () => {
      if (!isAtRest()) return this.touched();
      developer.step(this.scene, this.camera(), lights);
      if (developer.isDeveloped) useView.setState({ developed: true });
      else this.next = requestAnimationFrame(step);
    };
    this.next = requestAnimationFrame(step);
  }

  stop(): void {
    clearTimeout(this.waiting);
    cancelAnimationFrame(this.next);
    if (useView.getState().developed) useView.setState({ developed: false });
  }

  dispose(): void {
    this.stop();
    this.developer?.dispose();
    this.developer = null;
  }
}

function lightsOf(scene: Scene): Lights | null {
  let [sun, sky]: [DirectionalLight?, HemisphereLight?] = [];
  scene.traverse((o) => {
    if ('isDirectionalLight' in o) sun = o as DirectionalLight;
    else if ('isHemisphereLight' in o) sky = o as HemisphereLight;
  });
  return sun && sky ? { sun, sky } : null;
}

/** Lets the picture develop after the last frame of the view. */
export function Develop() {
  const { gl, scene, get, invalidate } = useThree();
  const develops = useView((s) => s.develops);
  const work = useMemo(
    () => new Developing(gl, scene, () => get().camera as PerspectiveCamera | OrthographicCamera),
    [gl, scene, get],
  );
  useEffect(() => () => work.dispose(), [work]);
  // After the frame itself.
  useFrame(() => work.touched(), 2);
  useEffect(() => invalidate(), [develops, invalidate]);
  return null;
}
