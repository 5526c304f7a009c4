import type { Bvh } from '@/core/mesh/bvh';
import { Rester } from '@/core/mesh/contact/rests';
import { Claims } from './claims';
import type { Asked } from './message';

/** What a thread does that helps. */
export class Helping {
  private trees = new Map<number, Bvh>();

  /** Does of a job what nobody has begun; nothing where it comes too late. */
  help({ news, grounds, things, tilts, rows, given, found, claims }: Asked): void {
    for (const name of news.forget) this.trees.delete(name);
    for (const [name, tree] of news.trees) this.trees.set(name, tree);
    const of = (name: number): Bvh => this.trees.get(name)!;
    const rester = new Rester({
      grounds: grounds.map(of),
      things: things.map((thing) => ({ ...thing, tree: of(thing.tree) })),
      ...{ tilts, rows, given, found },
    });
    new Claims(claims, rows).work((row) => rester.rest(row));
  }
}
