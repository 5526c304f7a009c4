import { readPlaces } from './csvRead';
import { FileError } from './limits';

test('columns in any order and case; turn, size and prop where they are there', () => {
  const { rows, skipped } = readPlaces(
    'Name;Z;X;Y;Prop;Turn;Size\na;1;2,5;3;Crate;90;2\nb;4;5;6;;;\n\nc;x;1;2;Crate;;\n',
    't.csv',
  );
  expect(rows).toEqual([
    { at: [2.5, 3, 1], prop: 'Crate', turnDeg: 90, size: 2 },
    { at: [5, 6, 4], turnDeg: 0, size: 1 },
  ]);
  expect(skipped).toEqual([4]);
});

test('what is no table of places is refused with one sentence', () => {
  for (const [text, says] of [
    ['a,b\n1,2\n', /no column x and no column y and no column z/],
    ['x,y,z\n', /no row with three numbers/],
    ['x,y,z\na,b,c\n', /no row with three numbers/],
  ] as const) {
    expect(() => readPlaces(text, 't.csv')).toThrow(FileError);
    expect(() => readPlaces(text, 't.csv')).toThrow(says);
  }
});
