import { ShaderChunk } from 'three';
import './areaLight';

test('the library’s shader of cones still has the place where a flat light gives by the cosine', () => {
  expect(ShaderChunk.lights_pars_begin).toContain('if ( coneCosine < 1e-4 ) return max( angleCosine, 0.0 );');
});
