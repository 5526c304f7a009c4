import { Color, DataTexture, ShaderChunk, Vector3, type Material, type Texture } from 'three';
import { onLight, sceneLight } from '../light';
// Before the library's shaders are read here.
import '../shadows';
import { EXPOSURE, lightOf } from '../tones';
import { panoramaOf } from './panoramas';

/**
 * What is around a scene: what one sees of it, and what smooth things and metals mirror. One function of a direction
 * for every shader: the sky, a room of soft panels, or a panorama.
 */

const NONE = new DataTexture(new Uint8Array(4), 1, 1);

/** Read by all shaders that show what is around; written when the light changes. */
export const SKY_UNIFORMS = {
  skyOverhead: { value: new Color() },
  skyHalfway: { value: new Color() },
  skyHorizon: { value: new Color() },
  skyBelow: { value: new Color() },
  skyGlow: { value: new Color() },
  skySun: { value: new Vector3() },
  aroundTurn: { value: 0 },
  aroundBright: { value: 1 },
  aroundMap: { value: NONE as Texture },
  aroundRows: { value: 1 },
};

/** The light that white of a panorama stands for: what is shown as white. */
export const WHITE_LIGHT = 1 / EXPOSURE;

/** What the shaders are made for: of {@link SKY_GLSL} only what is asked. */
let defines = { AROUND: 0, AROUND_SEEN: 0 };

function read(): void {
  const { dome, sun, surround } = sceneLight();
  const u = SKY_UNIFORMS;
  u.skyOverhead.value.copy(lightOf(dome.overhead));
  u.skyHalfway.value.copy(lightOf(dome.halfway));
  u.skyHorizon.value.copy(lightOf(dome.horizon));
  u.skyBelow.value.copy(lightOf(dome.below));
  u.skyGlow.value.set(dome.glow);
  u.skySun.value.set(...sun.towards).normalize();
  const panorama = surround.by === 'panorama' ? panoramaOf(surround.panorama?.hash) : null;
  // Until a panorama is there the sky stands for it.
  defines = {
    AROUND: surround.by === 'panels' ? 1 : panorama ? 2 : 0,
    AROUND_SEEN: Number(panorama !== null && surround.seen),
  };
  u.aroundTurn.value = (surround.turnDeg * Math.PI) / 180;
  u.aroundBright.value = surround.brightness * WHITE_LIGHT;
  u.aroundMap.value = panorama?.texture ?? NONE;
  u.aroundRows.value = panorama?.texture.image.height ?? 1;
}
read();
onLight(read);

/**
 * Has a material that reads {@link SKY_GLSL} made anew, when it is drawn, for what is around then. By numbers of the
 * shader it would cost as much as all there is: without a graphics card every branch is gone through.
 */
export function showAround(material: Material): void {
  let made: Partial<typeof defines> = {};
  const look = () => {
    const { AROUND, AROUND_SEEN } = defines;
    if (made.AROUND === AROUND && made.AROUND_SEEN === AROUND_SEEN) return;
    made = defines;
    material.defines = { ...material.defines, ...defines };
    material.needsUpdate = true;
  };
  look();
  material.onBeforeRender = look;
}

/**
 * `skyAt(direction)`, `seenAt(direction)` and `mirroredAt(direction, roughness)`: light that comes from there, for a
 * direction of unit length in the scene. `AROUND` is 0 for the sky, 1 for panels, 2 for a panorama; `AROUND_SEEN` whether
 * that is seen behind the scene too.
 */
export const SKY_GLSL = `
  uniform vec3 skyOverhead, skyHalfway, skyHorizon, skyBelow, skyGlow, skySun;
  uniform float aroundTurn, aroundBright, aroundRows; uniform sampler2D aroundMap;
  vec3 skyDome(vec3 way) {
    return mix(mix(skyHorizon, skyHalfway, smoothstep(0.0, 0.22, way.y)), skyOverhead, smoothstep(0.15, 0.85, way.y));
  }
  // About the sun: multiplied out, since a power takes many times as long without a graphics card.
  vec3 sunGlow(vec3 way) {
    float near = max(dot(way, skySun), 0.0);
    near *= near * near;
    return skyGlow * (0.16 * near * near * smoothstep(-0.1, 0.1, way.y));
  }
  vec3 skyAt(vec3 way) { return mix(skyDome(way), skyBelow, smoothstep(0.0, -0.2, way.y)) + sunGlow(way); }
  vec3 turnedBack(vec3 way) {
    float c = cos(aroundTurn), s = sin(aroundTurn);
    return vec3(c * way.x + s * way.z, way.y, c * way.z - s * way.x);
  }
  vec3 panoramaAt(vec3 way, float rough) {
    vec3 w = turnedBack(way);
    vec2 at = vec2(atan(w.z, w.x) / 6.28318531 + 0.5, 0.5 - asin(clamp(w.y, -1.0, 1.0)) / 3.14159265);
    // A rough thing mirrors a cone of it: so wide is a pixel of a smaller copy.
    return textureLod(aroundMap, at, log2(max(1.0, rough * rough * 0.6 * aroundRows))).rgb * aroundBright;
  }
  float panel(vec3 way, vec3 to, vec3 right, vec2 size, float soft) {
    float ahead = dot(way, to);
    if (ahead <= 0.0) return 0.0;
    vec2 p = abs(vec2(dot(way, right), dot(way, cross(to, right)))) / ahead;
    vec2 lit = smoothstep(size + soft, max(size - soft, vec2(0.0)), p);
    return lit.x * lit.y;
  }
  vec3 panelsAt(vec3 way, float rough) {
    vec3 w = turnedBack(way);
    float soft = 0.06 + rough;
    vec3 light = mix(vec3(0.10, 0.095, 0.09), vec3(0.34, 0.35, 0.37), smoothstep(-0.6, 1.0, w.y));
    light += vec3(2.1) * panel(w, vec3(0.0, 1.0, 0.0), vec3(1.0, 0.0, 0.0), vec2(0.8, 0.5), soft);
    light += vec3(1.5, 1.4, 1.25) * panel(w, normalize(vec3(-1.0, 0.25, 0.35)), normalize(vec3(0.35, 0.0, 1.0)), vec2(0.45, 0.7), soft);
    light += vec3(0.8, 0.9, 1.05) * panel(w, normalize(vec3(1.0, 0.15, 0.6)), normalize(vec3(0.6, 0.0, -1.0)), vec2(0.25, 0.8), soft);
    light += vec3(0.7) * panel(w, normalize(vec3(0.25, 0.3, -1.0)), normalize(vec3(1.0, 0.0, 0.25)), vec2(0.9, 0.18), soft);
    return light * aroundBright;
  }
  #if AROUND_SEEN
    vec3 seenAt(vec3 way) { return panoramaAt(way, 0.0); }
  #else
    vec3 seenAt(vec3 way) { return skyAt(way); }
  #endif
  #if AROUND == 1
    vec3 mirroredAt(vec3 way, float rough) { return panelsAt(way, rough); }
  #elif AROUND == 2
    vec3 mirroredAt(vec3 way, float rough) { return panoramaAt(way, rough); }
  #else
    vec3 mirroredAt(vec3 way, float rough) { return skyAt(way); }
  #endif`;

