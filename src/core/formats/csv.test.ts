import Papa from 'papaparse';
import { Evaluator } from '../evaluate/scene';
import { GAP_REASONS } from '../arrange/result';
import { ASSETS, exampleScene } from '../testing/scene';
import { CSV_COLUMNS, writeCsv } from './csv';

const read = (text: string) =>
  Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true });

test('one row a slot, numbers that read back to the same double', () => {
  const scene = exampleScene();
  const result = new Evaluator(ASSETS).evaluate(scene);
  const { placements: p } = result.arrangements[0];
  const { data, meta, errors } = read(writeCsv(scene, result, { gaps: true }));
  expect(errors).toEqual([]);
  expect(meta.fields).toEqual([...CSV_COLUMNS]);
  expect(data).toHaveLength(p.count);
  data.forEach((r, i) => {
    expect([r.x, r.y, r.z].map(Number)).toEqual([...p.position.slice(i * 3, i * 3 + 3)]);
    expect([r.qx, r.qy, r.qz, r.qw].map(Number)).toEqual([...p.rotation.slice(i * 4, i * 4 + 4)]);
    expect(Number(r.s)).toBe(p.s[i]);
    expect(r.slot).toBe(String(i + 1));
    expect(r.reason).toBe(p.state[i] === 0 ? '' : GAP_REASONS[p.state[i]]);
    expect(r.arrangement).toBe('Row, “quoted”');
  });
  expect(read(writeCsv(scene, result, { gaps: false })).data).toHaveLength(
    p.state.filter((s) => s === 0).length,
  );
});

test.each(['=1+1', '+1', '-1+cmd|x', '-2', '@SUM(A1)', '\tx', '\nx', '\rx'])(
  'a name that begins like the formula %j is text, and numbers stay numbers',
  (name) => {
    const scene = exampleScene();
    scene.arrangements[0].name = name;
    scene.props.forEach((p) => (p.name = name));
    const [first] = read(writeCsv(scene, new Evaluator(ASSETS).evaluate(scene), { gaps: false })).data;
    expect([first.arrangement, first.prop]).toEqual([`'${name}`, `'${name}`]);
    for (const column of ['x', 'z', 'qw', 's']) expect(first[column]).toMatch(/^-?[\d.e-]+$/);
  },
);

test('hidden arrangements stay out; a name that looks like a formula is made harmless', () => {
  const scene = exampleScene();
  scene.arrangements[0].name = '=HYPERLINK("x")';
  const result = new Evaluator(ASSETS).evaluate(scene);
  expect(read(writeCsv(scene, result, { gaps: false })).data[0].arrangement).toBe('\'=HYPERLINK("x")');
  scene.arrangements[0].visible = false;
  expect(read(writeCsv(scene, new Evaluator(ASSETS).evaluate(scene), { gaps: true })).data).toEqual([]);
});
