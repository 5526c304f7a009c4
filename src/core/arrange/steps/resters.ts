import type { Vec3 } from '../../math/vec3';
import { FOUND, giveRow, restAll, type Thing } from '../../mesh/contact/rests';
import type { PropShape } from '../../mesh/contact/support';
import type { TriMesh } from '../../mesh/triMesh';
import type { ArrangeContext } from '../context';
import type { Placements } from '../result';
import type { Facings } from './facing';
import { restingRow, type Met } from './groundContact';

/** Rows that come to rest each by itself: gathered to one job, which others may share. */
export class Resters {
  private met: Met[] = [];
  private given: number[] = [];
  private things: Thing[] = [];
  /** By the number of a prop: that of its thing. */
  private thingOf: number[] = [];

  /** @param shapes of the props that the placements count */
  constructor(
    private grounds: readonly TriMesh[],
    private shapes: readonly (PropShape | undefined)[],
    private context: Pick<ArrangeContext, 'restAll'>,
  ) {}

  /** Takes a row up that has met ground as it is posed. @param frame unit up, from `r` on */
  add(met: Met, out: Placements, row: number, { up }: Facings, r: number): void {
    const prop = out.prop[row];
    const thing = (this.thingOf[prop] ??= this.things.push(this.shapes[prop]!.thing()) - 1);
    const from: Vec3 = [up[r], up[r + 1], up[r + 2]];
    giveRow(this.given, thing, restingRow(out, row, met.at, met.direction, from, met.ground));
    this.met.push(met);
  }

  /** Says of all that were taken up what they lean to. */
  rest(): void {
    const rows = this.met.length;
    if (rows === 0) return;
    const job = {
      grounds: this.grounds.map((t) => t.tree()),
      things: this.things,
      rows,
      given: Float64Array.from(this.given),
      found: new Float64Array(rows * FOUND),
    };
    (this.context.restAll ?? restAll)(job);
    this.met.forEach((met, row) => {
      met.found = job.found.subarray(row * FOUND, (row + 1) * FOUND);
      met.normal = [met.found[0], met.found[1], met.found[2]];
    });
    this.met.length = this.given.length = 0;
  }
}
