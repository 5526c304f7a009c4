import { useMemo } from 'react';
import { ShaderMaterial } from 'three';
import { useDocument } from '@/store/document';
import { showAround, SKY_GLSL, SKY_UNIFORMS } from './surround/sky';

/** Metres of half the cloth: from any height that one looks from, it ends in the haze. */
const FAR = 1000;
/** Of the cloth that catches shadows. */
const SHADED = 60;

const VERTEX = `
  varying vec3 at;
  void main() { vec4 p = modelMatrix * vec4(position, 1.0); at = p.xyz; gl_Position = projectionMatrix * viewMatrix * p; }`;

const FRAGMENT = `
  varying vec3 at; ${SKY_GLSL}
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
    gl_FragColor = vec4(mix(cloth, seenAt(normalize(way)), haze), seen);
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
      uniforms: SKY_UNIFORMS,
      vertexShader: VERTEX,
      fragmentShader: FRAGMENT,
    });
    showAround(material);
    return material;
  }, []);
  if (!bare) return null;
  return (
    <group rotation-x={-Math.PI / 2}>
      <mesh material={cloth} renderOrder={-2}>
        <planeGeometry args={[2 * FAR, 2 * FAR]} />
      </mesh>
      <mesh receiveShadow renderOrder={-1}>
        <planeGeometry args={[2 * SHADED, 2 * SHADED]} />
        <shadowMaterial opacity={0.22} depthWrite={false} />
      </mesh>
    </group>
  );
}
