import type { DataArrayTexture, DataTexture, Material, Vector4 } from 'three';
import { STAMP_STRIDE } from '@/core/mesh/stamp/laid';

/** Materials of surfaces that stamps are drawn into, at every size as sharp as their pictures: no texture holds them. */

/** What the shader reads. The same object stays with a material; its values change. */
export interface StampUniforms {
  stampGrid: { value: number };
  /** Least u and v, and what takes what is beyond them to squares. */
  stampDomain: { value: Vector4 };
  stampNumbers: { value: DataTexture | null };
  stampCells: { value: DataTexture | null };
  stampList: { value: DataTexture | null };
  stampColors: { value: DataArrayTexture | null };
  stampSlopes: { value: DataArrayTexture | null };
}

/** Texels in a row of what is read by number. */
export const ROW = 1024;
/** Texels of four numbers that a stamp takes. */
const TEXELS = STAMP_STRIDE / 4;

const READ = /* glsl */ `
uniform int stampGrid;
uniform vec4 stampDomain;
uniform highp sampler2D stampNumbers;
uniform highp usampler2D stampCells;
uniform highp usampler2D stampList;
uniform highp sampler2DArray stampColors;
uniform highp sampler2DArray stampSlopes;
vec2 stampTilt = vec2(0.0);

vec4 stampNumber(int i) {
  return texelFetch(stampNumbers, ivec2(i % ${ROW}, i / ${ROW}), 0);
}

// What lies at a place, the undermost first: colours over each other, slopes on top of each other.
void drawStamps(vec2 uv, inout vec3 color) {
  vec2 dx = dFdx(uv), dy = dFdy(uv);
  ivec2 square = ivec2(floor((uv - stampDomain.xy) * stampDomain.zw));
  if (stampGrid == 0 || any(lessThan(square, ivec2(0))) || any(greaterThanEqual(square, ivec2(stampGrid)))) return;
  uvec2 range = texelFetch(stampCells, square, 0).rg;
  for (uint k = 0u; k < range.y; k++) {
    int n = int(range.x + k);
    int i = int(texelFetch(stampList, ivec2(n % ${ROW}, n / ${ROW}), 0).r) * ${TEXELS};
    vec4 a = stampNumber(i), b = stampNumber(i + 1), c = stampNumber(i + 2);
    mat2 into = mat2(a.z, b.x, a.w, b.y);
    vec2 at = into * (uv - a.xy);
    if (abs(at.x) > 0.5 || abs(at.y) > 0.5) continue;
    vec2 right = into * dx, down = into * dy;
    vec3 place = vec3(at + 0.5, b.z);
    vec4 own = textureGrad(stampColors, place, right, down);
    color = color * (1.0 - own.a * c.w) + own.rgb * c.rgb * c.w;
    vec2 slope = textureGrad(stampSlopes, place, right, down).rg * b.w;
    stampTilt += vec2(dot(slope, right), dot(slope, down));
  }
}

// A normal over a surface that rises by so much from one pixel to the next (Mikkelsen 2010, Bump mapping unparametrized
// surfaces on the GPU).
vec3 stampedNormal(vec3 place, vec3 straight) {
  vec3 right = dFdx(place), up = dFdy(place);
  vec3 r1 = cross(up, straight), r2 = cross(straight, right);
  float det = dot(right, r1);
  return normalize(abs(det) * straight - sign(det) * (stampTilt.x * r1 + stampTilt.y * r2));
}
`;

/** Draws stamps into a material; null: none any more. */
export function setStamps(material: Material, uniforms: StampUniforms | null): void {
  const have = material.userData.stamps as StampUniforms | undefined;
  if (have) {
    if (!uniforms) have.stampGrid.value = 0;
    else
      for (const [name, { value }] of Object.entries(uniforms))
        (have[name as keyof StampUniforms] as { value: unknown }).value = value;
    return;
  }
  if (!uniforms) return;
  const own = { ...uniforms };
  for (const name of Object.keys(own) as (keyof StampUniforms)[])
    (own as Record<string, unknown>)[name] = { ...uniforms[name] };
  material.userData.stamps = own;
  // The texture coordinates themselves, whatever pictures the material has.
  material.defines = { ...material.defines, USE_UV: '' };
  const { onBeforeCompile, customProgramCacheKey } = material;
  material.onBeforeCompile = (shader, renderer) => {
    onBeforeCompile.call(material, shader, renderer);
    Object.assign(shader.uniforms, own);
    shader.fragmentShader = shader.fragmentShader
      .replace('#include <common>', `#include <common>\n${READ}`)
      .replace('#include <color_fragment>', '#include <color_fragment>\ndrawStamps(vUv, diffuseColor.rgb);')
      .replace(
        '#include <normal_fragment_maps>',
        '#include <normal_fragment_maps>\nif (stampTilt != vec2(0.0)) normal = stampedNormal(-vViewPosition, normal);',
      );
  };
  material.customProgramCacheKey = () => `${customProgramCacheKey.call(material)} stamped`;
  material.needsUpdate = true;
}
