import { kindOf, movesInTime, movesWhileHeld, needsOf } from '../arrange/registry';
import type { Needs } from '../arrange/kind';
import type { Fineness } from '../arrange/fineness';
import type { ArrangeContext } from '../arrange/context';
import type { SurfaceStates } from '../arrange/context';
import type { CompileResult, Stroke } from '../curve/compile';
import type { GreyPicture } from '../mesh/make/picture';
import type { Motion } from '../mesh/motion';
import type { MaskField } from '../mesh/mask/field';
import { maskNeeds } from '../mesh/mask/needs';
import type { MaskGround } from '../mesh/mask/places';
import type { Mask } from '../mesh/mask/schema';
import type { RestJob } from '../mesh/contact/rests';
import type { Bounds, Mesh } from '../mesh/mesh';
import { placeMatrix } from '../mesh/surface';
import type { TriMesh } from '../mesh/triMesh';
import type { Arrangement } from '../arrange/registry';
import { isOwnMesh, type MeshRef } from '../mesh/meshRef';
import { GatherWork } from './gathered/gathered';
import { hasPoints, isLaid, type Path, type PointsPath } from '../curve/schema';
import type { Scene } from '../scene/schema';
import type { Surface } from '../mesh/surfaceSchema';
import { moveAtAll, sceneUnder } from './around';
import { FallWork } from './fallWork';
import { Bundles } from './bundles/bundles';
import { groundsFor, pathNeeds } from './compileSource';
import type { PathContext } from './pathContext';
import { keyOf } from './fingerprint';
import { Links } from './links/links';
import { isReadWithin } from './simulated/simulation';
import { InTime } from './timed/timed';
import type { LinkResult } from './links/linked';
import { hangMoves } from './hung';
import { tiedPlace } from '../arrange/tiedPlace';
import { maskPictures, workedMask, type MaskResult } from './masks';
import { PropWork, refKey } from './props';
import { drawnPath, type PathResult } from './drawnPath';
import { layStrokes, type LaidStrokes } from '../mesh/lines/pinned';
import { groundsOf, movesByItself, planOf, type Plan, type PlanNode } from './plan';
import {
  surfaceColliders,
  surfaceLines,
  surfaceMasks,
  surfaceMoves,
  surfacePaths,
  SurfaceWork,
  type SurfaceContext,
  type SurfaceResult,
} from './surfaces';
import { compiled, worked } from './safely';
import type { Around } from './surfaceRest';
import { Lookups } from './lookups';
import { SettingsKeys } from './settingsKeys';
import type { ArrangementStamps } from './stamps/laidRows';
import { withStamps } from './stamps/withStamps';
import { allSitting, sitOn, sittingPaths } from './sitting';
import type { ArrangementResult, Placements } from '../arrange/result';

export type { DrawnStroke, PathResult } from './drawnPath';
export type { MaskResult } from './masks';
export type { SurfaceResult } from './surfaces';

/** Where meshes come from; undefined where one is not at hand. */
export interface Assets {
  mesh(ref: MeshRef): Mesh | undefined;
  picture?(hash: string): GreyPicture | undefined;
  motion?(ref: MeshRef): Motion | undefined;
  /** The bytes of a file that was brought in. */
  bytes?(hash: string): Uint8Array | undefined;
  /** Finds how many things come to rest, with others' help; absent: it is done here alone. */
  restAll?: ((job: RestJob) => void) | undefined;
}

export interface EvaluatedArrangement extends ArrangementResult {
  id: string;
  /** Changes whenever anything that the result depends on does. */
  key: string;
  /** Key of the result that `rows` tells the difference from. */
  since?: string;
  /** Stamps among what it has placed, as they lie in the textures of surfaces. */
  stamps?: ArrangementStamps | undefined;
}

export interface SceneResult {
  surfaces: SurfaceResult[];
  paths: PathResult[];
  arrangements: EvaluatedArrangement[];
  masks: MaskResult[];
  /** What became of its links; the same list as before where none is another. */
  links: readonly LinkResult[];
  /** Bounds in each prop's own space, metres; absent where the mesh is not at hand. */
  propBounds: Record<string, Bounds>;
  /** What is not worked out to its end yet: it goes on with the next evaluation. */
  unfinished?: { name: string; done: number };
}

