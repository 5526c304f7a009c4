import { kindOf, needsOf } from '../arrange/registry';
import type { Fineness } from '../arrange/fineness';
import type { ArrangeContext, PropFacts } from '../arrange/context';
import type { SheetGround } from '../arrange/sheet/chartOf';
import { footprint } from '../arrange/sheet/evaluate';
import { propsOf, type Sheet } from '../arrange/sheet/schema';
import type { CompileResult } from '../curve/compile';
import { ownSpace, type Sliced } from '../mesh/slice';
import { propShape, type PropShape } from '../mesh/support';
import type { GreyPicture } from '../mesh/make/picture';
import type { Motion } from '../mesh/motion';
import { meshBounds, propBounds, propMatrix, type Bounds, type Mesh } from '../mesh/mesh';
import type { Solid } from '../mesh/solid';
import type { Arrangement, MeshRef, Path, PointsPath, Prop, Scene, Surface } from '../scene/schema';
import { compileSource, pathNeeds, type PathContext } from './compileSource';
import { fingerprint } from './fingerprint';
import { drawnPath, type PathResult } from './drawnPath';
import { orderNodes } from './graph';
import { layStrokes, type LaidStrokes } from './pinnedPath';
import {
  surfaceColliders,
  surfaceMoves,
  surfaceNeeds,
  SurfaceWork,
  type SurfaceContext,
  type SurfaceResult,
} from './surfaces';
import { emptyPlacements, NO_FACTS, type Finding, type RunResult } from './result';

export type { DrawnStroke, PathResult } from './drawnPath';
export type { SurfaceResult } from './surfaces';

/** Where meshes come from; undefined where one is not at hand. */
export interface Assets {
  mesh(ref: MeshRef): Mesh | undefined;
  picture?(hash: string): GreyPicture | undefined;
  motion?(ref: MeshRef): Motion | undefined;
}

export interface ArrangementResult extends RunResult {
  id: string;
  /** Changes whenever anything that the result depends on does. */
  key: string;
}

export interface SceneResult {
  surfaces: SurfaceResult[];
  paths: PathResult[];
  arrangements: ArrangementResult[];
  /** Bounds in each prop's own space, metres; absent where the mesh is not at hand. */
  propBounds: Record<string, Bounds>;
}

/** A short key of everything that something depends on, other keys among it: never text inside text. */
const keyOf = (parts: unknown[]): string => fingerprint(JSON.stringify(parts));

const refKey = (ref: MeshRef) => (ref.source === 'built' ? `built:${ref.name}` : ref.hash);

type Node =
  | { id: string; dependsOn: string[]; kind: 'surface'; surface: Surface }
  | { id: string; dependsOn: string[]; kind: 'path'; path: Path }
  | { id: string; dependsOn: string[]; kind: 'arrangement'; a: Arrangement };

/**
 * Evaluates scenes and remembers every node by the content that it depends on, so that a change works out only
 * what follows from it. One evaluator keeps the nodes of its last scene. Deterministic: the same scene, assets and
 * time give the same numbers, bit for bit, whatever was evaluated before.
 */
