import { Color, Vector3, type Material } from 'three';
import { onLight, sceneLight } from './light';
import { lightOf } from './tones';

/** The sky: what one sees of it, and what smooth things mirror. One function of a direction, for every shader. */

/** Read by all shaders that show the sky; written when the light changes. */
export const SKY_UNIFORMS = {
  skyOverhead: { value: new Color() },
  skyHalfway: { value: new Color() },
  skyHorizon: { value: new Color() },
  skyBelow: { value: new Color() },
  skyGlow: { value: new Color() },
  skySun: { value: new Vector3() },
};

function read(): void {
  const { dome, sun } = sceneLight();
  SKY_UNIFORMS.skyOverhead.value.copy(lightOf(dome.overhead));
  SKY_UNIFORMS.skyHalfway.value.copy(lightOf(dome.halfway));
  SKY_UNIFORMS.skyHorizon.value.copy(lightOf(dome.horizon));
  SKY_UNIFORMS.skyBelow.value.copy(lightOf(dome.below));
  SKY_UNIFORMS.skyGlow.value.set(dome.glow);
  SKY_UNIFORMS.skySun.value.set(...sun.towards).normalize();
}
read();
onLight(read);

/** `skyAt(direction)`: light that comes from there, for a direction of unit length in the scene. */
export const SKY_GLSL = `
  uniform vec3 skyOverhead, skyHalfway, skyHorizon, skyBelow, skyGlow, skySun;
  vec3 skyAt(vec3 way) {
    vec3 above = mix(mix(skyHorizon, skyHalfway, smoothstep(0.0, 0.22, way.y)), skyOverhead, smoothstep(0.15, 0.85, way.y));
    vec3 light = mix(above, skyBelow, smoothstep(0.0, -0.2, way.y));
    float near = max(dot(way, skySun), 0.0);
    return light + skyGlow * 0.16 * pow(near, 6.0) * smoothstep(-0.1, 0.1, way.y);
  }`;

/** Rougher than this nothing of the sky is seen in a thing. */
const MATT = 0.4;
/** Index of refraction where a material says none, as glTF has it. */
const IOR = 1.5;

/** Whether something this rough mirrors the sky. */
export const mirrors = (roughness: number, metallic: number): boolean => roughness < MATT && metallic < 0.5;

/**
 * Lets a material mirror the sky, and the sun as a glitter, as much as Fresnel says (after Schlick): little where one
 * looks straight at it, all where one looks along it.
 * @param ior index of refraction: 1.33 of water
 */
export function mirrorSky(material: Material, roughness: number, ior = IOR): void {
  const straight = ((ior - 1) / (ior + 1)) ** 2;
  const clear = (1 - roughness / MATT) ** 2;
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, SKY_UNIFORMS);
    shader.fragmentShader = shader.fragmentShader
      .replace('#include <common>', `#include <common>\n${SKY_GLSL}`)
      .replace(
        '#include <opaque_fragment>',
        `{
          vec3 eye = isOrthographic ? vec3(0.0, 0.0, 1.0) : normalize(vViewPosition);
          float facing = clamp(dot(normal, eye), 0.0, 1.0);
          float share = ${clear.toFixed(4)} * (${straight.toFixed(5)} + ${(1 - straight).toFixed(5)} * pow(1.0 - facing, 5.0));
          vec3 way = inverseTransformDirection(reflect(-eye, normal), viewMatrix);
          way.y = abs(way.y);
          float glitter = pow(max(dot(way, skySun), 0.0), 700.0);
          outgoingLight = mix(outgoingLight, skyAt(way), share) + skyGlow * (glitter * 14.0 * share);
        }
        #include <opaque_fragment>`,
      );
  };
  material.customProgramCacheKey = () => `sky ${clear.toFixed(4)} ${straight.toFixed(5)}`;
}