/** Where the results of each sort of node are. */
const LIST_OF = { surface: 'surfaces', path: 'paths', arrangement: 'arrangements', mask: 'masks' } as const;
type ResultOf<K extends keyof typeof LIST_OF> = SceneResult[(typeof LIST_OF)[K]][number];

/**
 * Evaluates scenes and remembers every node by the content that it depends on, so that a change works out only
 * what follows from it. One evaluator keeps the nodes of its last scene. Deterministic: the same scene, assets and
 * time give the same numbers, bit for bit, whatever was evaluated before.
 */
export class Evaluator {
  private compiled = new Map<string, { key: string; result: CompileResult; drawn: PathResult }>();
  private laid = new Map<string, { key: string; strokes: LaidStrokes }>();
  private arranged = new Map<string, EvaluatedArrangement>();
  private masks = new Map<string, { field: MaskField; result: MaskResult }>();
  private triMeshes = new Map<string, SurfaceWork>();
  /** What each node was worked out from, as the objects and keys themselves: the same ones need no new key. */
  private inputs = new Map<string, unknown[]>();
  /** What cloth is surrounded by, at the times at which it is simulated; by the surface that is cloth. */
  private others = new Map<string, Evaluator>();
  private settings = new SettingsKeys();
  private scene: Scene | null = null;
  private plan: Plan | null = null;
  private result: SceneResult | null = null;
  /** Of the last evaluation that came to its end. */
  private done: { time: number; fine: boolean } | null = null;
  /** Places in the plan of the nodes that move. */
  private moving: number[] = [];
  private props = new PropWork();
  private links = new Links();
  private inTime = new InTime();
  /** The scene as it is in the document, whatever its numbers are at the time. */
  private source: Scene | null = null;
  /** Keys of settings as they are in the document. */
  private sourceKeys = new SettingsKeys();
  /** Its bundles: what they are as props, and what their copies hold. */
  readonly bundles = new Bundles({
    arranged: (id) => this.arranged.get(id),
    plain: (id) => this.props.get(id),
    mesh: (prop) => this.assets.mesh(prop.mesh),
    context: () => this.contextAt(this.time),
    order: () => this.plan?.sound ?? [],
  });
  /** Seconds of the evaluation that is under way. */
  private time = 0;
  /** The lines that arrangements hung last. */
  private hung = new Map<string, Stroke[]>();
  private gathering = new GatherWork({
    scene: () => this.scene!,
    surface: (id) => this.triMeshes.get(id)?.result ?? undefined,
    arranged: (id) => this.arranged.get(id),
    prop: (id) => this.bundles.looks.prop(id),
    wornBy: (id) => this.bundles.wornBy(id),
    keyOf: (id) => this.keyOf(id),
    strokes: (id) => {
      const compiled = this.compiled.get(id)?.result;
      return compiled?.ok ? compiled.strokes : undefined;
    },
    goOn: () => this.goOn(),
  });
  private falls = new FallWork({
    plan: () => this.plan!,
    surface: (id) => this.triMeshes.get(id)?.triMesh,
    placed: (id) => this.arranged.get(id)?.placements,
    under: (id) => {
      const scene = sceneUnder([id], this.source!, this.plan!);
      return { scene, key: this.keyUnder(scene) };
    },
    at: (id, scene, time) => {
      const other = this.otherFor(id);
      other.evaluate(scene, undefined, time);
      return {
        held: other.arranged.get(id)!.placements,
        surface: (of) => other.triMeshes.get(of)?.triMesh,
        placed: (of) => other.arranged.get(of)?.placements,
      };
    },
    goOn: () => this.goOn(),
  });
  /** What may be asked of the last scene, beside its results. */
  readonly lookups = new Lookups({
    scene: () => this.scene,
    plan: () => this.plan,
    surface: (id) => this.triMeshes.get(id),
    mask: (id) => this.masks.get(id)?.field,
    ground: (id) => this.groundOf(id),
    parts: (id) => this.gathering.parts(id),
    arranged: (id) => this.arranged.get(id),
  });
  /**
   * Asked between the frames of a fall: once it says no, the rest is gone on with by the next evaluation, and the scene
   * is shown meanwhile.
   */
  goOn: () => boolean = () => true;

