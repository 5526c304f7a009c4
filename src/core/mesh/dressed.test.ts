import { linearColor } from '../math/color';
import { dressed, materialFor, wardrobe } from './dressed';
import type { MaterialMap, MeshMaterial, Picture } from './material';
import { materialSchema } from './materialSchema';

const file: Picture = { mime: 'image/png', bytes: Uint8Array.of(1) };
const map: MaterialMap = { picture: file, wrap: ['repeat', 'repeat'] };
const own: MeshMaterial = {
  name: 'own',
  color: [0.1, 0.2, 0.3, 0.5],
  metallic: 0,
  roughness: 1,
  emissive: [1, 0, 0],
  doubleSided: true,
  alpha: { mode: 'blend' },
  maps: { color: map, normal: { ...map, scale: 2 }, metalRough: map, emissive: map },
};
const plain: MeshMaterial = { ...own, doubleSided: false, alpha: undefined, maps: undefined };
const hash = 'a'.repeat(64);
const brass = materialSchema.parse({ id: 'm1', name: 'Brass', color: '#d9ae5b', roughness: 0.25, metal: 1 });
const papered = materialSchema.parse({
  id: 'm2',
  name: 'Paper',
  picture: { hash, format: 'jpeg' },
  repeatU: 3,
});
const bytes = Uint8Array.of(2, 3);
const from = wardrobe([brass, papered], (h) => (h === hash ? bytes : undefined));

test('colour, roughness and metal are the material’s; relief, edges and sides are what they were', () => {
  const look = dressed(own, brass, from, true);
  expect(look).toMatchObject({ name: 'Brass', roughness: 0.25, metallic: 1, doubleSided: true, plain: true });
  expect(look.color).toEqual([...linearColor('#d9ae5b'), 0.5]);
  expect(look.emissive).toEqual([0, 0, 0]);
  expect(look.alpha).toEqual({ mode: 'blend' });
  expect(Object.keys(look.maps!)).toEqual(['normal']);
});

test('one without a colour keeps colours and pictures', () => {
  const look = dressed(own, { ...brass, color: null }, from, true);
  expect(look.color).toEqual(own.color);
  expect(look.plain).toBeUndefined();
  expect(look.maps!.color).toBe(map);
  expect(look.maps!.metalRough).toBeUndefined();
});

test('its picture lies by texture coordinates, as often as asked; without them, or without its file, there is none', () => {
  const look = dressed(plain, papered, from, true);
  expect(look.maps!.color).toMatchObject({
    picture: { mime: 'image/jpeg', bytes },
    transform: { scale: [3, 1], offset: [0, 0] },
  });
  expect(dressed(plain, papered, from, false).maps).toBeUndefined();
  expect(
    dressed(
      plain,
      papered,
      wardrobe([], () => undefined),
      true,
    ).maps,
  ).toBeUndefined();
  expect(dressed(own, papered, from, true).maps!.color!.picture).toBe(look.maps!.color!.picture);
});

test('what has nothing of its own shares one look; what was put together wears what it was given', () => {
  expect(dressed(plain, brass, from, true)).toBe(
    dressed({ ...plain, color: [1, 1, 1, 1] }, brass, from, false),
  );
  expect(materialFor({ ...plain, wears: 'm2' }, null, from)).toBe(papered);
  expect(materialFor({ ...plain, wears: 'm2' }, brass, from)).toBe(brass);
  expect(materialFor(plain, null, from)).toBeUndefined();
  expect(materialFor({ ...plain, wears: 'gone' }, null, from)).toBeUndefined();
});
