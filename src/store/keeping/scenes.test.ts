import 'fake-indexeddb/auto';
import Dexie from 'dexie';
import { exampleScene } from '@/core/testing/scene';
import type { Scene } from '@/core/scene/schema';
import { applyCommand } from '../command';
import { setStep } from '../commands/arrangements';
import { KeepingDatabase } from './database';
import { loadScene } from './load';
import { appendSteps, TakenOverError } from './log';
import {
  claimScene,
  createScene,
  deleteScene,
  duplicateScene,
  getMesh,
  holderOf,
  listScenes,
  putMesh,
} from './scenes';

const HASH = 'a'.repeat(64);
const OTHER = 'b'.repeat(64);
const NO_STEPS = { past: [], future: [] };
let db: KeepingDatabase;
let count = 0;

beforeEach(() => {
  db = new KeepingDatabase(`test-${count++}`);
});
afterEach(() => db.delete());

const make = (scene: Scene, tab = 't') => createScene(scene, tab, NO_STEPS, db);
const pitched = (pitch: number) =>
  applyCommand(exampleScene(), setStep, { id: 'run5', step: 'spacing', values: { pitch } });
const appendOne = (id: string, at: number, tab: string, into = db) =>
  appendSteps({ id, tab, at }, [{ do: 'push', entry: pitched(3).entry! }], 'Example', undefined, into);

test('the undo list of a scene from before its numbers had bounds comes along; that of a mended one is said to be gone', async () => {
  const id = await make(exampleScene());
  const entry = { name: 'n', patches: [], inverse: [] };
  const keep = (scene: object) =>
    db.bodies.put({ id, scene: scene as never, past: [entry], future: [], at: 0 });
  await keep({ ...exampleScene(), version: 2 });
  expect(await loadScene(id, db)).toMatchObject({ past: [entry], historyLost: false, differs: true });
  // One of this version, from before it had the links: it is written whole, so that steps find their places.
  const { links: _, ...without } = exampleScene();
  await keep(without);
  expect(await loadScene(id, db)).toMatchObject({ past: [entry], historyLost: false, differs: true });
  await keep(exampleScene());
  expect(await loadScene(id, db)).toMatchObject({ differs: false });
  await keep({ ...exampleScene(), name: 5 });
  const mended = await loadScene(id, db);
  expect(mended).toMatchObject({ past: [], historyLost: true, differs: true });
  expect(mended!.mends).toHaveLength(2);
});

test('what the first version of the store kept is there in this one: scenes, undo lists, pictures, meshes', async () => {
  const name = `old-${count++}`;
  const old = new Dexie(name);
  old.version(1).stores({ cards: 'id, savedAt', bodies: 'id', meshes: 'hash' });
  const { scene, entry } = pitched(2);
  await old.table('cards').add({ id: 's', name: 'Example', savedAt: 5, picture: 'data:,' });
  await old.table('bodies').add({ id: 's', scene, past: [entry], future: [], holder: 'tab1' });
  await old.table('meshes').add({ hash: HASH, bytes: new Uint8Array([1]) });
  old.close();
  const now = new KeepingDatabase(name);
  expect(await listScenes(now)).toEqual([{ id: 's', name: 'Example', savedAt: 5, picture: 'data:,' }]);
  expect(await loadScene('s', now)).toMatchObject({ scene, past: [entry], at: 0 });
  expect(await holderOf('s', now)).toBe('tab1');
  expect(await getMesh(HASH, now)).toEqual(new Uint8Array([1]));
  await appendOne('s', 1, 'tab1', now);
  expect((await loadScene('s', now))!.past).toHaveLength(2);
  await now.delete();
});

test('a tab that no longer holds the scene cannot write over the one that does', async () => {
  const id = await make(exampleScene(), 'tab1');
  await claimScene(id, 'tab2', db);
  await expect(appendOne(id, 1, 'tab1')).rejects.toBeInstanceOf(TakenOverError);
  expect((await loadScene(id, db))!.past).toEqual([]);
  await appendOne(id, 1, 'tab2');
  expect((await loadScene(id, db))!.past).toHaveLength(1);
});

test('meshes go with the last scene that uses them, its undo list and its log included', async () => {
  const bytes = new Uint8Array([1, 2, 3]);
  for (const hash of [HASH, OTHER]) await putMesh(hash, bytes, db);
  const scene = exampleScene();
  scene.props[0].mesh = { source: 'file', hash: HASH, format: 'glb', fileName: 'a.glb' };
  const first = await make(scene);
  const second = await duplicateScene(first, 't', db);
  await deleteScene(first, db);
  expect(await getMesh(HASH, db)).toEqual(bytes);
  expect(await getMesh(OTHER, db)).toBeUndefined();
  await deleteScene(second, db);
  expect(await getMesh(HASH, db)).toBeUndefined();
  // Only a step still knows it: in an undo list, or in a log.
  const step = {
    name: 'x',
    patches: [],
    inverse: [{ op: 'add' as const, path: ['props', 0], value: scene.props[0] }],
  };
  const clearedWith = async (kept: string) => {
    await putMesh(HASH, bytes, db);
    await deleteScene(await make(exampleScene()), db);
    expect(await getMesh(HASH, db)).toEqual(bytes);
    await deleteScene(kept, db);
    expect(await getMesh(HASH, db)).toBeUndefined();
  };
  await clearedWith(await createScene(exampleScene(), 't', { past: [step], future: [] }, db));
  const logged = await make(exampleScene());
  await appendSteps({ id: logged, tab: 't', at: 1 }, [{ do: 'push', entry: step }], 'Example', undefined, db);
  await clearedWith(logged);
});
