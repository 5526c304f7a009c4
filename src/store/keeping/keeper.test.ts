import 'fake-indexeddb/auto';
import { exampleScene } from '@/core/testing/scene';
import { setScene } from '../commands/scene';
import { dispatch, openDocument, redo, undo, useDocument } from '../document';
import { database } from './database';
import { describeFailure, isUnkept, keepOpen, saveNow, useSaved, withUnkept } from './keeper';
import { loadScene } from './load';
import { createScene, deleteScene } from './scenes';
import { TAB } from './tabs';

// Only what tells a page apart from a worker: nobody leaves or hides it here.
Object.assign(globalThis, {
  addEventListener: () => {},
  removeEventListener: () => {},
  document: { addEventListener: () => {}, removeEventListener: () => {}, visibilityState: 'visible' },
});

/** Makes a scene, opens it and keeps it. */
async function opened(scene = exampleScene()): Promise<{ id: string; stop: () => void }> {
  const id = await createScene(scene, TAB);
  const found = (await loadScene(id))!;
  openDocument(id, found.scene, found);
  return { id, stop: keepOpen(id, found) };
}

test('saved is said only when the last change is saved, also of what changes while it is written', async () => {
  const { id, stop } = await opened();
  const kept = async () => (await loadScene(id))!.scene.name;
  const wrong: string[] = [];
  let last = 'Example';
  const watch = useSaved.subscribe(async ({ state }) => {
    const want = last;
    if (state === 'saved' && (await kept()) !== want) wrong.push(want);
  });
  // Changes at all times of a save: before it, while it writes, and after. A save takes some turns of the event loop.
  const turn = () => new Promise((r) => setImmediate(r));
  for (let i = 1; i <= 40; i++) {
    last = `Name ${i}`;
    dispatch(setScene, { name: last });
    const writing = saveNow();
    for (let k = 0; k < i; k++) await turn();
    last = `Name ${i}, again`;
    dispatch(setScene, { name: last });
    await writing;
  }
  last = 'Name 40';
  dispatch(setScene, { name: last });
  await saveNow();
  expect(useSaved.getState().state).toBe('saved');
  expect(await kept()).toBe('Name 40');
  expect(wrong).toEqual([]);
  watch();
  stop();
});

test('a step costs what it is: nothing whole is written, and what comes back is the document with its undo list', async () => {
  const { id, stop } = await opened();
  const db = await database();
  const before = await db.bodies.get(id);
  for (const name of ['One', 'Two', 'Three']) dispatch(setScene, { name });
  undo();
  undo();
  redo();
  await saveNow();
  const { scene, past, future } = useDocument.getState();
  expect(await loadScene(id)).toMatchObject({ scene, past, future, torn: 0, differs: false });
  expect([past.length, future.length, scene.name]).toEqual([2, 1, 'Two']);
  expect(await db.bodies.get(id)).toEqual(before);
  expect((await db.cards.get(id))!.name).toBe('Two');
  stop();
});

test('a storage that fails loses nothing: what could not be written is kept in the page and written later', async () => {
  const { id, stop } = await opened();
  const db = await database();
  const full = () => {
    throw Object.assign(new Error('full'), { name: 'QuotaExceededError' });
  };
  db.log.hook('creating', full);
  dispatch(setScene, { name: 'Unkept' });
  await saveNow();
  expect(useSaved.getState()).toEqual({
    state: 'failed',
    problem: expect.stringContaining('storage is full'),
  });
  expect(isUnkept()).toBe(true);
  // The page of the scene is left and opened again.
  stop();
  const found = withUnkept(id, (await loadScene(id))!);
  expect([found.scene.name, found.past.length]).toEqual(['Unkept', 1]);
  openDocument(id, found.scene, found);
  const again = keepOpen(id, found);
  expect(useSaved.getState().state).toBe('failed');
  db.log.hook('creating').unsubscribe(full);
  dispatch(setScene, { name: 'Kept' });
  await saveNow();
  expect([useSaved.getState().state, isUnkept()]).toEqual(['saved', false]);
  expect((await loadScene(id))!.past).toHaveLength(2);
  again();
});

test('of a scene that was deleted elsewhere nothing is written, and that is said', async () => {
  const { id, stop } = await opened();
  await deleteScene(id);
  dispatch(setScene, { name: 'Too late' });
  await saveNow();
  expect(useDocument.getState().readOnly).toBe('deleted');
  expect(await loadScene(id)).toBeUndefined();
  expect(isUnkept()).toBe(false);
  stop();
});

test('a full storage is said as such', () => {
  const full = Object.assign(new Error('QuotaExceededError'), {
    name: 'AbortError',
    inner: { name: 'QuotaExceededError' },
  });
  expect(describeFailure(full)).toContain('storage is full');
  expect(describeFailure(new Error('disk gone'))).toContain('disk gone');
});