  constructor(private assets: Assets) {}

  /**
   * @param progress called before each node with the share done, 0–1, and the node's name
   * @param time seconds @param fine where the scene is worked out at several times for one animation
   */
  evaluate(
    scene: Scene,
    progress?: (done: number, name: string) => void,
    time = 0,
    fine?: Fineness,
  ): SceneResult {
    this.source = scene;
    const work = (given: Scene) => this.once(given, progress, time, fine);
    const result = this.links.through(this.inTime.at(scene, time), work, () => this.plan!);
    return (this.result =
      result.links === this.links.results ? result : { ...result, links: this.links.results });
  }

  private once(
    scene: Scene,
    progress: ((done: number, name: string) => void) | undefined,
    time: number,
    fine: Fineness | undefined,
  ): SceneResult {
    const plan = planOf(scene, this.plan);
    this.scene = scene;
    this.time = time;
    this.bundles.take(scene);
    const others = this.props.take(
      scene.props,
      (ref) => (ref.source === 'bundle' ? undefined : this.assets.mesh(ref)),
      (ref) => this.assets.motion?.(ref),
    );
    const due = this.due(plan, time, others || fine !== undefined);
    // Lists are gone on with only where they are those of the plan before.
    const last = plan.fresh && this.done ? this.result : null;
    // Until all is worked out nothing is known to be the same.
    this.plan = plan;
    this.done = null;
    const paths = this.pathContext(time);
    const context = { ...this.contextAt(time), fine };
    const worked: PlanNode[] = [];
    for (let i = 0; i < due.length; i++) {
      if (!due[i]) continue;
      const { id, kind, node } = plan.order[i];
      worked.push(plan.order[i]);
      const ring = plan.rings.get(id);
      const said = progress && ((done: number) => progress((i + done) / plan.order.length, node.name));
      const before = this.keyOf(id);
      if (kind === 'path') this.path(node, paths, ring, said);
      else if (kind === 'surface') this.surface(node, time, ring, said);
      else if (kind === 'mask') this.mask(node, context, ring);
      else this.arrangement(node, context, time, ring, said);
      if (this.keyOf(id) !== before) for (const follower of plan.followers[i]) due[follower] = 1;
    }
    this.done = { time, fine: fine !== undefined };
    this.result = {
      surfaces: this.listed('surface', scene.surfaces, last, worked),
      paths: this.listed('path', scene.paths, last, worked),
      arrangements: this.listed('arrangement', scene.arrangements, last, worked),
      masks: this.listed('mask', scene.masks, last, worked),
      links: this.links.results,
      propBounds: this.boundsOfProps(),
      unfinished: [...this.falls.unfinished.values(), ...this.gathering.unfinished.values()][0],
    };
    return this.result;
  }

  private boundsKept: { of: readonly object[]; bounds: Record<string, Bounds> } | null = null;

  /** Bounds of all props, bundles too; the same object as before where none is another. */
  private boundsOfProps(): Record<string, Bounds> {
    for (const { id, mesh } of this.scene?.props ?? []) if (mesh.source === 'bundle') this.bundles.facts(id);
    const of = [this.props.bounds, this.bundles.bounds];
    const have = this.boundsKept;
    if (have && have.of.every((o, i) => o === of[i])) return have.bounds;
    const bounds = Object.assign({}, ...of) as Record<string, Bounds>;
    this.boundsKept = { of, bounds };
    return bounds;
  }

  /** Results in the order of the scene's nodes; the same list as last where none of them was worked out. */
  private listed<K extends PlanNode['kind']>(
    kind: K,
    nodes: readonly { id: string }[],
    last: SceneResult | null,
    worked: PlanNode[],
  ): ResultOf<K>[] {
    const of = (id: string) => this.resultOf(kind, id);
    if (!last) return nodes.map((node) => of(node.id));
    const before = last[LIST_OF[kind]] as ResultOf<K>[];
    const here = worked.filter((node) => node.kind === kind);
    if (here.length === 0) return before;
    const list = before.slice();
    for (const { id, node } of here) list[nodes.indexOf(node)] = of(id);
    return list;
  }

