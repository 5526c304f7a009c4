import { placeOf } from '../links/linked';
import { OWN } from '../../arrange/base';
import type { ArrangeContext } from '../../arrange/context';
import type { Arrangement } from '../../arrange/registry';
import type { Finding } from '../../arrange/result';
import { newBoxes } from '../../mesh/boxes';
import { buildBoxTree, eachPair } from '../../mesh/boxTree';
import type { Scene } from '../../scene/schema';
import type { EvaluatedArrangement, SceneResult } from '../scene';
import { takenBy } from '../gathered/takes';
import { standsInOpened } from '../bundles/opened';
import { excuses } from './excuses';
import { groundFindings } from './grounded';
import { overlapsOf, type Overlaps } from './overlaps';
import { standingOf, type Standing } from './standing';
import { slotsThrough, stoodOn } from './through';

/**
 * Holds everything that is shown against everything: arrangements against themselves and each other, and what stands
 * on the ground against it, and what does not against all surfaces. What was held against each other and has not
 * changed is not looked at again.
 *
 * @example
 * const checks = new SceneChecks();
 * const work = checks.look(scene, result, context);
 * let step = work.next();
 * while (!step.done) step = work.next(); // or later
 * step.value.get('run-1'); // its findings
 */
export class SceneChecks {
  private standing = new Map<string, Standing>();
  private pairs = new Map<string, { keys: string; found: Overlaps }>();
  private grounds = new Map<string, { key: string; found: Finding[] }>();
  private walls = new Map<string, { keys: string; slots: number[] }>();

  /** @returns yields between pieces of a few milliseconds; in the end the findings by arrangement */
  *look(scene: Scene, result: SceneResult, context: ArrangeContext): Generator<void, Map<string, Finding[]>> {
    const shown = scene.arrangements.flatMap((a, i) => (a.visible ? [{ a, r: result.arrangements[i] }] : []));
    const here: Shown[] = [];
    for (const { a, r } of shown) {
      const had = this.standing.get(a.id);
      const s = had?.key === r.key ? had : standingOf(r.key, r, context);
      this.standing.set(a.id, s);
      here.push({ a, r, s });
      if (s !== had) yield;
    }
    const found = new Map<string, Finding[]>();
    const say = (node: string, findings: Finding[]) => {
      if (findings.length) found.set(node, [...(found.get(node) ?? []), ...findings]);
    };
    result.links.forEach(({ problem }, i) => {
      const { node, field, expression } = scene.links[i];
      const detail = { field: field.join('.'), expression };
      if (problem) say(node, [{ kind: `link-${problem}`, severity: 'error', node, detail }]);
    });
    for (const { node, field } of scene.timed)
      if (!placeOf(scene, { node, field }))
        say(node, [{ kind: 'timed-no-field', severity: 'error', node, detail: { field: field.join('.') } }]);
    const names = new Set<string>();
    const inOpened = standsInOpened(scene);
    for (const [one, other] of near(here)) {
      if (isMeant(one.a, other.a) || inOpened?.(one.a, other.a)) continue;
      const name = `${one.a.id} ${other.a.id}`;
      const keys = `${one.s.key} ${other.s.key}`;
      names.add(name);
      let have = this.pairs.get(name);
      if (have?.keys !== keys) {
        have = { keys, found: yield* overlapsOf(one.s, other.s, excuses(one, other)) };
        this.pairs.set(name, have);
      }
      tell(have.found, one.a, other.a, say);
    }
    for (const { a, r } of here) {
      let have = this.grounds.get(a.id);
      if (have?.key !== r.key) {
        have = { key: r.key, found: yield* groundFindings(a, r.placements, context) };
        this.grounds.set(a.id, have);
      }
      say(a.id, have.found);
    }
    const walls = yield* this.lookAtSurfaces(scene, result, here, context, say);
    // What is given up before it comes to its end has kept all the same what it had found.
    const ids = new Set(here.map(({ a }) => a.id));
    for (const kept of [this.standing, this.grounds])
      for (const id of kept.keys()) if (!ids.has(id)) kept.delete(id);
    for (const name of this.pairs.keys()) if (!names.has(name)) this.pairs.delete(name);
    for (const name of this.walls.keys()) if (!walls.has(name)) this.walls.delete(name);
    return found;
  }

