import 'fake-indexeddb/auto';
import { exampleScene } from '@/core/testing/scene';
import { setScene } from '../commands/scene';
import { dispatch, openDocument } from '../document';
import { saveNow, startAutosave, useSaved } from './autosave';
import { createScene, loadScene } from './scenes';
import { TAB } from './tabs';

// Only what tells a page apart from a worker: nobody leaves or hides it here.
Object.assign(globalThis, {
  addEventListener: () => {},
  removeEventListener: () => {},
  document: { addEventListener: () => {}, removeEventListener: () => {}, visibilityState: 'visible' },
});

test('saved is said only when the last change is saved, also of what changes while it is written', async () => {
  const id = await createScene(exampleScene(), TAB);
  openDocument(id, exampleScene());
  const stop = startAutosave();
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