  private resultOf<K extends PlanNode['kind']>(kind: K, id: string): ResultOf<K> {
    const found =
      kind === 'surface'
        ? this.triMeshes.get(id)!.result
        : kind === 'path'
          ? this.compiled.get(id)!.drawn
          : kind === 'mask'
            ? this.masks.get(id)!.result
            : this.arranged.get(id);
    return found as ResultOf<K>;
  }

  private keyOf = (id: string): string | undefined =>
    this.arranged.get(id)?.key ??
    this.compiled.get(id)?.key ??
    this.masks.get(id)?.result.key ??
    this.triMeshes.get(id)?.result?.key;

  /**
   * Which nodes may come out as others than they did last: those that are others, those that move, those whose mesh
   * or picture came meanwhile. What stands on them follows once their results are seen to be new.
   */
  private due(plan: Plan, time: number, all: boolean): Uint8Array {
    const due = new Uint8Array(plan.order.length);
    const { done } = this;
    // One that came to no end may have taken note of what it never worked out.
    if (!done) this.inputs.clear();
    if (all || !done || done.fine || !plan.fresh) {
      if (!plan.fresh) this.forget(plan);
      this.moving = plan.order.flatMap((n, i) => (movesByItself(n) ? [i] : []));
      return due.fill(1);
    }
    for (const i of plan.fresh) {
      due[i] = 1;
      if (movesByItself(plan.order[i]) && !this.moving.includes(i)) this.moving.push(i);
    }
    if (time !== done.time) for (const i of this.moving) due[i] = 1;
    for (const { unfinished } of [this.falls, this.gathering])
      for (const id of unfinished.keys()) due[plan.place.get(id)!] = 1;
    for (const s of plan.surfaces)
      if (this.assetOf(s) !== this.inputs.get(s.id)?.[1]) due[plan.place.get(s.id)!] = 1;
    for (const m of plan.masks)
      if (this.picturesOf(m) !== this.inputs.get(m.id)?.[1]) due[plan.place.get(m.id)!] = 1;
    return due;
  }

  /** Whether a node stands on just what it was worked out from; what it stands on now is remembered. */
  private same(id: string, inputs: unknown[]): boolean {
    const before = this.inputs.get(id);
    if (before?.length === inputs.length && inputs.every((v, i) => v === before[i])) return true;
    this.inputs.set(id, inputs);
    return false;
  }

  /** The compiled path of the last scene, for measuring and editing. */
  compiledPath(id: string): CompileResult | undefined {
    return this.compiled.get(id)?.result;
  }

  /** What arrangements of the last scene may ask for. */
  contextAt(time: number): ArrangeContext {
    return {
      path: (id) => this.compiled.get(id)?.result,
      prop: (id) => this.bundles.facts(id)?.facts,
      arrangement: (id) => this.arranged.get(id)?.placements,
      parts: (id) => this.arranged.get(id)?.parts,
      unordered: (id) => this.arranged.get(id)?.unordered ?? false,
      sitting: (id) => this.sittingOn(id, time),
      surface: (id) => this.triMeshes.get(id)?.triMesh,
      surfaceStates: (id) => this.surfaceStates(id),
      grounds: () => this.plan?.grounds ?? [],
      mask: (id) => this.masks.get(id)?.field,
      maskGrounds: (id) => this.maskGrounds(id),
      time,
      restAll: this.assets.restAll,
    };
  }

  private sittingOn(id: string, time: number): ((leaders: Placements) => Placements[]) | null {
    const sitting = this.plan?.sitting;
    return sitting?.has(id)
      ? (leaders) => sitOn(id, leaders, sitting, { ...this.contextAt(time), sitting: undefined })
      : null;
  }

