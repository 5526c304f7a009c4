import { encode } from 'fast-png';
import { makeMesh } from '../mesh/make';
import { shapeSchema } from '../mesh/make/schema';
import type { Mesh } from '../mesh/mesh';
import { FileError } from './limits';
import { readGreyPicture } from './pngRead';

const ramp8 = Uint8Array.from({ length: 5 * 3 }, (_, i) => (i % 5) * 50 + Math.floor(i / 5) * 10);

test('grey of 8 and 16 bits, colours by their luma, see-through ones as if solid', () => {
  const grey = readGreyPicture(encode({ width: 5, height: 3, data: ramp8, channels: 1 }), 'a.png');
  expect([grey.width, grey.height]).toEqual([5, 3]);
  ramp8.forEach((v, i) => expect(grey.values[i]).toBeCloseTo(v / 255, 7));
  const deep = Uint16Array.from({ length: 4 }, (_, i) => i * 20000);
  const fine = readGreyPicture(encode({ width: 2, height: 2, data: deep, channels: 1, depth: 16 }), 'b.png');
  deep.forEach((v, i) => expect(fine.values[i]).toBeCloseTo(v / 65535, 7));
  const rgba = Uint8Array.from([255, 0, 0, 10, 0, 255, 0, 255, 0, 0, 255, 0, 255, 255, 255, 128]);
  const colours = readGreyPicture(encode({ width: 2, height: 2, data: rgba, channels: 4 }), 'c.png');
  [0.2126, 0.7152, 0.0722, 1].forEach((v, i) => expect(colours.values[i]).toBeCloseTo(v, 6));
});

test('a height field runs evenly between the pixels, its top side to the north', () => {
  const picture = readGreyPicture(encode({ width: 5, height: 3, data: ramp8, channels: 1 }), 'a.png');
  const hash = '0'.repeat(64);
  const shape = shapeSchema.parse({
    shape: 'picture',
    picture: { hash },
    width: 8,
    depth: 4,
    columns: 16,
    rows: 8,
    height: 2.55,
  });
  const context = { path: () => undefined, picture: (h: string) => (h === hash ? picture : undefined) };
  const mesh = makeMesh(shape, '#D8CDB6', context) as Mesh;
  for (let o = 0; o < mesh.positions.length; o += 3) {
    const [x, y, z] = mesh.positions.subarray(o, o + 3);
    // The ramp is 50 a pixel eastwards and 10 a pixel southwards, of 255.
    const expected = (((x + 4) / 2) * 50 + ((z + 2) / 2) * 10) / 100;
    expect(y).toBeCloseTo(expected, 5);
  }
  // Faces look up.
  expect(mesh.normals[1]).toBeGreaterThan(0.5);
  expect(makeMesh(shape, '#D8CDB6', { path: () => undefined })).toBe('surface-picture-missing');
});

test('bad pictures get a clear sentence', () => {
  const png = encode({ width: 5, height: 3, data: ramp8, channels: 1 });
  const huge = png.slice();
  for (const side of [16, 20]) new DataView(huge.buffer).setUint32(side, 60000);
  for (const [bytes, text] of [
    [new Uint8Array(0), 'is empty'],
    [Uint8Array.from([1, 2, 3, 4, 5, 6, 7, 8, 9, 10]), 'not a PNG'],
    [png.subarray(0, png.length / 2), 'damaged or cut short'],
    [huge, 'the limit is 4,096'],
    [encode({ width: 1, height: 4, data: new Uint8Array(4), channels: 1 }), 'at least 2 × 2'],
  ] as [Uint8Array, string][]) {
    expect(() => readGreyPicture(bytes, 'p.png')).toThrow(FileError);
    expect(() => readGreyPicture(bytes, 'p.png')).toThrow(text);
  }
});
