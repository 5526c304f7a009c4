import { needsOf } from '../../arrange/registry';
import type { Arrangement } from '../../arrange/registry';
import type { ArrangeContext, PropFacts } from '../../arrange/context';
import type { Inside } from '../../arrange/inside';
import { STATE, type ArrangementResult, type Placements } from '../../arrange/result';
import { slotName } from '../../arrange/slotId';
import { channel, randomBase, randomOf } from '../../math/random';
import { propBounds, propMatrix, type Bounds, type Mesh } from '../../mesh/mesh';
import { propShape } from '../../mesh/contact/support';
import { ownSpace } from '../../mesh/slice';
import type { Bundle } from '../../scene/bundleSchema';
import type { Prop } from '../../mesh/propSchema';
import type { Scene } from '../../scene/schema';
import { placedBy } from '../safely';
import { keyOf } from '../fingerprint';
import { boundsOfContents } from './bounds';
import type { Contents } from './contents';
import { Expanding } from './expand';
import { corrected, handsWithin, stepKey, type HandWithin } from './handWithin';
import type { PropLooks } from '../placedMeshes';
import { mergedMesh } from './merged';
import { intoBundle, snapPointsPlaced } from './snapPoints';

const COPY = channel('bundle.copy');

/** What bundles are worked out from. */
export interface BundleHost {
  /** What an arrangement came to last, and its key. */
  arranged(id: string): (Pick<ArrangementResult, 'placements' | 'lines'> & { key: string }) | undefined;
  /** Facts and key of props that are no bundles. */
  plain(id: string): { facts: PropFacts; key: string } | undefined;
  mesh(prop: Prop): Mesh | undefined;
  context(): ArrangeContext;
  /** Nodes that can be worked out, those first that others stand on: none that waits for a ring. */
  order(): readonly string[];
}

interface Known {
  key: string;
  facts: PropFacts;
  /** From the mesh's own space, metres from the bundle's origin, to the prop's. */
  matrix: Float64Array;
}

/** The lines of what has placed nothing along them. */
const bareLines = ({ placements, lines }: Pick<ArrangementResult, 'placements' | 'lines'>) =>
  placements.count === 0 ? lines : undefined;

/** A bundle within itself goes no deeper: the graph has told the ring before. */
const DEEPEST = 32;

/**
 * The bundles of a scene: what is known of them as props, and what each of their copies holds. A copy draws its random
 * values by a seed that is a hash of the slots of all the copies that it is in.
 */
export class Bundles {
  private bundles = new Map<string, Bundle>();
  private props = new Map<string, Prop>();
  private arrangements = new Map<string, Arrangement>();
  private known = new Map<string, Known>();
  private meshes = new Map<string, { key: string; mesh: Mesh | undefined }>();
  private copies = new Map<string, { key: string; by: Map<number, Contents> }>();
  /** Members of bundles, until the next scene is taken. */
  private listed = new Map<string, { order: readonly string[]; members: Arrangement[] }>();
  /** Bounds of bundles in their own space, by the prop; another object where any has changed. */
  bounds: Record<string, Bounds> = {};

  constructor(private host: BundleHost) {}

  take({ bundles, props, arrangements }: Scene): void {
    this.listed.clear();
    this.bundles = new Map(bundles.map((b) => [b.id, b]));
    this.props = new Map(props.map((p) => [p.id, p]));
    this.arrangements = new Map(arrangements.map((a) => [a.id, a]));
    for (const id of this.known.keys())
      if (!this.of(id)) {
        this.known.delete(id);
        this.copies.delete(id);
        const { [id]: _, ...left } = this.bounds;
        this.bounds = left;
      }
  }

  /** The bundle that a prop is; undefined for any other. */
  of(prop: string): Bundle | undefined {
    const ref = this.props.get(prop)?.mesh;
    return ref?.source === 'bundle' ? this.bundles.get(ref.bundle) : undefined;
  }

  isBundle = (prop: string): boolean => this.props.get(prop)?.mesh.source === 'bundle';

  /** Facts of any prop, with their key. */
  facts(prop: string, deep = 0): { facts: PropFacts; key: string } | undefined {
    return this.isBundle(prop) ? this.knownOf(prop, deep) : this.host.plain(prop);
  }