  private surfaceStates(id: string): SurfaceStates | undefined {
    const work = this.triMeshes.get(id);
    const rest = work?.restTriMesh();
    const surface = this.scene?.surfaces.find((s) => s.id === id);
    if (!rest || !work?.triMesh || !surface) return undefined;
    return {
      now: work.triMesh,
      rest: rest.triMesh,
      size: surface.size,
      place: placeMatrix(surface),
    };
  }

  /** What paths of the last scene may ask for. */
  pathContext(time = this.done?.time ?? 0): PathContext {
    const arrange = this.contextAt(time);
    return {
      time,
      tie: (tie, last) => tiedPlace(tie, last, arrange),
      hung: (id) => {
        const hanging = this.scene?.arrangements.find((a) => a.id === id);
        const strokes = hanging && kindOf(hanging).hung?.(hanging, arrange, this.hung.get(id));
        if (strokes) this.hung.set(id, strokes);
        return strokes;
      },
      path: (id) => this.compiled.get(id)?.result,
      surface: (id) => {
        const result = this.triMeshes.get(id)?.result;
        if (!result?.mesh) return undefined;
        const { mesh, skin = mesh, matrix, undeformed } = result;
        return { mesh: skin, matrix, undeformed };
      },
      ground: (id) => {
        const work = this.triMeshes.get(id);
        const rest = work?.restTriMesh();
        const surface = this.scene?.surfaces.find((s) => s.id === id);
        if (!rest || !work?.triMesh || !surface) return undefined;
        return { now: work.triMesh, place: placeMatrix(surface), laid: (path) => this.laidOn(path, rest) };
      },
      grounds: (id) => (this.scene ? groundsFor(id, this.scene) : []),
      lines: (id, line) => {
        const laying = this.layingLines(id);
        return laying && kindOf(laying).lines?.(laying, this.contextAt(0), line);
      },
    };
  }

  /** An arrangement of the last scene that lays lines. */
  private layingLines(id: string): Arrangement | undefined {
    const found = this.scene?.arrangements.find((a) => a.id === id);
    return found && kindOf(found).lines ? found : undefined;
  }

  /** A path's strokes laid onto a surface at rest: moving the surface does not lay them anew. */
  private laidOn(path: PointsPath, { key, triMesh }: { key: string; triMesh: TriMesh }): LaidStrokes {
    const whole = keyOf([key, path.source, path.closed]);
    let have = this.laid.get(path.id);
    if (have?.key !== whole)
      this.laid.set(path.id, (have = { key: whole, strokes: layStrokes(path, triMesh) }));
    return have.strokes;
  }

  private surface(
    surface: Surface,
    time: number,
    ring: string[] | undefined,
    progress: ((done: number) => void) | undefined,
  ): void {
    const needs = surfacePaths(surface).map((id) => this.compiled.get(id)?.key ?? null);
    // What moves about its cloth is the same at every time: all of its times are known.
    const moving = this.around(surface)?.key;
    const about = moving
      ? [moving]
      : [
          ...surfaceLines(surface).map((id) => this.compiled.get(id)?.key ?? null),
          ...surfaceColliders(surface).map((id) => this.still(id)?.key ?? null),
        ];
    const at = surfaceMoves(surface) ? time : 0;
    const asset = this.assetOf(surface);
    // The second is asked for by itself: see `due`.
    const masks = surfaceMasks(surface).map((id) => this.masks.get(id)?.result.key ?? null);
    const within =
      this.scene?.timed.filter((t) => t.node === surface.id && isReadWithin(surface, t.field)) ?? [];
    const gathered = ring ? undefined : this.gathering.gather(surface, asset, progress);
    const of = gathered ? [gathered.key, gathered.findings] : [];
    const stands = [...needs, ...about, ...masks, ...within, ...of];
    if (this.same(surface.id, [surface, asset, at, ring, ...stands])) return;
    const made = surface.mesh.source === 'made' ? asset : !!asset;
    const restKey = keyOf([gathered ? lyingOf(surface) : bareOf(surface), gathered?.key ?? made, needs]);
    const key = keyOf([restKey, standing(surface), about, masks, within, at, ring, gathered?.findings]);
    let work = this.triMeshes.get(surface.id);
    if (!work) this.triMeshes.set(surface.id, (work = new SurfaceWork()));
    work.evaluate(surface, this.surfaceContext(), key, restKey, time, ring, progress);
  }

