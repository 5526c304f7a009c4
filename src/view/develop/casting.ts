import {
  PerspectiveCamera,
  type Camera,
  type DirectionalLight,
  type Mesh,
  type Object3D,
  type PointLight,
  type Scene,
  type SpotLight,
  type WebGLRenderer,
} from 'three';
import { inFewer, shadesUnseen } from './casters';
import { drawablesOf, only } from './drawables';
import { Mergers } from './merged';
import { Portions, type Portion, type Timed } from './portions';

/** The shadows of a frame, each in portions of what casts them, so that none of those takes long. */

type Casting = DirectionalLight | SpotLight | PointLight;

export class Shadows {
  /** What still casts one; null before the frame has begun. */
  private left: Casting[] | null = null;
  /** Behind them those whose shadows nobody sees. */
  private casters: Object3D[] = [];
  private portions: readonly Portion[] = [];
  private portion = 0;
  private division = new Portions();
  private mergers = new Mergers();

  /** @param coarse whether those of the sun and the sky may be cast by less, as far as their texels do not show it */
  constructor(
    private gl: WebGLRenderer,
    private coarse: boolean,
  ) {}

  dispose(): void {
    this.mergers.dispose();
  }

  /** The next frame casts its own. */
  restart(): void {
    this.left = null;
    this.portion = 0;
  }

  /** Casts a portion, drawing into what the renderer draws into, of which nothing is seen. @returns null when all are cast */
  step(scene: Scene, camera: Camera): Timed | null {
    this.left ??= castingIn(scene);
    const [next] = this.left;
    if (!next) return null;
    if (this.portion === 0) {
      const all = drawablesOf(scene, camera).filter((o) => o.castShadow);
      const isUnseen = (o: Object3D) => isSun(next) && shadesUnseen(o, camera, next);
      const cast = all.filter((o) => !isUnseen(o));
      this.casters = [...cast, ...all.filter(isUnseen)];
      this.portions = this.division.of(cast, 1, 1);
    }
    const portion = this.portions[this.portion];
    const { from, to } = portion;
    const cast = () => this.cast(scene, next, this.portion > 0);
    // What a lamp lights is a part of the scene, which mostly leaves out more than could be saved.
    only(this.casters, from, to, () =>
      this.coarse && isSun(next) ? this.inFewer(scene, from, to, next, cast) : cast(),
    );
    if (++this.portion === this.portions.length) {
      this.portion = 0;
      this.left.shift();
    }
    return this.division.timed(portion);
  }

  /** Casts what is in as few triangles and meshes as show. */
  private inFewer(scene: Scene, from: number, to: number, light: DirectionalLight, cast: () => void): void {
    const drawn = (this.casters.slice(from, to) as Mesh[]).map((mesh) => ({
      mesh,
      geometry: inFewer(mesh, light),
    }));
    const own = drawn.map(({ mesh }) => mesh.geometry);
    for (const { mesh, geometry } of drawn) mesh.geometry = geometry;
    try {
      this.mergers.during(scene, drawn, cast);
    } finally {
      drawn.forEach(({ mesh }, i) => void (mesh.geometry = own[i]));
    }
  }

  /** @param more beside what is in its shadow already */
  private cast(scene: Scene, light: Casting, more: boolean): void {
    const { gl } = this;
    const all = castingIn(scene);
    for (const { shadow } of all) shadow.autoUpdate = false;
    light.shadow.needsUpdate = true;
    gl.shadowMap.needsUpdate = true;
    const { clear } = gl;
    // The library empties a shadow whenever something is cast into it.
    if (more) gl.clear = () => {};
    try {
      gl.render(scene, NOWHERE);
    } finally {
      gl.clear = clear;
      for (const { shadow } of all) shadow.autoUpdate = true;
    }
  }
}

const isSun = (light: Casting): light is DirectionalLight => 'isDirectionalLight' in light;

/** Sees nothing: what is drawn for it are the shadows. */
export const NOWHERE = new PerspectiveCamera(1, 1, 1e-6, 2e-6);
NOWHERE.position.set(1e9, 1e9, 1e9);
NOWHERE.updateMatrixWorld();

/** The lights that cast a shadow now. */
function castingIn(scene: Scene): Casting[] {
  const out: Casting[] = [];
  scene.traverseVisible((o) => {
    if (!('isLight' in o) || !o.castShadow) return;
    const light = o as Casting;
    // Its shader reads a map of each of them, dark ones too.
    if (light.intensity > 0 || !light.shadow.map) out.push(light);
  });
  return out;
}
