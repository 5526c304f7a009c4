import { ShaderChunk } from 'three';

/** A flat light, as a cone that opens to a half space: it gives by the cosine, to its front alone. */

/** Half of what the cone opens to, radians. */
export const AREA_ANGLE = Math.PI / 2;

// Of such a cone the library makes a soft rim.
ShaderChunk.lights_pars_begin = ShaderChunk.lights_pars_begin.replace(
  'return smoothstep( coneCosine, penumbraCosine, angleCosine );',
  `if ( coneCosine < 1e-4 ) return max( angleCosine, 0.0 );
	return smoothstep( coneCosine, penumbraCosine, angleCosine );`,
);
