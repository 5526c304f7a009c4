import { emptyScene, newPath, newProp } from '@/core/scene/defaults';
import { points } from '@/core/testing/paths';
import { readLink, showLink } from './links';

const line = (id: string, name: string) =>
  newPath(
    id,
    name,
    points('corner', [
      [0, 0, 0],
      [1, 0, 0],
    ]),
  );
const scene = emptyScene('S');
scene.paths.push(line('path1', 'Quay'), line('path2', 'Quay edge'), line('path3', 'Wall 2 + 3'));
scene.props.push(newProp('prop1', 'Crate', { source: 'built', name: 'crate' }));

test.each([
  ['= length of Quay edge / 12', '[path2.length] / 12'],
  ['=length of quay/12', '[path1.length]/12'],
  ['= “length of Wall 2 + 3” − 40 cm', '[path3.length] - 0.4'],
  ['= 2 × (width of Crate + 5mm)', '2 * ([prop1.wide] + 0.005)'],
  ['= length of Quay + length of Quay edge', '[path1.length] + [path2.length]'],
])('%s', (text, expression) => {
  expect(readLink(text, scene)).toBe(expression);
});

test('what names nothing, or is more than sums, is none; and back into words', () => {
  for (const text of ['= 3', '= length of Harbour', '= length of Quay & 3', '= area of Quay'])
    expect(readLink(text, scene)).toBeNull();
  expect(showLink('[path2.length] / 12', scene)).toBe('length of Quay edge / 12');
  expect(showLink('[gone.length] / 12', scene)).toBe('length of what is gone / 12');
});
