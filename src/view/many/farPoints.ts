import {
  BufferAttribute,
  BufferGeometry,
  Color,
  InstancedBufferAttribute,
  InterleavedBuffer,
  InterleavedBufferAttribute,
  Points,
  ShaderMaterial,
  Vector3,
  type Box3,
  type InstancedMesh,
  type Sphere,
  type WebGLRenderer,
} from 'three';
import { SKY, SUN } from '../light';

/** Far props as points: each where the middle of its prop is, as large as that comes out, in its mean colour. */

/** What a prop is as a point. */
export interface PointLook {
  /** Linear red, green, blue. */
  color: Color;
  /** Its bounds, in its own space. */
  box: Box3;
}

/** Of a box, the share that a prop in it fills as it is seen. */
const FILLED = 0.7;

/** Metres along a side of the square that covers as much as the prop does, seen from anywhere, in the mean (Cauchy). */
export function sideOf(box: Box3): number {
  const { x, y, z } = box.getSize(new Vector3());
  return Math.sqrt(((2 * (x * y + y * z + z * x)) / 4) * FILLED);
}

/** What falls on something that is turned every way, in the mean, of the scene's light. */
function meanLight(): Color {
  const sky = new Color(SKY.color).lerp(new Color(SKY.ground), 0.35).multiplyScalar(SKY.intensity);
  return sky.add(new Color(SUN.color).multiplyScalar(SUN.intensity * 0.4)).multiplyScalar(1 / Math.PI);
}

const VERTEX = `
  attribute vec4 m0; attribute vec4 m1; attribute vec4 m2; attribute vec4 m3;
  uniform vec3 middle; uniform float side; uniform float pixels; varying vec3 tinted;
  #ifdef TINTED
    attribute vec3 tint;
  #endif
  void main() {
    #ifdef TINTED
      tinted = tint;
    #else
      tinted = vec3(1.0);
    #endif
    gl_Position = projectionMatrix * viewMatrix * (mat4(m0, m1, m2, m3) * vec4(middle, 1.0));
    float size = (length(m0.xyz) + length(m1.xyz) + length(m2.xyz)) / 3.0;
    gl_PointSize = max(1.0, side * size * projectionMatrix[1][1] * pixels * 0.5 / gl_Position.w);
  }`;

const FRAGMENT = `
  uniform vec3 color; varying vec3 tinted;
  void main() {
    gl_FragColor = vec4(color * tinted, 1.0);
    #include <tonemapping_fragment>
    #include <colorspace_fragment>
  }`;

function material(look: PointLook, tinted: boolean): ShaderMaterial {
  return new ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    defines: tinted ? { TINTED: '' } : {},
    uniforms: {
      middle: { value: look.box.getCenter(new Vector3()) },
      side: { value: sideOf(look.box) },
      color: { value: look.color.clone().multiply(meanLight()) },
      pixels: { value: 1 },
    },
  });
}

/** The numbers below `count` in an order in which the first of them, however many, are spread evenly over all. */
export function spreadOrder(count: number): Uint16Array {
  const bits = Math.ceil(Math.log2(Math.max(2, count)));
  const out = new Uint16Array(count);
  let n = 0;
  for (let i = 0; i < 1 << bits; i++) {
    let turned = 0;
    for (let b = 0; b < bits; b++) if (i & (1 << b)) turned |= 1 << (bits - 1 - b);
    if (turned < count) out[n++] = turned;
  }
  return out;
}

/** The instances of a mesh as points, read from its own matrices. */
export function farPoints(of: InstancedMesh, look: PointLook): Points {
  const matrices = new InterleavedBuffer(of.instanceMatrix.array as Float32Array, 16);
  const geometry = new BufferGeometry();
  [0, 4, 8, 12].forEach((at, k) =>
    geometry.setAttribute(`m${k}`, new InterleavedBufferAttribute(matrices, 4, at)),
  );
  const tints = of.instanceColor as InstancedBufferAttribute | null;
  if (tints) geometry.setAttribute('tint', new BufferAttribute(tints.array as Float32Array, 3));
  geometry.setIndex(new BufferAttribute(spreadOrder(of.count), 1));
  geometry.boundingSphere = of.boundingSphere as Sphere;
  const points = new Points(geometry, material(look, tints !== null));
  points.matrixAutoUpdate = false;
  points.raycast = () => {};
  points.onBeforeRender = (gl: WebGLRenderer) => {
    const { uniforms } = points.material as ShaderMaterial;
    uniforms.pixels.value = gl.getRenderTarget()?.height ?? gl.domElement.height;
    (points.material as ShaderMaterial).uniformsNeedUpdate = true;
  };
  return points;
}
