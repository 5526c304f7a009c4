import { useMemo } from 'react';
import { ShaderChunk, ShaderMaterial, UniformsLib, UniformsUtils } from 'three';
import { useDocument } from '@/store/document';
import { showAround, SKY_GLSL, SKY_UNIFORMS } from './surround/sky';

/** Metres of half the cloth: from any height that one looks from, it ends in the haze. */
const FAR = 1000;
/** How much darker the cloth is in a shadow. */
const SHADE = 0.22;

const VERTEX = `
  #include <common>
  #include <shadowmap_pars_vertex>
  varying vec3 at;
  void main() {
    #include <beginnormal_vertex>
    #include <defaultnormal_vertex>
    #include <begin_vertex>
    #include <project_vertex>
    #include <worldpos_vertex>
    #include <shadowmap_vertex>
    at = (modelMatrix * vec4(position, 1.0)).xyz;
  }`;

/** The shadow of each light without a place by itself, instead of all of them together. */
const ONE_BY_ONE = /shadow \*= ([^;]*directionalShadowMap[^;]*);/;
export const SHADOWS = ShaderChunk.shadowmask_pars_fragment.replace(ONE_BY_ONE, 'ofSun[ i ] = $1;');

const FRAGMENT = `
  #include <common>
  #include <bsdfs>
  #include <lights_pars_begin>
  #include <shadowmap_pars_fragment>
  varying vec3 at; ${SKY_GLSL}
  #if NUM_DIR_LIGHT_SHADOWS > 0
    float ofSun[NUM_DIR_LIGHT_SHADOWS];
  #endif
  ${SHADOWS}
  // How much light there is. A frame that is added up has places of the sun, and as many of the sky: pair by pair.
  float lit() {
    float others = getShadowMask();
    #if NUM_DIR_LIGHT_SHADOWS > 1
      float sum = 0.0;
      for (int i = 0; i < NUM_DIR_LIGHT_SHADOWS / 2; i++) sum += ofSun[i] * ofSun[i + NUM_DIR_LIGHT_SHADOWS / 2];
      return others * sum / float(NUM_DIR_LIGHT_SHADOWS / 2);
    #elif NUM_DIR_LIGHT_SHADOWS > 0
      return others * ofSun[0];
    #else
      return others;
    #endif
  }
  float lines(float pitch, float wide) {
    vec2 w = fwidth(at.xz / pitch); vec2 d = abs(fract(at.xz / pitch - 0.5) - 0.5) / max(w, vec2(1e-5));
    return (1.0 - min(min(d.x, d.y) / wide, 1.0)) * (1.0 - min(max(w.x, w.y) * 2.5, 1.0));
  }
  void main() {
    float r = length(at.xz);
    float k = max(lines(1.0, 1.0) * 0.35, lines(5.0, 1.4) * 0.6) * (1.0 - smoothstep(14.0, 60.0, r));
    vec3 cloth = mix(skyBelow, skyBelow * 0.55, k);
    // A plan has no horizon: there the cloth ends by itself.
    float seen = isOrthographic ? 0.9 * (1.0 - smoothstep(14.0, 60.0, r)) : 1.0;
    vec3 way = at - cameraPosition;
    float haze = isOrthographic ? 0.0 : smoothstep(15.0, 300.0, length(way));
    vec3 light = mix(cloth, seenAt(normalize(way)), haze);
    gl_FragColor = vec4(light * (1.0 - ${SHADE} * (1.0 - lit())), seen);
    #include <tonemapping_fragment>
    #include <colorspace_fragment>
  }`;

/** Where a scene has no surface: a cloth at height 0 with a thread every metre, as far as one sees; it catches shadows. */
export function Ground() {
  const bare = useDocument((s) => !s.scene.surfaces.some((x) => x.visible));
  const cloth = useMemo(() => {
    const material = new ShaderMaterial({
      transparent: true,
      depthWrite: false,
      lights: true,
      uniforms: { ...UniformsUtils.clone(UniformsLib.lights), ...SKY_UNIFORMS },
      vertexShader: VERTEX,
      fragmentShader: FRAGMENT,
    });
    showAround(material);
    return material;
  }, []);
  if (!bare) return null;
  return (
    <mesh material={cloth} rotation-x={-Math.PI / 2} receiveShadow renderOrder={-2}>
      <planeGeometry args={[2 * FAR, 2 * FAR]} />
    </mesh>
  );
}