  /** What a surface is made from beside the document: its mesh, or whether its picture is at hand. */
  private assetOf = (surface: Surface): unknown => {
    const { mesh } = surface;
    if (isOwnMesh(mesh)) return this.assets.mesh(mesh);
    if (mesh.source === 'made') return this.hasPicture(mesh);
    return this.gathering.aside(surface);
  };

  private hasPicture({ shape }: Extract<Surface['mesh'], { source: 'made' }>): boolean {
    return shape.shape === 'picture' && !!shape.picture && !!this.assets.picture?.(shape.picture.hash);
  }

  private surfaceContext(): SurfaceContext {
    return {
      mesh: (ref) => this.assets.mesh(ref),
      gathered: this.gathering.of,
      picture: (hash) => this.assets.picture?.(hash),
      motion: (ref) => this.assets.motion?.(ref),
      path: (id) => this.compiled.get(id)?.result,
      still: (id) => this.still(id),
      mask: (id) => this.masks.get(id)?.field,
      around: (surface) => this.around(surface),
      moments: (node, field) =>
        this.scene?.timed.find((t) => t.node === node && t.field.join() === field.join())?.moments,
    };
  }

  /** What a surface's cloth hangs on and falls on, at any time; null where none of that moves. */
  private around(surface: Surface): Around | null {
    const { plan, scene } = this;
    const ids = [...surfaceLines(surface), ...surfaceColliders(surface)];
    if (!plan || !scene || ids.length === 0 || !moveAtAll(ids, plan) || plan.rings.has(surface.id))
      return null;
    const under = sceneUnder(ids, this.source!, plan);
    const key = this.keyUnder(under);
    return {
      key,
      at: (time) => {
        const other = this.otherFor(surface.id);
        other.evaluate(under, undefined, time);
        const { triMeshes, compiled } = other;
        return {
          surface: (id) => triMeshes.get(id)?.triMesh,
          path: (id) => compiled.get(id)?.result,
        };
      },
    };
  }

  /** A surface worked out before, as it stands at time 0. */
  private still(id: string): { key: string; triMesh: TriMesh } | undefined {
    const surface = this.scene?.surfaces.find((s) => s.id === id);
    const work = this.triMeshes.get(id);
    if (!surface || !work?.result) return undefined;
    const masks = surfaceMasks(surface).map((mask) => this.masks.get(mask)?.result.key ?? null);
    const key = keyOf([work.result.facesKey, standing(surface), masks]);
    const triMesh = work.still(surface, this.surfaceContext(), key);
    return triMesh && { key, triMesh };
  }

  private path(
    path: Path,
    context: PathContext,
    ring: string[] | undefined,
    progress: ((done: number) => void) | undefined,
  ): void {
    const needs = pathNeeds(path, this.scene ?? undefined);
    const laying = isLaid(path.source) ? this.layingLines(path.source.sheet) : undefined;
    const surfaces = needs.surfaces.map((id) => this.triMeshes.get(id)?.result?.key ?? null);
    const bases = needs.paths.map((id) => this.compiled.get(id)?.key ?? null);
    const hung = needs.arrangements.map((id) => this.arranged.get(id)?.key ?? null);
    const at = hasPoints(path) && hangMoves(path) ? context.time : 0;
    const props = laying ? needsOf(laying).props.map((id) => this.props.get(id)?.key ?? null) : [];
    if (this.same(path.id, [path, ring, laying, at, ...bases, ...surfaces, ...hung, ...props])) return;
    const key = keyOf([
      path.source,
      path.closed,
      bases,
      surfaces,
      laying && [this.settings.of(laying), props],
      // Names are drawn from where what hangs is loose.
      hasPoints(path) && path.source.hang ? [path.id, at] : 0,
      hung,
      ring,
    ]);
    if (this.compiled.get(path.id)?.key === key) return;
    progress?.(0);
    const { result, message } = compiled(path, context, ring);
    const drawn = drawnPath(path.id, key, result);
    if (ring) drawn.findings[0].detail.ring = ring.join(' → ');
    if (message) drawn.findings[0].detail.message = message;
    this.compiled.set(path.id, { key, result, drawn });
  }

