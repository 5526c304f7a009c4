import { Document, WebIO } from '@gltf-transform/core';
import { encode } from 'fast-png';
import fc from 'fast-check';
import { strToU8, zipSync, zlibSync } from 'fflate';
import { packScene } from '@/core/formats/sceneZip';
import { cases, SEED } from '@/core/testing/prove';
import { exampleScene } from '@/core/testing/scene';
import { EngineService } from './service';

/** Files of every kind that is read, as they are and broken: each is read, or a sentence says why not. */

type Write = (json: Record<string, unknown>) => void;

/** One triangle; `change` gets the JSON before it is written. */
async function glb(vertices = [0, 0, 0, 1, 0, 0, 0, 1, 0], change: Write = () => {}): Promise<Uint8Array> {
  const d = new Document();
  const buffer = d.createBuffer();
  const accessor = (type: 'VEC3' | 'VEC4', array: Float32Array<ArrayBuffer>) =>
    d.createAccessor().setType(type).setArray(array).setBuffer(buffer);
  const position = accessor('VEC3', Float32Array.from(vertices));
  const primitive = d
    .createPrimitive()
    .setAttribute('POSITION', position)
    .setAttribute('NORMAL', accessor('VEC3', new Float32Array(9).fill(NaN)))
    .setAttribute('COLOR_0', accessor('VEC4', new Float32Array(12).fill(NaN)));
  d.createScene().addChild(d.createNode().setMesh(d.createMesh().addPrimitive(primitive)));
  const bytes = await new WebIO().writeBinary(d);
  const view = new DataView(bytes.buffer, bytes.byteOffset);
  const length = view.getUint32(12, true);
  const json = JSON.parse(new TextDecoder().decode(bytes.subarray(20, 20 + length)));
  change(json);
  const text = new TextEncoder().encode(
    JSON.stringify(json).padEnd(Math.ceil(JSON.stringify(json).length / 4) * 4),
  );
  const out = new Uint8Array(20 + text.length + bytes.length - 20 - length);
  out.set(bytes.subarray(0, 20));
  out.set(text, 20);
  out.set(bytes.subarray(20 + length), 20 + text.length);
  const head = new DataView(out.buffer);
  head.setUint32(8, out.length, true);
  head.setUint32(12, text.length, true);
  return out;
}

const png = () => encode({ width: 8, height: 8, data: new Uint8Array(64).fill(90), channels: 1 });

/** A PNG of 8 × 8 with another chunk of pixels, and one more chunk before them. */
function pngWith(pixels: Uint8Array, extra?: [string, Uint8Array]): Uint8Array {
  const good = png();
  const chunk = (type: string, data: Uint8Array) => {
    const out = new Uint8Array(12 + data.length);
    new DataView(out.buffer).setUint32(0, data.length);
    out.set(strToU8(type), 4);
    out.set(data, 8);
    return out;
  };
  const parts = [
    good.subarray(0, 33),
    ...(extra ? [chunk(...extra)] : []),
    chunk('IDAT', zlibSync(pixels)),
    chunk('IEND', new Uint8Array(0)),
  ];
  return Uint8Array.from(parts.flatMap((p) => [...p]));
}

const service = new EngineService();
const READERS: Record<string, (bytes: Uint8Array) => Promise<unknown>> = {
  'x.glb': (bytes) => service.files.bringIn(bytes, 'x.glb'),
  'x.png': (bytes) => service.files.bringInPicture(bytes, 'x.png'),
  'x.clothesline': (bytes) => service.open(bytes, 'x.clothesline'),
  'x.csv': (bytes) => service.readPlaces(bytes, 'x.csv'),
  'x.svg': (bytes) => service.readDrawing(bytes, 'x.svg'),
};
const said = (name: string, bytes: Uint8Array): Promise<string> =>
  READERS[name](bytes).then(
    () => 'read',
    (e: Error) => e.message,
  );

/** What the texts of engines and libraries have, and sentences for people have not. */
const RAW =
  /\b(undefined|null|NaN|RangeError|TypeError|stack|array length|is not a function|Cannot read|invalid distance)\b|[{}[\]]/;

