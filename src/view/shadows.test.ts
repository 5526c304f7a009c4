import { ShaderChunk } from 'three';
import { askShadowsOnce } from './shadows';

const once = () => {
  const chunks: Record<string, string> = { ...ShaderChunk };
  askShadowsOnce(chunks);
  return chunks;
};

test('three asks five times whether a place is in shadow, and once with plain shadows: once each is left, and all else stays', () => {
  const asks = (text: string) => text.match(/= \(?\s*texture\( shadowMap|\+?\s+texture\( shadowMap/g)?.length;
  expect(asks(ShaderChunk.shadowmap_pars_fragment)).toBe(6);
  const shadows = once().shadowmap_pars_fragment;
  // That of the sun beside them.
  expect(asks(shadows)).toBe(2 + 1);
  expect(shadows).toContain('bool frustumTest = inFrustum');
  expect(shadows).toContain('return mix( 1.0, shadow, shadowIntensity );');
  expect(shadows.match(/float shadowOfSun\( sampler2DShadow/g)).toHaveLength(1);
});

test.each(['lights_fragment_begin', 'shadowmask_pars_fragment'])(
  '%s: the lights without a place ask in fewer words, all others as before',
  (name) => {
    const [before, after] = [(ShaderChunk as Record<string, string>)[name], once()[name]];
    const count = (text: string, words: string) => text.split(words).length - 1;
    expect(
      count(after, '= shadowOfSun( directionalShadowMap[ i ], vDirectionalShadowCoord[ i ].xyz );'),
    ).toBe(1);
    expect(count(after, 'directionalShadowMap')).toBe(1);
    expect(count(before, 'getShadow(') - count(after, 'getShadow(')).toBe(1);
    expect(after).toContain('getShadow( spotShadowMap[ i ]');
    expect(after).toContain('getPointShadow( pointShadowMap[ i ]');
  },
);
