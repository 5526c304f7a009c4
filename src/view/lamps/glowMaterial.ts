import { Color, Vector3, type BufferGeometry, type Material } from 'three';
import type { Glow } from '@/core/light/lampSchema';
import { SUN_FULL } from '../light';

/** Materials of props that glow: what they give off comes with their own colours, so that dark parts stay dark. */

const EMITS = '#include <emissivemap_fragment>';

/** Brighter than so many times white paper in the sun nothing is drawn: all would be white. */
const BRIGHT = 1.2;

/** What a prop gives off where one looks at it: its strength over the disc that it shows. */
export function shinesWith(glow: Glow | null, geometry: BufferGeometry): Color {
  if (!glow) return new Color(0, 0, 0);
  if (!geometry.boundingBox) geometry.computeBoundingBox();
  const { x, y, z } = geometry.boundingBox!.getSize(new Vector3());
  const radius = Math.max(1e-4, (x + y + z) / 6);
  const light = (glow.strength * SUN_FULL) / (Math.PI * radius * radius);
  return new Color(glow.color).multiplyScalar(Math.min(BRIGHT, light));
}

/** Lets a material glow with so much light, linear; black: not at all. */
export function setGlow(material: Material, light: Color): void {
  const have = material.userData.glow as { value: Color } | undefined;
  if (have) return void have.value.copy(light);
  if (light.r + light.g + light.b === 0 || !('emissive' in material)) return;
  const glow = { value: light.clone() };
  material.userData.glow = glow;
  const { onBeforeCompile, customProgramCacheKey } = material;
  material.onBeforeCompile = (shader, renderer) => {
    onBeforeCompile.call(material, shader, renderer);
    shader.uniforms.glowLight = glow;
    shader.fragmentShader = shader.fragmentShader
      .replace('#include <common>', '#include <common>\nuniform vec3 glowLight;')
      .replace(EMITS, `${EMITS}\ntotalEmissiveRadiance += glowLight * diffuseColor.rgb;`);
  };
  material.customProgramCacheKey = () => `${customProgramCacheKey.call(material)} glows`;
  material.needsUpdate = true;
}
