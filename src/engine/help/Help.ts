import type { Bvh } from '@/core/mesh/bvh';
import { restAll, Rester, type RestJob } from '@/core/mesh/contact/rests';
import { Claims, claimsFor } from './claims';
import type { Asked } from './message';
import { inShared, SharedTrees } from './sharedTrees';

/** Fewer are done sooner than others are asked. */
const FEWEST = 64;
/** Bytes a row: where more have to be copied first, it is done sooner without. */
const WORTH = 50_000;
/** What another has begun and not done after so many milliseconds is done here. */
const PATIENCE = 50;
/** More helpers would each hold a copy of what is fast without them. */
const MOST = 3;

/** Another thread that was asked for help. */
export interface Helper {
  ask(job: Asked): void;
}

/** How many may help, of the cores that a machine has. */
export const helpersFor = (cores: number): number => Math.min(MOST, Math.max(0, cores - 1));

/**
 * Has other threads share what takes long. They are started when there is something to share for the first time. Where
 * threads cannot share memory, or none comes, everything is done here: what is found is the same to the last bit.
 *
 * @example
 * const help = new Help(() => [startHelper()]);
 * const service = new EngineService(help.restAll);
 */
export class Help {
  private helpers: Helper[] | null = null;
  private trees = new SharedTrees();

  constructor(private start: () => Helper[]) {}

  /** Finds how all things of a job come to rest. */
  restAll = (job: RestJob): void => {
    const trees = [...job.grounds, ...job.things.map((thing) => thing.tree)];
    if (job.rows < FEWEST || !canShare || this.trees.missing(trees) > job.rows * WORTH) return restAll(job);
    this.helpers ??= this.started();
    if (this.helpers.length === 0) return restAll(job);
    const shared = { ...job, given: inShared(job.given), found: inShared(job.found) };
    const memory = claimsFor(job.rows);
    this.ask(shared, trees, memory);
    const rester = new Rester(shared);
    const rest = (row: number) => rester.rest(row);
    const claims = new Claims(memory, job.rows);
    claims.work(rest);
    claims.finish(rest, PATIENCE);
    job.found.set(shared.found);
  };

  private started(): Helper[] {
    try {
      return this.start();
    } catch {
      // Where threads cannot be started from here, all is done here.
      return [];
    }
  }

  private ask(
    { grounds, things, tilts, rows, given, found }: RestJob,
    trees: Bvh[],
    claims: SharedArrayBuffer,
  ): void {
    const { names, news } = this.trees.name(trees);
    const asked: Asked = {
      news,
      grounds: names.slice(0, grounds.length),
      things: things.map(({ base, reach }, i) => ({ tree: names[grounds.length + i], base, reach })),
      ...{ tilts, rows, given, found, claims },
    };
    for (const helper of this.helpers!) helper.ask(asked);
  }
}

const canShare = typeof SharedArrayBuffer !== 'undefined';
