import { ShaderChunk } from 'three';
import { SOFTWARE } from './software';

/**
 * Without a graphics card a place asks once whether it is in shadow, between its four nearest texels, where three asks
 * five times in a disc about it: that took a third of every frame, and what softens shadows is the developing.
 */

const FIVE_TIMES = /shadow = \(\s*texture\( shadowMap, vec3\([\s\S]*?\) \* 0\.2;/;
const TURNED = /float phi = interleavedGradientNoise\( gl_FragCoord\.xy \) \* PI2;/;

export function askShadowsOnce(chunks: Record<string, string> = ShaderChunk): void {
  chunks.shadowmap_pars_fragment = chunks.shadowmap_pars_fragment
    .replace(TURNED, '')
    .replace(FIVE_TIMES, 'shadow = texture( shadowMap, shadowCoord.xyz );');
}

if (SOFTWARE) askShadowsOnce();