/** Rougher than this nothing of what is around is seen in a thing that is no metal. */
const MATT = 0.4;
/** Index of refraction where a material says none, as glTF has it. */
const IOR = 1.5;

/** Whether something mirrors what is around it. */
export const mirrors = (roughness: number, metallic: number): boolean => roughness < MATT || metallic > 0;

/**
 * Lets a material mirror what is around, and the sun as a glitter, as much as Fresnel says (after Schlick): little where
 * one looks straight at it, all where one looks along it. A metal mirrors in its own colour, all the time (its share by
 * roughness after Karis 2014).
 * @param ior index of refraction: 1.33 of water
 */
export function mirrorSky(material: Material, roughness: number, metallic: number, ior = IOR): void {
  const own = {
    mirrorStraight: { value: ((ior - 1) / (ior + 1)) ** 2 },
    mirrorClear: { value: Math.max(0, 1 - roughness / MATT) ** 2 },
  };
  // By numbers of its own where the material has no maps of them, in the words of the library where it may.
  const metal = metallic > 0;
  material.onBeforeCompile = (shader) => {
    Object.assign(shader.uniforms, SKY_UNIFORMS, own);
    shader.fragmentShader = shader.fragmentShader
      .replace(
        '#include <common>',
        `#include <common>\nuniform float mirrorStraight, mirrorClear;\n${SKY_GLSL}`,
      )
      .replace('#include <lights_fragment_begin>', metal ? GLINTS : '#include <lights_fragment_begin>')
      .replace(
        '#include <opaque_fragment>',
        `{
          float facing = clamp(dot(normal, geometryViewDir), 0.0, 1.0);
          vec3 way = (vec4(reflect(-geometryViewDir, normal), 0.0) * viewMatrix).xyz;
          ${metal ? METAL : 'float share = 1.0;'}
          float along = 1.0 - facing, along2 = along * along;
          share *= mirrorClear * (mirrorStraight + (1.0 - mirrorStraight) * along2 * along2 * along);
          #if AROUND == 0
            way.y = abs(way.y);
            vec3 mirrored = skyDome(way) + sunGlow(way);
          #else
            vec3 mirrored = mirroredAt(way, 0.0);
          #endif
          // To the 704th.
          float near = max(dot(way, skySun), 0.0), near2 = near * near, near8 = near2 * near2 * near2 * near2;
          float near11 = near8 * near2 * near, near22 = near11 * near11, near44 = near22 * near22;
          float near88 = near44 * near44, near176 = near88 * near88, near352 = near176 * near176;
          float glitter = near352 * near352;
          outgoingLight = mix(outgoingLight, mirrored, share) + skyGlow * (glitter * 14.0 * share);
        }
        #include <opaque_fragment>`,
      );
  };
  showAround(material);
  material.customProgramCacheKey = () => (metal ? 'mirrors as metal' : 'mirrors');
}

/**
 * Of the lights without a place only the first, or the first half, shine in metals: those of the sun. What stands for a
 * part of the sky they mirror by themselves.
 */
const DIRECT = /(NUM_DIR_LIGHTS; i \+\+ \) \{[\s\S]*?)(RE_Direct\([^;]*;)/;
export const GLINTS = ShaderChunk.lights_fragment_begin.replace(
  DIRECT,
  // In braces of its own: of the loop the library makes one text.
  `$1{
    vec3 glintsBefore = reflectedLight.directSpecular;
    $2
    if (UNROLLED_LOOP_INDEX * 2 >= NUM_DIR_LIGHTS) reflectedLight.directSpecular = glintsBefore;
    }`,
);

const METAL = `
          float rough = clamp(roughnessFactor, 0.0, 1.0);
          vec4 r = rough * vec4(-1.0, -0.0275, -0.572, 0.022) + vec4(1.0, 0.0425, 1.04, -0.04);
          float a = min(r.x * r.x, exp2(-9.28 * facing)) * r.x + r.y;
          vec2 of = vec2(-1.04, 1.04) * a + r.zw;
          outgoingLight += metalnessFactor * mirroredAt(way, rough) * (diffuseColor.rgb * of.x + of.y);
          float share = 1.0 - metalnessFactor;`;
