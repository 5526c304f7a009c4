import { Primitive, WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import validator from 'gltf-validator';
import { newArrangement } from '../arrange/registry';
import { Evaluator } from '../evaluate/scene';
import { emptyScene, newProp } from '../scene/defaults';
import type { Scene } from '../scene/schema';
import { ASSETS } from '../testing/scene';
import { writeGlb } from './glbWrite';

/** Bare lines in a file, as another reader finds them. */

test('lines that nothing runs along go out as line primitives, end to end where they hang', async () => {
  const peg = (n: number) => ({ id: `peg${n}`, prop: 'post', position: [n * 3, 0, 2] });
  const scene: Scene = {
    ...emptyScene('Posts'),
    props: [
      {
        ...newProp('post', 'Post', { source: 'built', name: 'box' }),
        snapPoints: [{ name: 'eye', position: [0.1, 1.2, 0], direction: [0, 0, 1] }],
      },
    ],
    arrangements: [
      newArrangement('pegs', { id: 'posts', name: 'Posts', thread: 'moss' }, {
        pegs: [[peg(1), peg(2), peg(3)]],
      } as never),
      newArrangement(
        'strands',
        { id: 'line', name: 'Wash lines', thread: 'weld' },
        { from: { on: 'posts', snap: 'eye' }, to: { snap: 'eye' }, hang: { by: 'sag', sag: 0.4 } },
      ),
    ],
  };
  const result = new Evaluator(ASSETS).evaluate(scene);
  const bytes = await writeGlb(scene, result, ASSETS, { props: 'instanced', surfaces: true, snaps: false });
  const report = await validator.validateBytes(bytes, { maxIssues: 20 });
  expect(report.issues.numErrors).toBe(0);
  const root = (await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(bytes)).getRoot();
  const node = root.listNodes().find((n) => n.getName() === 'Wash lines, lines')!;
  const [primitive] = node.getMesh()!.listPrimitives();
  expect(primitive.getMode()).toBe(Primitive.Mode.LINES);
  const position = primitive.getAttribute('POSITION')!;
  const index = [...primitive.getIndices()!.getArray()!];
  const at = (i: number) => position.getElement(i, [0, 0, 0]);
  // Two lines, each from eye to eye, 0.4 m lower in its middle.
  const each = position.getCount() / 2;
  for (const line of [0, 1]) {
    const [from, to] = [at(line * each), at(line * each + each - 1)];
    const [a, b] = [line + 1, line + 2];
    expect(from[1]).toBeCloseTo(1.2, 5);
    expect([from[0], to[0]].sort((x, y) => x - y)[0]).toBeCloseTo(a * 3 + 0.1, 5);
    expect([from[0], to[0]].sort((x, y) => x - y)[1]).toBeCloseTo(b * 3 + 0.1, 5);
    const low = Math.min(...Array.from({ length: each }, (_, k) => at(line * each + k)[1]));
    expect(low).toBeCloseTo(0.8, 2);
  }
  // Pieces follow each other, and no piece goes from one line to the next.
  for (let i = 0; i < index.length; i += 2) {
    expect(index[i + 1]).toBe(index[i] + 1);
    expect(Math.floor(index[i] / each)).toBe(Math.floor(index[i + 1] / each));
  }
  expect(index).toHaveLength(2 * 2 * (each - 1));
});
