import { availableParallelism } from 'node:os';
import { Worker } from 'node:worker_threads';
import { Help, helpersFor, type Helper } from './Help';

/** Help in threads of Node, which keep no process from ending. */
export const helpInNode = (): Help =>
  new Help(() => Array.from({ length: helpersFor(availableParallelism()) }, startHelper));

/** Threads do not read TypeScript because the one that starts them does. */
const STARTS = `import('tsx/esm/api').then(({ register }) => {
  register();
  return import(${JSON.stringify(new URL('./nodeHelper.ts', import.meta.url).href)});
});`;

/** Starts one thread that helps. */
export function startHelper(): Helper {
  const worker = new Worker(STARTS, { eval: true });
  worker.unref();
  // One that cannot start helps nobody, and nobody waits for it.
  worker.on('error', () => undefined);
  return { ask: (job) => worker.postMessage(job) };
}
