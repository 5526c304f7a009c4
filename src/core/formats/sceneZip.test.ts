import { strToU8, unzipSync, zipSync } from 'fflate';
import { SCENE_VERSION } from '../scene/version';
import { exampleScene } from '../testing/scene';
import { contentHash } from './hash';
import { openScene, packScene, sceneJson } from './sceneZip';

const mesh = strToU8('the bytes of a mesh');
const hash = contentHash(mesh);

function withFile() {
  const scene = exampleScene();
  scene.props[0].mesh = { source: 'file', hash, format: 'glb', fileName: 'own.glb' };
  return scene;
}

const reworked = (change: (json: Record<string, unknown>) => void): Uint8Array => {
  const json = JSON.parse(sceneJson(exampleScene()));
  change(json);
  return strToU8(JSON.stringify(json));
};

describe('round trip', () => {
  test('a scene and its meshes come back exactly as they were, and pack to the same bytes', () => {
    const scene = withFile();
    const packed = packScene(scene, (h) => (h === hash ? mesh : undefined));
    const opened = openScene(packed, 'a.clothesline');
    expect(opened.scene).toEqual(scene);
    expect(opened.unknown).toEqual([]);
    expect(opened.missing).toEqual([]);
    expect([...opened.files.get(hash)!]).toEqual([...mesh]);
    expect(Buffer.from(packScene(opened.scene, (h) => opened.files.get(h))).equals(Buffer.from(packed))).toBe(
      true,
    );
  });

  test('a bare scene.json opens too', () => {
    expect(openScene(strToU8(sceneJson(exampleScene())), 'scene.json').scene).toEqual(exampleScene());
  });
});

describe('what is wrong with a file is said, and nothing more happens', () => {
  const said = (bytes: Uint8Array) => {
    try {
      openScene(bytes, 'x.clothesline');
    } catch (error) {
      const { message } = error as Error;
      expect(message).toMatch(/\. [A-Z].*\.$/);
      return message;
    }
    throw new Error('It was opened.');
  };
  const packed = packScene(withFile(), () => mesh);

  test('truncated, not a zip, no scene inside, no JSON', () => {
    expect(said(packed.slice(0, packed.length / 2))).toContain('damaged or cut short');
    expect(said(strToU8('hello there'))).toContain('not a Clothesline scene');
    expect(said(zipSync({ 'readme.txt': strToU8('x') }))).toContain('no scene.json');
    expect(said(new Uint8Array(0))).toContain('empty');
  });

  test('a newer version, no version, another format', () => {
    expect(said(reworked((j) => (j.version = SCENE_VERSION + 1)))).toContain(`format ${SCENE_VERSION + 1}`);
    expect(said(reworked((j) => delete j.version))).toContain('no readable "version"');
    expect(said(reworked((j) => (j.format = 'other')))).toContain('not a Clothesline scene');
  });

  test('what is set aside goes out again with the mesh that it names', () => {
    const json = JSON.parse(sceneJson(withFile()));
    json.props[0].id = 5;
    const broken = openScene(
      zipSync({ 'scene.json': strToU8(JSON.stringify(json)), [`meshes/${hash}.glb`]: mesh }),
      'broken.clothesline',
    );
    expect(broken.mends.map((m) => m.how)).toEqual(['aside']);
    const again = openScene(
      packScene(broken.scene, (hash) => broken.files.get(hash)),
      'again.clothesline',
    );
    expect(again.scene.aside).toEqual(broken.scene.aside);
    expect([...again.files.get(hash)!]).toEqual([...mesh]);
  });

  test('a broken field and an id twice: it opens, and what was mended is named', () => {
    const broken = openScene(
      reworked((j) => {
        (j.paths as { source: { points: { position: unknown }[] } }[])[0].source.points[2].position = [
          1,
          'two',
          3,
        ];
        (j.props as { id: string }[])[1].id = 'prop1';
      }),
      'broken.clothesline',
    );
    expect(broken.mends).toEqual([
      { where: 'props[1]', how: 'aside' },
      { where: 'paths[0].source.points[2].position', how: 'default' },
      { where: 'paths[0].source.points[2]', how: 'aside' },
    ]);
  });

  test('unknown fields are left out and named; the rest is as it was', () => {
    const { scene, unknown } = openScene(
      reworked((j) => ((j.glow = 1), ((j.arrangements as Record<string, unknown>[])[0].shine = { a: 1 }))),
      'x',
    );
    expect(unknown).toEqual(
      ['arrangements[0].shine', 'glow'].sort((a, b) => unknown.indexOf(a) - unknown.indexOf(b)),
    );
    expect(scene).toEqual(exampleScene());
  });

  test('a mesh that did not come along, or is damaged, is named; the scene opens', () => {
    const entries = unzipSync(packed);
    const without = zipSync({ 'scene.json': entries['scene.json'] });
    expect(openScene(without, 'x').missing).toEqual([hash]);
    const damaged = zipSync({ ...entries, [`meshes/${hash}.glb`]: strToU8('other bytes') });
    expect(openScene(damaged, 'x').missing).toEqual([hash]);
    expect(openScene(damaged, 'x').scene).toEqual(withFile());
  });

  test('ids are never handed out twice, whatever the file’s counter says', () => {
    expect(
      openScene(
        reworked((j) => (j.nextId = 1)),
        'x',
      ).scene.nextId,
    ).toBeGreaterThan(8);
  });
});
