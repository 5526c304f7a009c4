import type { ArrangeContext } from '../arrange/context';
import { movesWhileHeld, type Arrangement } from '../arrange/registry';
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
import type { Scene } from '../scene/schema';
import { moveAtAll } from './around';
import { keyOf } from './fingerprint';
import type { Plan } from './plan';
import { fallen } from './safely';

/** More props than this are not let go at once: they would take minutes. */
const MOST = 4000;

/** What stands about an arrangement, and itself as it is held, at some moment. */
interface Standing {
  held: Placements;
  surface(id: string): TriMesh | undefined;
  placed(id: string): Placements | undefined;
}

/** The scene that falls are in, as it is worked out. */
export interface FallScene {
  plan(): Plan;
  surface(id: string): TriMesh | undefined;
  placed(id: string): Placements | undefined;
  /** All that a node stands on as a scene of its own, the node too, and everything that it follows from, as text. */
  under(id: string): { scene: Scene; key: string };
  /** How such a scene of a node stands at a time, seconds. */
  at(id: string, scene: Scene, time: number): Standing;
  /** Asked between frames: whether there is time to go on. */
  goOn(): boolean;
}

/** What one fall is worked out from, beside the arrangement. */
interface FallHost {
  key: string;
  context: ArrangeContext;
  /** Ids of the surfaces that things land on unless they name some. */
  grounds: readonly string[];
  /** Ids of all that moves of what is about it; its own too where that moves while it is held. */
  moving: ReadonlySet<string>;
  at(time: number): Standing;
  /** Told the share that is done, 0–1. */
  progress?(done: number): void;
}

/** The falls of a scene, each kept for as long as nothing changes that it follows from. */
export class FallWork {
  private falls = new Map<string, { key: string; fall: Fall; findings: ArrangementResult['findings'] }>();

  /** What was placed before it fell, with its key. */
  private held = new Map<string, { key: string; result: ArrangementResult }>();
  /** What has not come to the moment that was asked for, by the arrangement. */
  readonly unfinished = new Map<string, { name: string; done: number }>();

  constructor(private scene: FallScene) {}

  /**
   * An arrangement whose props fall, at a time.
   * @param heldKey of what it would be if nobody had let them go @param work makes that
   * @returns what it comes to, and everything that this follows from, as text
   */
  released(
    a: Arrangement & { release: Release },
    heldKey: string,
    work: () => ArrangementResult,
    context: ArrangeContext,
    time: number,
    progress?: (done: number) => void,
  ): { result: ArrangementResult; key: string } {
    let held = this.held.get(a.id);
    if (held?.key !== heldKey) this.held.set(a.id, (held = { key: heldKey, result: work() }));
    const host = this.hostOf(a, held, context, progress);
    const { result, done, frames } = fallen(a.id, held.result, () => this.at(a, held.result, time, host));
    if (done < 1) this.unfinished.set(a.id, { name: a.name, done });
    else this.unfinished.delete(a.id);
    return { result, key: keyOf([host.key, heldKey, 'falls', time, done < 1 && frames, !!physics()]) };
  }

  /** What falls no more is given back. */
  drop(id: string): void {
    if (this.held.delete(id)) this.keepOnly((other) => other !== id);
  }

  keepOnly(stays: (id: string) => boolean): void {
    for (const [id, { fall }] of this.falls) {
      if (stays(id)) continue;
      fall.free();
      this.falls.delete(id);
    }
    for (const kept of [this.held, this.unfinished])
      for (const id of kept.keys()) if (!stays(id)) kept.delete(id);
  }

  private hostOf(
    a: Arrangement,
    held: { key: string; result: ArrangementResult },
    context: ArrangeContext,
    progress: ((done: number) => void) | undefined,
  ): FallHost {
    const { scene } = this;
    const plan = scene.plan();
    const { dependsOn } = plan.order[plan.place.get(a.id)!];
    const moving = new Set(dependsOn.filter((id) => moveAtAll([id], plan)));
    if (moving.size > 0 || movesWhileHeld(a) || plan.timed.has(a.id)) moving.add(a.id);
    const common = { context, grounds: plan.grounds, moving, progress };
    if (moving.size === 0) {
      const { surface, placed } = scene;
      const standing: Standing = { held: held.result.placements, surface, placed };
      return { ...common, key: held.key, at: () => standing };
    }
    // It is held while nobody lets it go: that is another scene, looked at from the beginning on.
    const { scene: under, key } = scene.under(a.id);
    const arrangements = under.arrangements.map((x) => (x.id === a.id ? { ...x, release: undefined } : x));
    const before = { ...under, arrangements };
    return { ...common, key, at: (time) => scene.at(a.id, before, time) };
  }

  /**
   * An arrangement at a moment of its fall.
   * @returns what it comes to, and the share of the way to that moment that is worked out
   */
  private at(
    a: Arrangement & { release: Release },
    held: ArrangementResult,
    time: number,
    host: FallHost,
  ): { result: ArrangementResult; done: number; frames: number } {
    const { release } = a;
    const seconds = time - release.at;
    const library = physics();
    if (seconds <= 0) return { result: held, done: 1, frames: 0 };
    if (!library) return said(held, a.id, 'release-waits', {});
    let have = this.falls.get(a.id);
    if (have?.key !== host.key) {
      // Those that are there as they are let go: what moves may be gone by now.
      const { state } = host.at(release.at).held;
      const bodies = state.reduce((n, s) => n + (s === STATE.placed ? 1 : 0), 0);
      if (bodies > MOST) return said(held, a.id, 'release-many', { count: bodies, most: MOST });
      const findings: ArrangementResult['findings'] = [];
      have?.fall.free();
      const fall = new Fall(specOf(a, release, library, host, findings));
      this.falls.set(a.id, (have = { key: host.key, fall, findings }));
    }
    const { fall } = have;
    const wanted = Math.ceil(seconds * RATE - 1e-6);
    const done = fall.reach(wanted, () => {
      host.progress?.(Math.min(1, fall.frames.length / (wanted + 1)));
      return this.scene.goOn();
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
  const isThere: [string[], (id: string) => unknown][] = [
    [release.onto, (id) => host.context.surface?.(id)],
    [release.against, (id) => host.context.arrangement?.(id)],
    [release.who === 'region' ? release.region : [], (id) => host.context.path(id)],
  ];
  const count = isThere.reduce((n, [ids, find]) => n + ids.filter((id) => !find(id)).length, 0);
  if (count > 0) sayInto(findings, a.id)('release-missing', { count });
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
