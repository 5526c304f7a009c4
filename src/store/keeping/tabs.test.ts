import { TabTalk } from './tabs';

const open: TabTalk[] = [];
const tab = (name: string, onTaken: () => Promise<void> = async () => {}) => {
  const t = new TabTalk(onTaken, undefined, name);
  open.push(t);
  return t;
};
afterEach(() => open.splice(0).forEach((t) => t.close()));

test('a living tab answers for the scene it holds, and for no other', async () => {
  tab('a').hold('scene1');
  const b = tab('b');
  expect(await b.heldElsewhere('scene1')).toBe(true);
  expect(await b.heldElsewhere('scene2')).toBe(false);
});

test('taking over waits until the holder has saved, and only it lets go', async () => {
  const order: string[] = [];
  const a = tab('a', async () => {
    await new Promise((r) => setTimeout(r, 30));
    order.push('saved');
  });
  a.hold('scene1');
  const b = tab('b');
  await b.takeOver('scene1');
  order.push('taken');
  expect(order).toEqual(['saved', 'taken']);
  expect(await tab('c').heldElsewhere('scene1')).toBe(true);
  b.hold(null);
  expect(await tab('d').heldElsewhere('scene1')).toBe(false);
});

test('whoever has a deleted scene open is told, whether it holds it or not', async () => {
  const told = new Promise<string>((done) => open.push(new TabTalk(async () => {}, done, 'a')));
  tab('b').tellDeleted('scene1');
  expect(await told).toBe('scene1');
});
