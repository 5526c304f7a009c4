import { ShaderChunk } from 'three';
import { askShadowsOnce } from './shadows';

test('three asks five times whether a place is in shadow, and once with plain shadows: once each is left, and all else stays', () => {
  const before = ShaderChunk.shadowmap_pars_fragment;
  const chunks = { shadowmap_pars_fragment: before };
  askShadowsOnce(chunks);
  const asks = (text: string) => text.match(/= \(?\s*texture\( shadowMap|\+?\s+texture\( shadowMap/g)?.length;
  expect(asks(before)).toBe(6);
  expect(asks(chunks.shadowmap_pars_fragment)).toBe(2);
  expect(chunks.shadowmap_pars_fragment).toContain('bool frustumTest = inFrustum');
  expect(chunks.shadowmap_pars_fragment).toContain('return mix( 1.0, shadow, shadowIntensity );');
});