export class Evaluator {
  private compiled = new Map<string, { key: string; result: CompileResult; drawn: PathResult }>();
  private laid = new Map<string, { key: string; strokes: LaidStrokes }>();
  private arranged = new Map<string, ArrangementResult>();
  private solids = new Map<string, SurfaceWork>();
  private scene: Scene | null = null;
  private bounds = new WeakMap<Mesh, Bounds>();
  private meshes = new WeakMap<Mesh, { key: string; own: Sliced }>();
  private shapes = new WeakMap<Mesh, { key: string; shape: PropShape }>();
  private props = new Map<string, { key: string; facts: PropFacts }>();

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
    const props = new Map(scene.props.map((prop) => [prop.id, this.prop(prop)]));
    const nodes = nodesOf(scene);
    const { order, cycles } = orderNodes(nodes);
    const byId = new Map(nodes.map((n) => [n.id, n]));
    this.scene = scene;
    const pathContext = this.pathContext();
    this.props = props;
    const context = { ...this.contextAt(time), fine };
    this.forget(scene);
    const names = new Map(
      [...scene.surfaces, ...scene.paths, ...scene.arrangements].map((n) => [n.id, n.name]),
    );
    const ringOf = (id: string) => cycles.find((c) => c.includes(id))?.map((n) => `“${names.get(n)}”`);
    // What waits for a ring without being in it goes after all that is sound, and finds its base broken.
    const stuck = nodes.filter((n) => !order.includes(n.id)).map((n) => n.id);
    const rings = stuck.filter((id) => ringOf(id));
    [...rings, ...order, ...stuck.filter((id) => !ringOf(id))].forEach((id, i) => {
      const node = byId.get(id)!;
      if (node.kind === 'path') return this.path(node.path, pathContext, ringOf(id));
      if (node.kind === 'surface')
        return this.surface(node.surface, time, ringOf(id), (done) =>
          progress?.((i + done) / nodes.length, node.surface.name),
        );
      progress?.(i / nodes.length, node.a.name);
      return this.arrangement(node.a, context, props, time, ringOf(id));
    });
    const bounds: Record<string, Bounds> = {};
    for (const [id, { facts }] of props) if (facts.state === 'ready') bounds[id] = facts.bounds;
    return {
      surfaces: scene.surfaces.map((s) => this.solids.get(s.id)!.result!),
      paths: scene.paths.map((p) => this.compiled.get(p.id)!.drawn),
      arrangements: scene.arrangements.map((a) => this.arranged.get(a.id)!),
      propBounds: bounds,
    };
  }

  /** The compiled path of the last scene, for measuring and editing. */
  compiledPath(id: string): CompileResult | undefined {
    return this.compiled.get(id)?.result;
  }

  /** What arrangements of the last scene may ask for. */
  contextAt(time: number): ArrangeContext {
    return {
      path: (id) => this.compiled.get(id)?.result,
      prop: (id) => this.props.get(id)?.facts,
      arrangement: (id) => this.arranged.get(id)?.placements,
      parts: (id) => this.arranged.get(id)?.parts,
      surface: (id) => this.solids.get(id)?.solid,
      sheetGround: (id) => this.sheetGround(id),
      grounds: () => groundsOf(this.scene),
      time,
    };
  }

  private sheetGround(id: string): SheetGround | undefined {
    const work = this.solids.get(id);
    const rest = work?.restSolid();
    const size = this.scene?.surfaces.find((s) => s.id === id)?.size ?? 1;
    return rest && work?.solid ? { now: work.solid, rest: rest.solid, size } : undefined;
  }

  /** What paths of the last scene may ask for. */
  pathContext(): PathContext {
    return {
      path: (id) => this.compiled.get(id)?.result,
      surface: (id) => {
        const result = this.solids.get(id)?.result;
        return result?.mesh && { mesh: result.mesh, matrix: result.matrix };
      },
      ground: (id) => {
        const work = this.solids.get(id);
        const rest = work?.restSolid();
        if (!rest || !work?.solid) return undefined;
        return { now: work.solid, laid: (path) => this.laidOn(path, rest) };
      },
      sheet: (id) => {
        const sheet = this.sheetOf(id);
        const ground = sheet && this.sheetGround(sheet.surface);
        if (!sheet || !ground) return undefined;
        const bounds = propsOf(sheet).map((prop) => {
          const facts = this.props.get(prop)?.facts;
          return facts?.state === 'ready' ? facts.bounds : undefined;
        });
        return { sheet, ground, own: footprint(sheet, bounds) };
      },
    };
  }

  private sheetOf(id: string): Sheet | null {
    const found = this.scene?.arrangements.find((a) => a.id === id);
    return found?.kind === 'sheet' ? found : null;
  }

  /** A path's strokes laid onto a surface at rest: moving the surface does not lay them anew. */
  private laidOn(path: PointsPath, { key, solid }: { key: string; solid: Solid }): LaidStrokes {
    const whole = keyOf([key, path.source, path.closed]);
    let have = this.laid.get(path.id);
    if (have?.key !== whole)
      this.laid.set(path.id, (have = { key: whole, strokes: layStrokes(path, solid) }));
    return have.strokes;
  }

  private surface(
    surface: Surface,
    time: number,
    ring: string[] | undefined,
    progress: (done: number) => void,
  ): void {
    const { mesh, unitScale, up, normals, flipped, uv } = surface;
    const from =
      mesh.source === 'made' ? [mesh, this.hasPicture(mesh)] : [refKey(mesh), !!this.assets.mesh(mesh)];
    const restKey = keyOf([
      ...from,
      unitScale,
      up,
      normals,
      flipped,
      uv,
      surfaceNeeds(surface).map((id) => this.compiled.get(id)?.key ?? null),
    ]);
    const moves = surfaceMoves(surface) ? time : 0;
    const colliders = surfaceColliders(surface).map((id) => this.still(id)?.key ?? null);
    const key = keyOf([restKey, standing(surface), colliders, moves, ring]);
    let work = this.solids.get(surface.id);
    if (!work) this.solids.set(surface.id, (work = new SurfaceWork()));
    work.evaluate(surface, this.surfaceContext(), key, restKey, time, ring, progress);
  }

  private hasPicture({ shape }: Extract<Surface['mesh'], { source: 'made' }>): boolean {
    return shape.shape === 'picture' && !!shape.picture && !!this.assets.picture?.(shape.picture.hash);
  }

  private surfaceContext(): SurfaceContext {
    return {
      mesh: (ref) => this.assets.mesh(ref),
      picture: (hash) => this.assets.picture?.(hash),
      motion: (ref) => this.assets.motion?.(ref),
      path: (id) => this.compiled.get(id)?.result,
      still: (id) => this.still(id),
    };
  }

  /** A surface worked out before, as it stands at time 0. */
  private still(id: string): { key: string; solid: Solid } | undefined {
    const surface = this.scene?.surfaces.find((s) => s.id === id);
    const work = this.solids.get(id);
    if (!surface || !work?.result) return undefined;
    const key = keyOf([work.result.facesKey, standing(surface)]);
    const solid = work.still(surface, this.surfaceContext(), key);
    return solid && { key, solid };
  }

  private path(path: Path, context: PathContext, ring: string[] | undefined): void {
    const needs = pathNeeds(path, this.scene ?? undefined);
    const sheet = path.source.kind === 'sheet' ? this.sheetOf(path.source.sheet) : null;
    const surfaces = needs.surfaces.map((id) => this.solids.get(id)?.result?.key ?? null);
    const key = keyOf([
      path.source,
      path.closed,
      needs.paths.map((id) => this.compiled.get(id)?.key ?? null),
      surfaces,
      sheet && [settingsOf(sheet), propsOf(sheet).map((id) => this.props.get(id)?.key ?? null)],
      ring,
    ]);
    if (this.compiled.get(path.id)?.key === key) return;
    const result: CompileResult = ring ? { ok: false, problem: 'cycle' } : compileSource(path, context);
    const drawn = drawnPath(path.id, key, result);
    if (ring) drawn.findings[0].detail.ring = ring.join(' → ');
    this.compiled.set(path.id, { key, result, drawn });
  }

  private prop(prop: Prop): { key: string; facts: PropFacts } {
    const mesh = this.assets.mesh(prop.mesh);
    const { snapPoints } = prop;
    const settings = [refKey(prop.mesh), prop.unitScale, prop.foot, prop.front, prop.up, snapPoints];
    if (!mesh) return { key: keyOf(['missing', settings]), facts: { state: 'mesh-missing' } };
    if (mesh.indices.length < 3) return { key: keyOf(['empty', settings]), facts: { state: 'mesh-empty' } };
    let bounds = this.bounds.get(mesh);
    if (!bounds) this.bounds.set(mesh, (bounds = meshBounds(mesh)));
    const key = keyOf(settings);
    const whole = bounds;
    const own = () => this.ownMesh(mesh, key, propMatrix(prop, whole));
    const shape = () =>
      this.shapeOf(mesh, key, () => propShape(mesh.positions, propMatrix(prop, whole), mesh.indices));
    return { key, facts: { state: 'ready', bounds: propBounds(prop, bounds), shape, mesh: own, snapPoints } };
  }

  /** A prop's mesh in its own space, kept so that slices of it are too. */
  private ownMesh(mesh: Mesh, key: string, matrix: Float64Array): Sliced {
    const have = this.meshes.get(mesh);
    if (have?.key === key) return have.own;
    const own = ownSpace(mesh, matrix);
    this.meshes.set(mesh, { key, own });
    return own;
  }

  private shapeOf(mesh: Mesh, key: string, make: () => PropShape): PropShape {
    const have = this.shapes.get(mesh);
    if (have?.key === key) return have.shape;
    const shape = make();
    this.shapes.set(mesh, { key, shape });
    return shape;
  }

  private arrangement(
    a: Arrangement,
    context: ArrangeContext,
    props: Map<string, { key: string }>,
    time: number,
    ring: string[] | undefined,
  ): void {
    const kind = kindOf(a);
    const needs = needsOf(a);
    const key = keyOf([
      settingsOf(a),
      needs.paths.map((id) => this.compiled.get(id)?.key ?? null),
      needs.props.map((id) => props.get(id)?.key ?? null),
      needs.arrangements.map((id) => this.arranged.get(id)?.key ?? null),
      this.groundIds(needs.surfaces).map((id) => [id, this.solids.get(id)?.result?.key ?? null]),
      kind.moves(a) ? time : 0,
      context.fine?.round ?? 0,
      ring,
    ]);
    if (this.arranged.get(a.id)?.key === key) return;
    this.arranged.set(a.id, { id: a.id, key, ...worked(a, context, ring) });
  }

  private groundIds(surfaces: string[] | 'all'): string[] {
    return surfaces === 'all' ? groundsOf(this.scene) : surfaces;
  }

  private forget(scene: Scene): void {
    const surfaces = new Set(scene.surfaces.map((s) => s.id));
    for (const id of this.solids.keys()) if (!surfaces.has(id)) this.solids.delete(id);
    const paths = new Set(scene.paths.map((p) => p.id));
    const arrangements = new Set(scene.arrangements.map((a) => a.id));
    for (const id of this.compiled.keys()) if (!paths.has(id)) this.compiled.delete(id);
    for (const id of this.laid.keys()) if (!paths.has(id)) this.laid.delete(id);
    for (const id of this.arranged.keys()) if (!arrangements.has(id)) this.arranged.delete(id);
  }
}

