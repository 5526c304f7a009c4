import type { Viewpoint } from '@/core/scene/viewpointSchema';
import { jobsOf, sizeOf, turned, VIEW_NOW, type StillChoices } from './jobs';

const view = (name: string, aspect = 2): Viewpoint => ({
  ...{ id: name, name, aspect, focal: 35, focus: null },
  ...{ eye: [0, 2, 10], aim: [1, 0, 0] },
});
const choices: StillChoices = {
  ...{ views: ['a'], size: 100, frames: 16, background: 'scene', color: '#000000', format: 'png8' },
  ...{ beside: false, row: 'one', count: 4, from: 1, to: 2, rate: 4 },
};

test('the longer side has the size, whichever it is', () => {
  expect(sizeOf(2, 100)).toEqual({ width: 100, height: 50 });
  expect(sizeOf(0.1, 100)).toEqual({ width: 10, height: 100 });
});

test('one picture a view; two of one name stay two files; what is gone is left out', () => {
  const now = { ...view('The quay', 1.5) };
  const jobs = jobsOf(
    { ...choices, views: [VIEW_NOW, 'a', 'b', 'gone'] },
    [view('a'), { ...view('A'), id: 'b' }],
    now,
  );
  expect(jobs.map((j) => j.spec.name)).toEqual(['the-quay', 'a', 'a-2']);
  expect(jobs.map((j) => j.spec.height)).toEqual([67, 50, 50]);
});

test('a turn keeps its distance and its height; a time is told at even steps, backwards too', () => {
  const jobs = jobsOf({ ...choices, row: 'turn' }, [view('a')], view('now'));
  expect(jobs.map((j) => j.spec.name)).toEqual(['a-0000', 'a-0001', 'a-0002', 'a-0003']);
  for (const { spec } of jobs) {
    const [x, y, z] = spec.from.eye;
    expect(y).toBe(2);
    expect(Math.hypot(x - 1, z)).toBeCloseTo(Math.hypot(1, 10), 9);
  }
  expect(turned([0, 2, 10], [1, 0, 0], Math.PI).map((v) => Math.round(v * 1e9) / 1e9)).toEqual([2, 2, -10]);
  const times = (from: number, to: number) =>
    jobsOf({ ...choices, row: 'time', from, to }, [view('a')], view('now')).map((j) => j.time);
  expect(times(1, 2)).toEqual([1, 1.25, 1.5, 1.75, 2]);
  expect(times(2, 1.5)).toEqual([2, 1.75, 1.5]);
});
