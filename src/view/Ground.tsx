import { useMemo } from 'react';
import { Color, ShaderMaterial } from 'three';
import { useDocument } from '@/store/document';

/** Where a scene has no surface: a cloth at height 0 with a thread every metre, fading out; it catches shadows. */
export function Ground() {
  const bare = useDocument((s) => !s.scene.surfaces.some((x) => x.visible));
  const cloth = useMemo(
    () =>
      new ShaderMaterial({
        transparent: true,
        depthWrite: false,
        uniforms: { cloth: { value: new Color('#F4EEE2') }, thread: { value: new Color('#B7A688') } },
        vertexShader: `varying vec2 at; void main() { at = position.xy; gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }`,
        fragmentShader: `varying vec2 at; uniform vec3 cloth; uniform vec3 thread;
          float lines(float pitch, float wide) {
            vec2 w = fwidth(at / pitch); vec2 d = abs(fract(at / pitch - 0.5) - 0.5) / max(w, vec2(1e-5));
            return (1.0 - min(min(d.x, d.y) / wide, 1.0)) * (1.0 - min(max(w.x, w.y) * 2.5, 1.0));
          }
          void main() {
            float r = length(at); float fade = 1.0 - smoothstep(14.0, 60.0, r);
            float k = max(lines(1.0, 1.0) * 0.35, lines(5.0, 1.4) * 0.6);
            gl_FragColor = vec4(mix(cloth, thread, k), fade * 0.9);
            #include <tonemapping_fragment>
            #include <colorspace_fragment>
          }`,
      }),
    [],
  );
  if (!bare) return null;
  return (
    <group rotation-x={-Math.PI / 2}>
      <mesh material={cloth} renderOrder={-2}>
        <planeGeometry args={[120, 120]} />
      </mesh>
      <mesh receiveShadow renderOrder={-1}>
        <planeGeometry args={[120, 120]} />
        <shadowMaterial opacity={0.22} depthWrite={false} />
      </mesh>
    </group>
  );
}
