import { rowsOf, type ListRow } from './rows';

const shown = (rows: ListRow<{ id: string }>[]) =>
  rows.map((r) => ('head' in r ? `${r.head}:${r.members.length}` : r.inGroup ? `-${r.node.id}` : r.node.id));

test('a group stands where its first is, all of it under one head; folded, only the head is there', () => {
  const nodes = [{ id: 'a' }, { id: 'b', group: 'x' }, { id: 'c' }, { id: 'd', group: 'x' }];
  expect(shown(rowsOf(nodes, []))).toEqual(['a', 'x:2', '-b', '-d', 'c']);
  expect(shown(rowsOf(nodes, ['x']))).toEqual(['a', 'x:2', 'c']);
});
