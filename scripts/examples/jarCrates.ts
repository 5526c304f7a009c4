import type { Vec3 } from '@/core/math/vec3';
import { setStep } from '@/store/commands/arrangements';
import { makeBundle } from '@/store/commands/makeBundle';
import { removeNodes } from '@/store/commands/nodes';
import { addPegs } from '@/store/commands/pegs';
import { setProp } from '@/store/commands/scene';
import type { Builder } from './builder';

const level = [0, 0, 0, 1] as [number, number, number, number];

/** Pegs that stand just there. */
export const standing = (b: Builder, name: string, prop: string, places: Vec3[], rotation = level): string =>
  b
    .do(addPegs, {
      id: null,
      name,
      pegs: places.map((position) => ({ prop, pin: null, position, rotation, scale: [1, 1, 1] as Vec3 })),
    })
    .split(' ')[0];

/** Makes a bundle with its foot at a place, where it was made, and leaves no copy of it standing. @returns the prop */
export function bundled(b: Builder, name: string, members: string[], origin: Vec3 = [0, 0, 0]): string {
  const [prop, pegs] = b.do(makeBundle, { members, name, origin }).split(' ');
  b.do(removeNodes, { ids: [pegs] });
  return prop;
}

/** A crate with six jars in it, each turned by chance, as one prop. */
export function crateOfJars(b: Builder, props: { 'jar-crate': string; jar: string }, at: Vec3 = [0, 0, 0]): string {
  const crate = standing(b, 'Empty crate', props['jar-crate'], [at]);
  const places = [-0.07, 0.07].flatMap((z) =>
    [-0.115, 0, 0.115].map((x): Vec3 => [at[0] + x, at[1] + 0.012, at[2] + z]),
  );
  const jars = standing(b, 'Jars of a crate', props.jar, places);
  b.do(setStep, { id: jars, step: 'variation', values: { turnDeg: [-40, 40] } });
  // They stand in it.
  b.meant('Jars of a crate', 'Empty crate');
  const prop = bundled(b, 'Crate of jars', [crate, jars], at);
  b.do(setProp, { id: prop, values: { foot: { at: 'base' } } });
  return prop;
}
