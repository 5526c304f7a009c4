import { CatmullRomCurve3, Vector3 } from 'three';
import { Bench } from 'tinybench';
import { compilePath } from '@/core/curve/compile';
import { newPath, newPoint } from '@/core/scene/defaults';

/**
 * Speed as ratios between rows of one run on one machine; the milliseconds are only to read the ratios by. Each subject
 * is measured in a process of its own, with the reference beside it, so that what one subject keeps in memory is not
 * what another is measured by.
 */

export const COUNT = 100_000;
const at: [number, number, number][] = Array.from({ length: 50 }, (_, i) => [
  30 * Math.cos(i * 0.7) + i,
  2 * Math.sin(i),
  30 * Math.sin(i * 0.7),
]);

/** A path of 50 points, as the document has it and compiled. */
export const path = newPath(
  'p',
  'P',
  at.map((p, i) => newPoint(`pt${i}`, 'smooth', p)),
);
export const compilation = compilePath(path);
if (!compilation.ok) throw new Error(compilation.problem);
export const compiled = compilation.path;

const curve = new CatmullRomCurve3(
  at.map((p) => new Vector3(...p)),
  false,
  'centripetal',
);
const THREE_ROW = 'three: getSpacedPoints + computeFrenetFrames';

/** Measures rows beside what three takes for as many places on the same path, and prints them as a table. */
export async function measure(subject: string, rows: [name: string, work: () => void][]): Promise<void> {
  const bench = new Bench({ time: 600, warmupTime: 400, iterations: 5 });
  bench.add(THREE_ROW, () => {
    curve.updateArcLengths();
    curve.getSpacedPoints(COUNT - 1);
    curve.computeFrenetFrames(COUNT - 1, false);
  });
  for (const [name, work] of rows) bench.add(name, work);
  await bench.run();
  const ms = bench.tasks.map(
    (task) => (task.result as { latency?: { p50: number } } | undefined)?.latency?.p50 ?? NaN,
  );
  console.log(`\n| ${subject} | ms | times three |\n|---|---:|---:|`);
  bench.tasks.forEach((task, i) => {
    const times = ms[i] / ms[0];
    console.log(
      `| ${task.name} | ${ms[i].toFixed(ms[i] < 1 ? 3 : 1)} | ${times.toFixed(times < 0.01 ? 4 : 2)} |`,
    );
  });
}
