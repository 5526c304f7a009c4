import 'fake-indexeddb/auto';
import { exampleScene } from '@/core/testing/scene';
import { applyCommand } from '../command';
import { setStep } from '../commands/runs';
import { describeFailure } from './autosave';
import { KeepingDatabase } from './database';
import {
  claimScene,
  createScene,
  deleteScene,
  duplicateScene,
  getMesh,
  listScenes,
  loadScene,
  putMesh,
  saveScene,
  TakenOverError,
} from './scenes';

const HASH = 'a'.repeat(64);
const OTHER = 'b'.repeat(64);
let db: KeepingDatabase;
let count = 0;

beforeEach(() => {
  db = new KeepingDatabase(`test-${count++}`);
});
afterEach(() => db.delete());

test('the undo list of a scene from before its numbers had bounds comes along; that of a mended one is said to be gone', async () => {
  const id = await createScene(exampleScene(), 'tab1', db);
  const entry = { name: 'n', patches: [], inverse: [] };
  const keep = (scene: object) =>
    db.bodies.put({ id, scene: scene as never, past: [entry], future: [], holder: 'tab1' });
  await keep({ ...exampleScene(), version: 2 });
  expect(await loadScene(id, db)).toMatchObject({ past: [entry], historyLost: false });
  await keep({ ...exampleScene(), name: 5 });
  const mended = await loadScene(id, db);
  expect(mended).toMatchObject({ past: [], historyLost: true });
  expect(mended!.mends).toHaveLength(2);
});

test('a scene comes back as it was saved, with its undo list', async () => {
  const id = await createScene(exampleScene(), 'tab1', db);
  const { scene, entry } = applyCommand(exampleScene(), setStep, {
    id: 'run5',
    step: 'spacing',
    values: { pitch: 2 },
  });
  await saveScene(id, { scene, past: [entry!], future: [] }, 'tab1', db);
  expect(await loadScene(id, db)).toEqual({
    scene,
    past: [entry],
    future: [],
    holder: 'tab1',
    mends: [],
    historyLost: false,
  });
  expect((await listScenes(db)).map((c) => [c.id, c.name])).toEqual([[id, 'Example']]);
  expect(await loadScene('unknown', db)).toBeUndefined();
});

test('a tab that no longer holds the scene cannot write over the one that does', async () => {
  const id = await createScene(exampleScene(), 'tab1', db);
  await claimScene(id, 'tab2', db);
  const mine = { scene: { ...exampleScene(), name: 'Mine' }, past: [], future: [] };
  await expect(saveScene(id, mine, 'tab1', db)).rejects.toBeInstanceOf(TakenOverError);
  expect((await loadScene(id, db))!.scene.name).toBe('Example');
  await saveScene(id, mine, 'tab2', db);
  expect((await loadScene(id, db))!.scene.name).toBe('Mine');
});

test('meshes go with the last scene that uses them, its undo list included', async () => {
  const bytes = new Uint8Array([1, 2, 3]);
  for (const hash of [HASH, OTHER]) await putMesh(hash, bytes, db);
  const scene = exampleScene();
  scene.props[0].mesh = { source: 'file', hash: HASH, format: 'glb', fileName: 'a.glb' };
  const first = await createScene(scene, 't', db);
  const second = await duplicateScene(first, 't', db);
  await deleteScene(first, db);
  expect(await getMesh(HASH, db)).toEqual(bytes);
  expect(await getMesh(OTHER, db)).toBeUndefined();
  // Only the undo list still knows it.
  const gone = {
    scene: exampleScene(),
    past: [
      {
        name: 'x',
        patches: [],
        inverse: [{ op: 'add' as const, path: ['props', 0], value: scene.props[0] }],
      },
    ],
    future: [],
  };
  await saveScene(second, gone, 't', db);
  const third = await createScene(exampleScene(), 't', db);
  await deleteScene(third, db);
  expect(await getMesh(HASH, db)).toEqual(bytes);
  await deleteScene(second, db);
  expect(await getMesh(HASH, db)).toBeUndefined();
});

test('a full storage is said as such', () => {
  const full = Object.assign(new Error('QuotaExceededError'), {
    name: 'AbortError',
    inner: { name: 'QuotaExceededError' },
  });
  expect(describeFailure(full)).toContain('storage is full');
  expect(describeFailure(new Error('disk gone'))).toContain('disk gone');
});
