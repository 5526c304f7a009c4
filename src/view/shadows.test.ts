import { Mesh, Scene, ShaderChunk, ShaderLib, type Camera, type WebGLRenderer } from 'three';
import { askShadowsOnce, castDepthsOnly } from './shadows';

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

test('what casts a shadow is cut out where its pictures say so, and works out no colour', () => {
  const { fragmentShader } = ShaderLib.depth;
  expect(fragmentShader).not.toContain('gl_FragColor');
  for (const part of ['map_fragment', 'alphatest_fragment', 'clipping_planes_fragment'])
    expect(fragmentShader).toContain(`#include <${part}>`);
  expect(fragmentShader.split('{')).toHaveLength(fragmentShader.split('}').length);
});

test('no colours are written while shadows are cast, whatever comes of it, and all of them afterwards', () => {
  const said: unknown[] = [];
  const gl = {
    shadowMap: {
      type: 1,
      render(this: { type: number }, ...all: unknown[]) {
        said.push(['cast', this.type, all.length]);
        throw new Error('lost');
      },
    },
    state: {
      buffers: {
        color: {
          setMask: (on: boolean) => said.push(['mask', on]),
          setLocked: (on: boolean) => said.push(['locked', on]),
        },
      },
    },
  } as unknown as WebGLRenderer;
  castDepthsOnly(gl);
  expect(() => gl.shadowMap.render([], new Scene(), new Mesh() as unknown as Camera)).toThrow('lost');
  expect(said).toEqual([
    ['mask', false],
    ['locked', true],
    ['cast', 1, 3],
    ['locked', false],
    ['mask', true],
  ]);
});
