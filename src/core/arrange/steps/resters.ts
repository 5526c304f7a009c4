import type { Vec3 } from '../../math/vec3';
import { isOnePose } from '../../mesh/contact/fall';
import { FOUND, giveRow, restAll, type Thing } from '../../mesh/contact/rests';
import type { PropShape } from '../../mesh/contact/support';
import type { TriMesh } from '../../mesh/triMesh';
import type { ArrangeContext } from '../context';
import type { Placements } from '../result';
import type { Facings } from './facing';
import { foundPose, matrixOf, restingRow, type Met } from './groundContact';

/** Rows that land each by itself: gathered to one job, which others may share. */
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

  /** Takes up a row that has met ground as it is posed, to tilt until it rests. @param frame unit up, from `r` on */
  rest(met: Met, out: Placements, row: number, { up }: Facings, r: number): void {
    this.take(met, out, row, [up[r], up[r + 1], up[r + 2]]);
  }

  /** Takes up a row to be let down as it is posed, if that pose is not known already. */
  drop(met: Met, out: Placements, row: number): void {
    if (!met.found || !isOnePose(foundPose(met.found), matrixOf(out, row)))
      this.take(met, out, row, met.normal);
  }

  private take(met: Met, out: Placements, row: number, up: Vec3): void {
    const prop = out.prop[row];
    const thing = (this.thingOf[prop] ??= this.things.push(this.shapes[prop]!.thing()) - 1);
    giveRow(this.given, thing, restingRow(out, row, met.at, met.direction, up, met.ground));
    this.met.push(met);
  }

  /** Has it found of all that were taken up how they rest, or how far they fall. @returns them */
  done(tilts: boolean): Met[] {
    const { met } = this;
    if (met.length === 0) return met;
    const job = {
      grounds: this.grounds.map((t) => t.tree()),
      things: this.things,
      tilts,
      rows: met.length,
      given: Float64Array.from(this.given),
      found: new Float64Array(met.length * FOUND),
    };
    (this.context.restAll ?? restAll)(job);
    met.forEach((m, row) => void (m.found = job.found.subarray(row * FOUND, (row + 1) * FOUND)));
    this.met = [];
    this.given = [];
    return met;
  }
}