  private arrangement(
    a: Arrangement,
    context: ArrangeContext,
    time: number,
    ring: string[] | undefined,
    progress: ((done: number) => void) | undefined,
  ): void {
    const needs = needsOf(a);
    const paths = needs.paths.map((id) => this.compiled.get(id)?.key ?? null);
    const props = needs.props.map((id) => this.bundles.facts(id)?.key ?? null);
    const arrangements = needs.arrangements.map((id) => this.arranged.get(id)?.key ?? null);
    const surfaces = this.groundsOf(needs).flatMap((id) => [id, this.triMeshes.get(id)?.result?.key ?? null]);
    const masks = (needs.masks ?? []).map((id) => this.masks.get(id)?.result.key ?? null);
    const at = movesInTime(a) ? time : 0;
    const heldAt = movesWhileHeld(a) ? time : 0;
    const round = context.fine?.round ?? 0;
    const above = allSitting(a, this.plan!.sitting);
    const aboveOn = [
      ...sittingPaths(above).map((id) => this.compiled.get(id)?.key ?? null),
      ...above.flatMap((on) => needsOf(on).props.map((id) => this.props.get(id)?.key ?? null)),
    ];
    const inputs = [
      a,
      at,
      round,
      ring,
      ...paths,
      ...props,
      ...arrangements,
      ...surfaces,
      ...masks,
      ...above,
      ...aboveOn,
    ];
    const was = this.inputs.get(a.id);
    if (this.same(a.id, inputs) && !this.falls.unfinished.has(a.id)) return;
    const sits = above.length > 0 && [above.map((on) => this.settings.of(on)), aboveOn];
    const key = keyOf([
      this.settings.of(a),
      paths,
      props,
      arrangements,
      surfaces,
      masks,
      sits,
      heldAt,
      round,
      ring,
    ]);
    const { release } = a;
    if (release?.on && !ring) {
      const work = () => worked(a, context, undefined);
      const { result, key: now } = this.falls.released({ ...a, release }, key, work, context, time, progress);
      const inside = this.bundles.inside(a, result.placements);
      const stamped = this.withStamps(a, result);
      return void this.arranged.set(a.id, { ...result, id: a.id, key: now, inside, ...stamped });
    }
    this.falls.drop(a.id);
    const last = this.arranged.get(a.id);
    if (last?.key === key) return;
    progress?.(0);
    const alone = last && was?.length === inputs.length && was.every((v, i) => i === 0 || v === inputs[i]);
    const before = alone ? { node: was[0] as Arrangement, result: last } : undefined;
    const result = worked(a, context, ring, before);
    const inside = this.bundles.inside(a, result.placements);
    this.arranged.set(a.id, {
      ...result,
      id: a.id,
      key,
      since: result.rows && last?.key,
      // Absent too where it was made from one that had some.
      inside,
      ...this.withStamps(a, result),
    });
  }

  private withStamps = (a: Arrangement, result: ArrangementResult) =>
    withStamps(a, result, {
      scene: this.scene!,
      stamp: (id) => this.props.stamp(id),
      grounds: (needs) => this.groundsOf(needs),
      triMesh: (id) => this.triMeshes.get(id)?.triMesh,
    });

  private groundsOf(needs: Needs): string[] {
    const { grounds, masks, stamps } = this.plan!;
    return groundsOf(needs, grounds, masks, stamps);
  }

  /** The evaluator of what surrounds a node, at the times at which that is looked at. */
  private otherFor(id: string): Evaluator {
    let other = this.others.get(id);
    if (!other) this.others.set(id, (other = new Evaluator(this.assets)));
    return other;
  }

