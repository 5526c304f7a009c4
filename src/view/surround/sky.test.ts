import { GLINTS } from './sky';

test('the library’s shader still has the place where only the sun’s lights, of those without a place, shine in metals', () => {
  const [, directional] = GLINTS.split('NUM_DIR_LIGHTS; i ++ )');
  const loop = directional.slice(0, directional.indexOf('#pragma unroll_loop_end'));
  const [before, direct, back] = [
    'vec3 glintsBefore = reflected',
    'RE_Direct(',
    '>= NUM_DIR_LIGHTS) reflectedLight.directSpecular = glintsBefore',
  ].map((words) => loop.indexOf(words));
  expect(before).toBeGreaterThan(0);
  expect(direct).toBeGreaterThan(before);
  expect(back).toBeGreaterThan(direct);
  expect(GLINTS.match(/glintsBefore/g)).toHaveLength(2);
  // The library writes the loop out, each time in the same braces: what is declared has to have its own.
  expect(loop.slice(0, before).trimEnd().endsWith('{')).toBe(true);
  expect(loop.slice(back)).toMatch(/;\s*}\s*}\s*$/);
});