/** Surfaces that anything lands on unless it names some: those that are shown. */
const groundsOf = (scene: Scene | null): string[] =>
  scene?.surfaces.filter((s) => s.visible).map((s) => s.id) ?? [];

/** Surfaces, paths and arrangements with what each waits for. */
function nodesOf(scene: Scene): Node[] {
  return [
    ...scene.surfaces.map((surface): Node => ({
      id: surface.id,
      dependsOn: [...surfaceNeeds(surface), ...surfaceColliders(surface)],
      kind: 'surface',
      surface,
    })),
    ...scene.paths.map((path): Node => {
      const needs = pathNeeds(path, scene);
      return { id: path.id, dependsOn: [...needs.surfaces, ...needs.paths], kind: 'path', path };
    }),
    ...scene.arrangements.map((a): Node => {
      const needs = needsOf(a);
      const grounds = needs.surfaces === 'all' ? groundsOf(scene) : needs.surfaces;
      const dependsOn = [...grounds, ...needs.paths, ...needs.arrangements];
      return { id: a.id, dependsOn, kind: 'arrangement', a };
    }),
  ];
}

/** What a surface is beside its shape: its place, and what deforms it. */
const standing = ({ position, turnDeg, tipDeg, rollDeg, size, deformers, plays }: Surface) => [
  position,
  turnDeg,
  tipDeg,
  rollDeg,
  size,
  deformers,
  plays,
];

const settings = new WeakMap<Arrangement, string>();

/** Texts longer than this are told apart by their hash: keys are put together and compared at every time anew. */
const LONG = 2000;

/** An arrangement's settings as text. Documents never change, so it is written once however often time passes. */
function settingsOf(a: Arrangement): string {
  let text = settings.get(a);
  if (text === undefined) {
    text = JSON.stringify({ ...a, name: '', visible: true, thread: '' });
    if (text.length > LONG) text = `${text.length} ${fingerprint(text)}`;
    settings.set(a, text);
  }
  return text;
}

/** A result, or why there is none: a broken node does not stop the others. */
function worked(a: Arrangement, context: ArrangeContext, ring: string[] | undefined): RunResult {
  const broken = (finding: Omit<Finding, 'node' | 'severity'>): RunResult => ({
    placements: emptyPlacements(),
    findings: [{ ...finding, severity: 'error', node: a.id }],
    facts: NO_FACTS,
    parts: [],
  });
  if (ring) return broken({ kind: 'cycle', detail: { ring: ring.join(' → ') } });
  try {
    return kindOf(a).evaluate(a, context);
  } catch (error) {
    return broken({
      kind: 'failed',
      detail: { message: error instanceof Error ? error.message : String(error) },
    });
  }
}