  /** Everything that a scene follows from, as text; its times are all known then. */
  private keyUnder(under: Scene): string {
    return keyOf([
      under.surfaces.map((s) => [s.id, bareOf(s), standing(s), !!this.assetOf(s)]),
      under.paths.map(({ id, source, closed }) => [id, source, closed]),
      under.masks.map((m) => [m.id, m.combine, m.layers, this.picturesOf(m)]),
      under.arrangements.map((a) => [
        this.sourceKeys.of(a),
        needsOf(a).props.map((p) => this.bundles.facts(p)?.key),
      ]),
      under.timed,
    ]);
  }

  private mask(mask: Mask, arrange: ArrangeContext, ring: string[] | undefined): void {
    const { paths, surfaces, arrangements } = maskNeeds(mask);
    const stands = [
      ...paths.map((id) => this.compiled.get(id)?.key ?? null),
      ...surfaces.map((id) => this.still(id)?.key ?? null),
      ...arrangements.map((id) => this.arranged.get(id)?.key ?? null),
    ];
    const pictures = this.picturesOf(mask);
    // The second is asked for by itself: see `due`.
    if (this.same(mask.id, [mask, pictures, ring, ...stands])) return;
    const key = keyOf([mask.combine, mask.layers, pictures, stands, ring]);
    if (this.masks.get(mask.id)?.result.key === key) return;
    const context = {
      arrange,
      picture: (hash: string) => this.assets.picture?.(hash),
      still: (id: string) => this.still(id)?.triMesh,
      keyOf: (id: string) => this.keyOf(id),
    };
    this.masks.set(mask.id, workedMask(mask, key, ring, context));
  }

  /** Which pictures of a mask are at hand. */
  private picturesOf = (mask: Mask): string =>
    maskPictures(mask)
      .filter((hash) => this.assets.picture?.(hash))
      .join();

  /** The surfaces that places of an arrangement are read on, as they stand at time 0. */
  private maskGrounds(id: string): MaskGround[] {
    const { plan, scene } = this;
    const arrangement = scene?.arrangements.find((a) => a.id === id);
    if (!plan || !arrangement) return [];
    const ids = this.groundsOf(needsOf(arrangement));
    return ids.flatMap((surface) => this.groundOf(surface) ?? []);
  }

  private groundOf(id: string): MaskGround | undefined {
    const work = this.triMeshes.get(id);
    const rest = work?.restTriMesh()?.triMesh;
    const read = this.still(id)?.triMesh;
    return rest && read && work?.triMesh ? { id, rest, read, now: work.triMesh } : undefined;
  }

  private forget({ order }: Plan): void {
    const here = new Map(order.map((n) => [n.id, n.kind]));
    const clear = (kept: Map<string, unknown>, kind?: PlanNode['kind']) => {
      for (const id of kept.keys()) if (!here.has(id) || (kind && here.get(id) !== kind)) kept.delete(id);
    };
    clear(this.triMeshes, 'surface');
    this.gathering.keepOnly((id) => here.get(id) === 'surface');
    clear(this.compiled, 'path');
    clear(this.laid, 'path');
    clear(this.others);
    clear(this.arranged, 'arrangement');
    this.falls.keepOnly((id) => here.get(id) === 'arrangement');
    clear(this.hung, 'arrangement');
    clear(this.masks, 'mask');
    this.settings.keepOnly((id) => here.get(id) === 'arrangement');
    this.sourceKeys.keepOnly((id) => here.get(id) === 'arrangement');
    clear(this.inputs);
  }
}

/** What a surface's own shape follows from. */
const bareOf = (surface: Surface) => [
  isOwnMesh(surface.mesh) ? refKey(surface.mesh) : surface.mesh,
  ...lyingOf(surface),
];

/** How the mesh of a surface lies in its own frame, and what is made of it there. */
const lyingOf = ({ unitScale, up, normals, flipped, uv }: Surface) => [unitScale, up, normals, flipped, uv];

/** What a surface is beside its shape: its place, and what deforms it. */
const standing = ({ position, turnDeg, tipDeg, rollDeg, size, deformers, plays, thickness }: Surface) => [
  thickness,
  position,
  turnDeg,
  tipDeg,
  rollDeg,
  size,
  deformers,
  plays,
];
