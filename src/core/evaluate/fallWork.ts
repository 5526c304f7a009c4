import type { ArrangeContext } from '../arrange/context';
import type { Arrangement } from '../arrange/registry';
import { causeOf } from '../arrange/release/causes';
import { Fall } from '../arrange/release/fall';
import { partsOf } from '../arrange/release/hulls';
import { physics, type Physics } from '../arrange/release/physics';
import { released } from '../arrange/release/released';
import { RATE, type Around } from '../arrange/release/spec';
import type { Release } from '../arrange/release/schema';
import { STATE, type ArrangementResult, type Placements } from '../arrange/result';
import { rowFinder } from '../arrange/rowFinder';
import { sayInto } from '../arrange/say';
import type { TriMesh } from '../mesh/triMesh';

/** More props than this are not let go at once: they would take minutes. */
const MOST = 4000;

/** What stands about an arrangement, and itself as it is held, at some moment. */
export interface Standing {
  held: Placements;
  surface(id: string): TriMesh | undefined;
  placed(id: string): Placements | undefined;
}

/** What a fall is worked out from, beside the arrangement. */
export interface FallHost {
  /** Everything that it follows from, as text. */
  key: string;
  context: ArrangeContext;
  /** Ids of the surfaces that things land on unless they name some. */
  grounds: readonly string[];
  /** Ids of all that moves of what is about it; its own too where that moves while it is held. */
  moving: ReadonlySet<string>;
  /** How all stands at a time, seconds. */
  at(time: number): Standing;
  /** Told the share that is done, 0–1. */
  progress?(done: number): void;
  /** Asked between frames: whether there is time to go on. */
  goOn(): boolean;
}

/** The falls of a scene, each kept for as long as nothing changes that it follows from. */
export class FallWork {
  private falls = new Map<string, { key: string; fall: Fall; findings: ArrangementResult['findings'] }>();

  /**
   * An arrangement at a moment of its fall.
   * @returns what it comes to, and the share of the way to that moment that is worked out
   */
  at(
    a: Arrangement,
    release: Release,
    held: ArrangementResult,
    time: number,
    host: FallHost,
  ): { result: ArrangementResult; done: number; frames: number } {
    const seconds = time - release.at;
    const bodies = held.placements.state.reduce((n, s) => n + (s === STATE.placed ? 1 : 0), 0);
    const library = physics();
    if (seconds <= 0 || bodies === 0) return { result: held, done: 1, frames: 0 };
    if (!library) return said(held, a.id, 'release-waits', {});
    if (bodies > MOST) return said(held, a.id, 'release-many', { count: bodies, most: MOST });
    let have = this.falls.get(a.id);
    if (have?.key !== host.key) {
      const findings: ArrangementResult['findings'] = [];
      have?.fall.free();
      const fall = new Fall(specOf(a, release, library, host, findings));
      this.falls.set(a.id, (have = { key: host.key, fall, findings }));
    }
    const { fall } = have;
    const wanted = Math.ceil(seconds * RATE - 1e-6);
    const done = fall.reach(wanted, () => {
      host.progress?.(Math.min(1, fall.frames.length / (wanted + 1)));
      return host.goOn();
    });
    const surfaces = new Map(
      ontoOf(release, host).flatMap((id) => {
        const surface = host.context.surface?.(id);
        return surface ? [[id, surface] as const] : [];
      }),
    );
    const result = released(a.id, held, fall, release, seconds, surfaces);
    return {
      result: { ...result, findings: [...result.findings, ...have.findings] },
      done,
      frames: fall.frames.length,
    };
  }

  forget(stays: (id: string) => boolean): void {
    for (const [id, { fall }] of this.falls) {
      if (stays(id)) continue;
      fall.free();
      this.falls.delete(id);
    }
  }
}

const ontoOf = ({ onto }: Release, { grounds }: FallHost): readonly string[] =>
  onto.length > 0 ? onto : grounds;

function said(
  held: ArrangementResult,
  node: string,
  kind: 'release-waits' | 'release-many',
  detail: Record<string, number>,
): { result: ArrangementResult; done: number; frames: number } {
  const findings = held.findings.slice();
  sayInto(findings, node)(kind, detail);
  return { result: { ...held, findings }, done: 1, frames: 0 };
}

function specOf(
  a: Arrangement,
  release: Release,
  library: Physics,
  host: FallHost,
  findings: ArrangementResult['findings'],
): ConstructorParameters<typeof Fall>[0] {
  const onto = ontoOf(release, host);
  let now: { frame: number; standing: Standing } | null = null;
  const at = (frame: number): Standing => {
    if (now?.frame !== frame) now = { frame, standing: host.at(release.at + frame / RATE) };
    return now.standing;
  };
  const first = at(0).held;
  const around = (frame: number): Around => {
    const standing = at(frame);
    const found = <T>(ids: readonly string[], of: (id: string) => T | undefined) =>
      new Map(
        ids.flatMap((id) => {
          const thing = of(id);
          return thing ? [[id, thing] as const] : [];
        }),
      );
    return {
      surfaces: found(onto, standing.surface),
      placed: found(release.against, standing.placed),
    };
  };
  const meshOf = (prop: string) => {
    const facts = host.context.prop(prop);
    return facts?.state === 'ready' ? facts.mesh?.() : undefined;
  };
  return {
    physics: library,
    release,
    seed: a.seed,
    held: (frame) => inOrderOf(first, at(frame).held),
    around,
    moving: host.moving,
    heldMoves: host.moving.has(a.id),
    parts: (prop) => {
      const mesh = meshOf(prop);
      return mesh && partsOf(library, mesh, release.shapes);
    },
    mesh: meshOf,
    isLetGo: causeOf(
      release,
      host.context,
      () => onto.flatMap((id) => now?.standing.surface(id) ?? []),
      sayInto(findings, a.id),
    ),
  };
}

/** Placements in the order of others: the row of a slot is the same in both. Those that are not there now are as they were. */
function inOrderOf(first: Placements, now: Placements): Placements {
  if (now === first || (now.count === first.count && now.slot.every((s, i) => s === first.slot[i])))
    return now;
  const rowOf = rowFinder(now);
  const rows = Array.from(first.slot, rowOf);
  const pick = <T extends Float64Array>(was: T, is: T, n: number): T => {
    const out = was.slice() as T;
    rows.forEach((row, i) => row >= 0 && out.set(is.subarray(row * n, row * n + n), i * n));
    return out;
  };
  return {
    ...first,
    position: pick(first.position, now.position, 3),
    rotation: pick(first.rotation, now.rotation, 4),
    s: pick(first.s, now.s, 1),
  };
}