test('a file that needs what cannot be read is known by what it says it needs', async () => {
  const needs = (...names: string[]) => glb(undefined, (json) => (json.extensionsRequired = names));
  expect(await said('x.glb', await glb())).toBe('read');
  expect(await said('x.glb', await needs('KHR_draco_mesh_compression'))).toContain('compressed with Draco');
  expect(await said('x.glb', await needs('EXT_of_tomorrow'))).toContain('needs “EXT_of_tomorrow”');
  expect(
    await said('x.glb', await glb(undefined, (j) => ((j.buffers as { uri: string }[])[0].uri = 'more.bin'))),
  ).toContain('in other files');
});

test('faces without area are refused; normals and colours that are no numbers are mended', async () => {
  expect(await said('x.glb', await glb([0, 0, 0, 1, 1, 1, 2, 2, 2]))).toContain('have no area');
  const { mesh } = await service.files.bringIn(await glb(), 'x.glb');
  expect([...mesh.normals]).toEqual([0, 0, 1, 0, 0, 1, 0, 0, 1]);
  expect([...mesh.colors!].every((v) => v === 1)).toBe(true);
});

test('a picture that unpacks to more than it says is refused before it is unpacked; what hides beside the pixels is not', async () => {
  expect(await said('x.png', png())).toBe('read');
  expect(await said('x.png', pngWith(new Uint8Array(8 * 9)))).toBe('read');
  // 64 MB of nothing in 64 kB.
  const bomb = new Uint8Array(64 * 1048576);
  expect(await said('x.png', pngWith(bomb))).toContain('unpacks to more pixels');
  const text = zlibSync(bomb);
  const profile = Uint8Array.from([...strToU8('a'), 0, 0, ...text]);
  const before = process.memoryUsage().arrayBuffers;
  expect(await said('x.png', pngWith(new Uint8Array(8 * 9), ['iCCP', profile]))).toBe('read');
  expect(process.memoryUsage().arrayBuffers - before).toBeLessThan(32 * 1048576);
});

test('what is nested too deeply is said to be', async () => {
  const deep = 50_000;
  const svg = `<svg xmlns="http://www.w3.org/2000/svg">${'<g>'.repeat(deep)}<path d="M0 0L1 1"/>${'</g>'.repeat(deep)}</svg>`;
  expect(await said('x.svg', strToU8(svg))).toMatch(/too deep|^read$/);
  const json = `{"format":"clothesline","version":3,"aside":${'['.repeat(deep)}${']'.repeat(deep)}}`;
  expect(await said('x.clothesline', strToU8(json))).not.toMatch(RAW);
});

test('broken files of every kind are read, or a sentence says what is wrong, and never the text of an engine', async () => {
  const scene = packScene(exampleScene(), () => undefined);
  const good: Record<string, Uint8Array[]> = {
    'x.glb': [await glb()],
    'x.png': [png()],
    'x.clothesline': [
      scene,
      strToU8(JSON.stringify(exampleScene())),
      zipSync({ 'scene.json': strToU8('{}') }),
    ],
    'x.csv': [strToU8('x,y,z,prop,turn\n1,2,3,Crate,90\n4,5,6,,\n')],
    'x.svg': [
      strToU8(
        '<svg viewBox="0 0 9 9"><g transform="scale(2)"><path id="a" d="M0 0L5 5C1 2 3 4 5 6Z"/></g></svg>',
      ),
    ],
  };
  const change = fc.record({ at: fc.double({ min: 0, max: 1, noNaN: true }), to: fc.nat(255) });
  for (const [name, files] of Object.entries(good))
    await fc.assert(
      fc.asyncProperty(
        fc.constantFrom(...files),
        fc.array(change, { maxLength: 12 }),
        fc.option(fc.double({ min: 0, max: 1, noNaN: true }), { freq: 4 }),
        async (file, changes, cut) => {
          const bytes = file.slice(0, cut === null ? file.length : Math.floor(cut * file.length));
          for (const { at, to } of changes) bytes[Math.floor(at * (bytes.length - 1))] = to;
          const answer = await said(name, bytes);
          if (answer === 'read') return;
          expect(answer).toMatch(/\.$/);
          expect(answer.replace(/“[^”]*”|"[^"]*"/g, '')).not.toMatch(RAW);
        },
      ),
      { seed: SEED, numRuns: cases(10_000) },
    );
});
