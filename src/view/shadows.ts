import { ShaderChunk, ShaderLib, type WebGLRenderer } from 'three';
import { SOFTWARE } from './software';

/**
 * Without a graphics card a place asks once whether it is in shadow, between its four nearest texels, where three asks
 * five times in a disc about it: that took a third of every frame, and what softens shadows is the developing. Of the
 * lights without a place it asks so without any branch: both sides of one are gone through, and what it takes to keep
 * them apart is more than the question.
 */

const FIVE_TIMES = /shadow = \(\s*texture\( shadowMap, vec3\([\s\S]*?\) \* 0\.2;/;
const TURNED = /float phi = interleavedGradientNoise\( gl_FragCoord\.xy \) \* PI2;/;
const FIRST = 'float getShadow( sampler2DShadow';
const FROM_SUN = `float shadowOfSun( sampler2DShadow shadowMap, vec3 at ) {
			vec3 off = abs( at - 0.5 );
			float beyond = step( 0.5, max( off.x, max( off.y, off.z ) ) );
			return max( texture( shadowMap, at ), max( beyond, float( ! receiveShadow ) ) );
		}
		`;
const ASKED = /\( directLight\.visible && receiveShadow \) \? getShadow\( directionalShadowMap[^;]*/;
const ASKED_OF_MASK = /receiveShadow \? getShadow\( directionalShadowMap[^;]*/;
const SHORT = 'shadowOfSun( directionalShadowMap[ i ], vDirectionalShadowCoord[ i ].xyz )';

export function askShadowsOnce(chunks: Record<string, string> = ShaderChunk): void {
  chunks.shadowmap_pars_fragment = chunks.shadowmap_pars_fragment
    .replace(TURNED, '')
    .replace(FIVE_TIMES, 'shadow = texture( shadowMap, shadowCoord.xyz );')
    .replace(FIRST, FROM_SUN + FIRST);
  chunks.lights_fragment_begin = chunks.lights_fragment_begin.replace(ASKED, SHORT);
  chunks.shadowmask_pars_fragment = chunks.shadowmask_pars_fragment.replace(ASKED_OF_MASK, SHORT);
}

if (SOFTWARE) askShadowsOnce();

const COLORS = /(#include <logdepthbuf_fragment>)[\s\S]*$/;

/** What casts shadows works out no colours, and has none written: only depths are asked for. */
function depthsOnly(depth: { fragmentShader: string } = ShaderLib.depth): void {
  depth.fragmentShader = depth.fragmentShader.replace(COLORS, '$1\n}');
}

depthsOnly();

/** Has a renderer write no colours into its shadows. To be done again when its context is restored. */
export function castDepthsOnly({ shadowMap, state }: WebGLRenderer): void {
  const { render } = shadowMap;
  shadowMap.render = (...all) => {
    const { color } = state.buffers;
    color.setMask(false);
    color.setLocked(true);
    try {
      render.apply(shadowMap, all);
    } finally {
      color.setLocked(false);
      color.setMask(true);
    }
  };
}