  private knownOf(id: string, deep: number): Known {
    const prop = this.props.get(id)!;
    const bundle = this.of(id);
    const members = bundle ? this.membersOf(bundle) : [];
    const stands = members.map((m) => [m.id, this.host.arranged(m.id)?.key]);
    const { unitScale, foot, front, up, snapPoints } = prop;
    const key = keyOf([
      'bundle',
      bundle?.origin,
      bundle?.alike,
      stands,
      unitScale,
      foot,
      front,
      up,
      snapPoints,
    ]);
    const have = this.known.get(id);
    if (have?.key === key) return have;
    const contents = this.base(members, deep);
    const box =
      deep > DEEPEST ? null : boundsOfContents(contents, (p) => this.boundsOf(p, deep + 1), bundle?.origin);
    const made: Known = box
      ? { key, matrix: propMatrix(prop, box), facts: this.ready(prop, box) }
      : { key, matrix: propMatrix(prop, NOTHING), facts: { state: bundle ? 'mesh-empty' : 'mesh-missing' } };
    this.known.set(id, made);
    if (box) this.bounds = { ...this.bounds, [id]: propBounds(prop, box) };
    return made;
  }

  private ready(prop: Prop, box: Bounds): PropFacts {
    const mesh = () => this.mesh(prop.id);
    const whole = propMatrix(prop, box);
    const empty = { positions: new Float32Array(0), indices: new Uint32Array(0) };
    return {
      state: 'ready',
      bounds: propBounds(prop, box),
      snapPoints: prop.snapPoints,
      shape: () => {
        const { positions, indices } = mesh() ?? empty;
        return propShape(positions, whole, indices);
      },
      mesh: () => ownSpace(mesh()!, whole),
    };
  }

  private boundsOf(prop: string, deep: number): Bounds | undefined {
    const found = this.facts(prop, deep)?.facts;
    return found?.state === 'ready' ? found.bounds : undefined;
  }

  /** The box about what arrangements have placed; null where that is nothing. @param slots only those; absent: all */
  boxOf(ids: readonly string[], slots?: readonly number[]): Bounds | null {
    const { members } = this.base(
      ids.flatMap((id) => this.arrangements.get(id) ?? []),
      0,
    );
    const some = slots && new Set(slots);
    const placed = members.map(({ placements, ...m }) => {
      const state = some
        ? placements.state.map((s, i) => (some.has(placements.slot[i]) ? s : STATE.hand))
        : placements.state;
      return { ...m, placements: { ...placements, state } };
    });
    return boundsOfContents({ members: placed }, (p) => this.boundsOf(p, 0));
  }

  /** The snap points of what arrangements have placed, in the scene. @param slots only those; absent: all */
  snapPointsOf(ids: readonly string[], slots?: readonly number[]): Prop['snapPoints'] {
    const placed = ids.flatMap((id) => this.host.arranged(id) ?? []);
    return snapPointsPlaced(placed, (p) => this.facts(p)?.facts, slots);
  }

  /** The snap points of what a bundle holds, in the own space of its prop. */
  snapPointsIn(prop: string): Prop['snapPoints'] {
    const bundle = this.of(prop);
    if (!bundle) return [];
    const ids = this.membersOf(bundle).map((m) => m.id);
    return intoBundle(this.snapPointsOf(ids), bundle.origin, this.matrixOf(prop));
  }

  /** What a prop that is a bundle holds, as one mesh; undefined where that is nothing. Every copy is as the first. */
  mesh(prop: string): Mesh | undefined {
    const bundle = this.of(prop);
    if (!bundle) return undefined;
    const key = `${this.knownOf(prop, 0).key} ${this.wornIn(bundle)}`;
    const have = this.meshes.get(prop);
    if (have?.key === key) return have.mesh;
    const mesh = mergedMesh(this.base(this.membersOf(bundle), 0), bundle.origin, this.looks);
    this.meshes.set(prop, { key, mesh });
    return mesh;
  }

  /** The meshes of props, bundles too, and what they wear. */
  readonly looks: PropLooks = {
    prop: (id) => {
      const prop = this.props.get(id);
      const mesh = prop && (this.isBundle(id) ? this.mesh(id) : this.host.mesh(prop));
      return prop && mesh ? { prop, mesh } : undefined;
    },
    wears: ({ material }, [id]) => this.arrangements.get(id)?.material ?? material ?? undefined,
  };

  /** What all that is in a bundle wears, as text: each thing in it once, however often it is there. */
  private wornIn = (bundle: Bundle): string => this.worn(this.membersOf(bundle));

  /** What all wears that an arrangement has placed, as text. */
  wornBy(arrangement: string): string {
    const found = this.arrangements.get(arrangement);
    return found ? this.worn([found]) : '';
  }

  private worn(arrangements: readonly Arrangement[]): string {
    const said = new Map<string, string>();
    const look = (some: readonly Arrangement[]): void => {
      for (const m of some) {
        if (said.has(m.id)) continue;
        said.set(m.id, m.material ?? '');
        for (const id of needsOf(m).props) {
          said.set(id, this.props.get(id)?.material ?? '');
          const nested = this.of(id);
          if (nested) look(this.membersOf(nested));
        }
      }
    };
    look(arrangements);
    return JSON.stringify([...said]);
  }

