import { wantedSo } from '@/core/arrange/asWanted';
import { newArrangement } from '@/core/arrange/registry';
import type { Finding } from '@/core/arrange/result';
import type { Run } from '@/core/arrange/run/schema';
import { applyPatches } from '@/core/scene/patch';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { exampleScene } from '@/core/testing/scene';
import { applyCommand, type Command } from '../command';
import { liftEach, setAsWanted } from './mends';

/** Answers to findings: kept with the document, taken back by a step. */

const start = (): Scene => ({
  ...exampleScene(),
  arrangements: [
    newArrangement(
      'run',
      { id: 'a', name: 'a', thread: 'moss' },
      { paths: [{ part: 0, path: 'path4' }], hand: { '3': { lift: 0.25, side: 0.1 } } },
    ),
  ],
});
function done<A>(scene: Scene, c: Command<A>, args: A) {
  const { scene: next, entry } = applyCommand(scene, c, args);
  expect(sceneSchema.safeParse(next).success).toBe(true);
  expect(applyPatches(next, entry!.inverse).value).toEqual(scene);
  return { scene: next, name: entry!.name, run: next.arrangements[0] as Run };
}
const finding = (
  kind: Finding['kind'],
  detail: Finding['detail'],
  severity: Finding['severity'] = 'warning',
) => ({ kind, severity, node: 'a', detail }) as Finding;

test('what is as it is wanted is so for that finding about that thing alone, and never what is broken', () => {
  const buried = { id: 'a', finding: 'overlap', about: 'b', why: 'stacked' };
  const { scene, run } = done(start(), setAsWanted, buried);
  expect(wantedSo(run, finding('overlap', { other: 'b', count: 2 }))).toBe('stacked');
  expect(wantedSo(run, finding('overlap', { other: 'c', count: 2 }))).toBeUndefined();
  expect(wantedSo(run, finding('overlap', { count: 2 }))).toBeUndefined();
  expect(wantedSo(run, finding('doubled', { other: 'b', count: 2 }))).toBeUndefined();
  expect(wantedSo(run, finding('overlap', { other: 'b' }, 'error'))).toBeUndefined();
  const again = done(scene, setAsWanted, { ...buried, why: 'on purpose' });
  expect(again.run.asWanted).toEqual([{ finding: 'overlap', about: 'b', why: 'on purpose' }]);
  const minded = done(again.scene, setAsWanted, { ...buried, why: null });
  expect('asWanted' in minded.run).toBe(false);
  expect(minded.name).toBe('a check of “a” minded again');
});

test('each is lifted by its own measure, beside what a hand has done already', () => {
  const { run, name } = done(start(), liftEach, { id: 'a', slots: [1, 3], by: [0.5, -0.25] });
  expect(run.hand).toEqual({ '1': { lift: 0.5 }, '3': { side: 0.1 } });
  expect(name).toBe('lift 2 slots');
});
