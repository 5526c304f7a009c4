import { Pace } from './pace';

const run = (pace: Pace, ms: number, frames: number, from = 0) => {
  for (let i = 0; i < frames; i++) pace.frame(from + i * ms);
  return pace.budget('turns').triangles;
};

test('slow frames lower what is drawn while moving, never to nothing; fast ones raise it again', () => {
  const pace = new Pace('software');
  // It begins with a quarter of what it may come to: nothing is known of the machine yet.
  expect(pace.budget('turns')).toEqual({ triangles: 12_500, points: 25_000 });
  const slow = run(pace, 200, 6);
  expect(slow).toBeLessThan(10_000);
  expect(run(pace, 200, 200, 1e4)).toBeCloseTo(5000, 6);
  expect(run(pace, 16, 100, 1e6)).toBe(50_000);
  // A card has room for more than it began with.
  expect(run(new Pace('card'), 8, 100)).toBe(8e6);
});

test('while something is dragged more is drawn than while the view turns, and less than at rest', () => {
  const pace = new Pace('software');
  run(pace, 200, 3);
  const [turns, drags, rests] = (['turns', 'drags', 'rests'] as const).map((what) => pace.budget(what));
  expect(drags.triangles).toBe(2 * turns.triangles);
  expect(drags.triangles).toBeLessThan(rests.triangles);
  expect(drags.points).toBeLessThan(rests.points);
});

test('a pause is no slow frame, and at rest all is drawn', () => {
  const pace = new Pace('software');
  expect(run(pace, 5000, 20)).toBe(12_500);
  expect(pace.budget('rests').points).toBe(Infinity);
});

test('a frame at rest that is finished later is drawn from less than a moving one', () => {
  const pace = new Pace('software');
  const [rough, moving] = [pace.rough(), pace.budget('turns')];
  expect(rough.triangles).toBeLessThan(moving.triangles);
  expect(rough.points).toBeLessThan(moving.points);
});