  /** The mesh of a bundle by its own id. */
  meshOf(bundle: string): Mesh | undefined {
    for (const [id, { mesh }] of this.props)
      if (mesh.source === 'bundle' && mesh.bundle === bundle) return this.mesh(id);
    return undefined;
  }

  /** From the mesh of a bundle to the own space of its prop. */
  matrixOf = (prop: string): Float64Array => this.knownOf(prop, 0).matrix;

  /** The arrangements that are in a bundle, those first that others stand on. */
  private membersOf(bundle: Bundle): Arrangement[] {
    const order = this.host.order();
    let listed = this.listed.get(bundle.id);
    if (listed?.order !== order) {
      const ids = new Set(bundle.members.flatMap((m) => (m.shown ? [m.id] : [])));
      const members = order.flatMap((id) => (ids.has(id) ? (this.arrangements.get(id) ?? []) : []));
      this.listed.set(bundle.id, (listed = { order, members }));
    }
    return listed.members;
  }

  /** What it holds as it was made: every arrangement by its own seed. */
  private base(members: readonly Arrangement[], deep: number): Contents {
    return {
      members: members.flatMap((m) => {
        const arranged = this.host.arranged(m.id);
        const nested = (_: number, prop: string) => {
          const bundle = this.of(prop);
          return bundle && deep < DEEPEST ? this.base(this.membersOf(bundle), deep + 1) : { members: [] };
        };
        if (!arranged) return [];
        return [{ id: m.id, placements: arranged.placements, lines: bareLines(arranged), contents: nested }];
      }),
    };
  }

  /**
   * What the copy in a slot holds. @param chain the hash of the copies that it is in; null: those are as they were made
   * @param hand what a hand corrects in it
   */
  private copy(prop: string, slot: number, chain: number | null, hand?: HandWithin): Contents {
    const bundle = this.of(prop);
    if (!bundle) return { members: [] };
    if (bundle.alike || chain === null)
      return hand ? this.drawn(bundle, null, hand) : this.base(this.membersOf(bundle), 0);
    const own = Math.floor(randomOf(randomBase(chain, COPY), slot) * 4294967296) | 0;
    if (hand) return this.drawn(bundle, own, hand);
    const { key } = this.knownOf(prop, 0);
    let kept = this.copies.get(prop);
    if (kept?.key !== key) this.copies.set(prop, (kept = { key, by: new Map() }));
    let made = kept.by.get(own);
    if (!made) kept.by.set(own, (made = this.drawn(bundle, own)));
    return made;
  }

  private drawn(bundle: Bundle, chain: number | null, hand?: HandWithin): Contents {
    const context = this.host.context();
    const own = new Map<string, Placements>();
    const within: ArrangeContext = {
      ...context,
      arrangement: (id) => own.get(id) ?? context.arrangement?.(id),
      fine: undefined,
    };
    return {
      members: this.membersOf(bundle).map((m) => {
        const seed = chain === null ? m.seed : m.seed ^ chain;
        const result = placedBy(corrected({ ...m, seed }, hand), within);
        const { placements } = result;
        own.set(m.id, placements);
        return {
          id: m.id,
          placements,
          lines: bareLines(result),
          contents: (slot, prop) =>
            this.copy(prop, slot, chain, hand?.deeper.get(stepKey(m.id, slotName(slot)))),
        };
      }),
    };
  }

  /** What all copies of bundles hold that an arrangement has placed; undefined where it has placed none. */
  inside(a: Arrangement, placements: Placements): Inside | undefined {
    if (!needsOf(a).props.some(this.isBundle)) return undefined;
    const bundles = placements.props.map(this.isBundle);
    const hands = handsWithin(a.within);
    const work = new Expanding((prop) => this.matrixOf(prop), this.isBundle);
    for (let row = 0; row < placements.count; row++) {
      const prop = placements.prop[row];
      if (prop < 0 || !bundles[prop] || placements.state[row] !== STATE.placed) continue;
      const id = placements.props[prop];
      work.copy(
        placements,
        row,
        id,
        this.of(id)?.origin,
        (origin) => this.of(origin)?.origin,
        this.copy(id, placements.slot[row], a.seed, hands?.get(slotName(placements.slot[row]))),
      );
    }
    return work.count > 0 ? work.done() : undefined;
  }
}

const NOTHING: Bounds = { min: [0, 0, 0], max: [0, 0, 0] };