  /** What goes through surfaces that are shown and that it does not stand on. @returns names of the pairs that there are */
  private *lookAtSurfaces(
    scene: Scene,
    result: SceneResult,
    here: Shown[],
    context: ArrangeContext,
    say: (node: string, f: Finding[]) => void,
  ): Generator<void, Set<string>> {
    const names = new Set<string>();
    for (const { a, s } of here) {
      const on = stoodOn(a, scene);
      for (const [i, surface] of scene.surfaces.entries()) {
        const triMesh = context.surface?.(surface.id);
        if (!triMesh || !surface.visible || on.has(surface.id) || a.meant.includes(surface.id)) continue;
        // What a solid is made of is in it, and what lies under a sheet touches that.
        if (takenBy(surface).includes(a.id)) continue;
        const name = `${a.id} ${surface.id}`;
        const keys = `${s.key} ${result.surfaces[i].key}`;
        names.add(name);
        let have = this.walls.get(name);
        if (have?.keys !== keys) {
          have = { keys, slots: yield* slotsThrough(s, triMesh) };
          this.walls.set(name, have);
        }
        const { slots } = have;
        if (slots.length === 0) continue;
        const detail = { count: slots.length, surface: surface.id };
        say(a.id, [{ kind: 'through', severity: 'warning', node: a.id, slots, detail }]);
      }
    }
    return names;
  }
}

interface Shown {
  a: Arrangement;
  r: EvaluatedArrangement;
  s: Standing;
}

/** Whether two arrangements may reach into each other, as one of them says. */
const isMeant = (one: Arrangement, other: Arrangement): boolean =>
  one === other ? one.meant.includes(OWN) : one.meant.includes(other.id) || other.meant.includes(one.id);

/** Every arrangement with itself, and every two whose boxes come near each other. */
function near(here: Shown[]): [Shown, Shown][] {
  const some = here.filter(({ s }) => s.tree.nodes > 0);
  const boxes = newBoxes(some.length);
  some.forEach(({ s }, k) => {
    const b = s.tree.bounds;
    for (let r = 0; r < 3; r++) {
      boxes.centre[k * 3 + r] = (b[r] + b[3 + r]) / 2;
      boxes.half[k * 3 + r] = (b[3 + r] - b[r]) / 2;
      boxes.axes[k * 9 + r * 4] = 1;
    }
  });
  const out = some.map((s): [Shown, Shown] => [s, s]);
  const tree = buildBoxTree(boxes);
  eachPair(tree, tree, (i, j) => out.push([some[i], some[j]]));
  return out;
}

/** The findings of a pair, for each of the two. */
function tell(
  found: Overlaps,
  one: Arrangement,
  other: Arrangement,
  say: (node: string, f: Finding[]) => void,
): void {
  for (const kind of ['doubled', 'overlap'] as const) {
    const lists = kind === 'doubled' ? found.doubled : found.overlap;
    if (lists[0].length === 0) continue;
    const about = (node: Arrangement, slots: number[], with_: Arrangement, k: 0 | 1): Finding => {
      const amounts = slots.map((slot) => (kind === 'overlap' ? (found.depth[k].get(slot) ?? 0) : 0));
      const depth = amounts.reduce((most, metres) => Math.max(most, metres), 0);
      return {
        kind,
        severity: 'warning',
        node: node.id,
        slots,
        ...(depth > 0 && { amounts }),
        detail: {
          count: slots.length,
          ...(node !== with_ && { other: with_.id }),
          ...(depth > 0 && { depth }),
        },
      };
    };
    say(one.id, [about(one, lists[0], other, 0)]);
    if (one !== other) say(other.id, [about(other, lists[1], one, 1)]);
  }
}
