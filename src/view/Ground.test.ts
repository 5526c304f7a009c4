import { SHADOWS } from './Ground';

test('the library’s shader still has the place where each shadow of the sun is asked', () => {
  expect(
    SHADOWS.match(/ofSun\[ i \] = receiveShadow \? getShadow\( directionalShadowMap\[ i \]/g),
  ).toHaveLength(1);
  expect(SHADOWS).not.toMatch(/shadow \*= [^;]*directionalShadowMap/);
});
