import { kindOf } from '../arrange/registry';
import type { ArrangeContext, PropFacts } from '../arrange/context';
import type { CompileResult } from '../curve/compile';
import { meshBounds, propBounds, type Bounds, type Mesh } from '../mesh/mesh';
import { surfaceMatrix } from '../mesh/surface';
import type { Arrangement, MeshRef, Path, Prop, Scene } from '../scene/schema';
import { compileSource, pathNeeds, type PathContext } from './compileSource';
import { drawnPath, type PathResult } from './drawnPath';
import { orderNodes } from './graph';
import { emptyPlacements, NO_FACTS, type Finding, type RunResult } from './result';

export type { DrawnStroke, PathResult } from './drawnPath';

/** Where meshes come from; undefined where one is not at hand. */
export interface Assets {
  mesh(ref: MeshRef): Mesh | undefined;
}

export interface ArrangementResult extends RunResult {
  id: string;
  /** Changes whenever anything that the result depends on does. */
  key: string;
}

export interface SceneResult {
  paths: PathResult[];
  arrangements: ArrangementResult[];
  /** Bounds in each prop's own space, metres; absent where the mesh is not at hand. */
  propBounds: Record<string, Bounds>;
}

const refKey = (ref: MeshRef) => (ref.source === 'built' ? `built:${ref.name}` : ref.hash);

type Node =
  | { id: string; dependsOn: string[]; kind: 'path'; path: Path }
  | { id: string; dependsOn: string[]; kind: 'arrangement'; a: Arrangement };

/**
 * Evaluates scenes and remembers every node by the content that it depends on, so that a change works out only
 * what follows from it. One evaluator keeps the nodes of its last scene. Deterministic: the same scene, assets and
 * time give the same numbers, bit for bit, whatever was evaluated before.
 */
export class Evaluator {
  private compiled = new Map<string, { key: string; result: CompileResult; drawn: PathResult }>();
  private arranged = new Map<string, ArrangementResult>();
  private bounds = new WeakMap<Mesh, Bounds>();
  private props = new Map<string, { key: string; facts: PropFacts }>();

  constructor(private assets: Assets) {}

  /**
   * @param progress called before each node with the share done, 0–1, and the node's name
   * @param time seconds
   */
  evaluate(scene: Scene, progress?: (done: number, name: string) => void, time = 0): SceneResult {
    const props = new Map(scene.props.map((prop) => [prop.id, this.prop(prop)]));
    const nodes = nodesOf(scene);
    const { order, cycles } = orderNodes(nodes);
    const byId = new Map(nodes.map((n) => [n.id, n]));
    const pathContext = this.pathContext(scene);
    this.props = props;
    const context = this.contextAt(time);
    this.forget(scene);
    const names = new Map([...scene.paths, ...scene.arrangements].map((n) => [n.id, n.name]));
    const ringOf = (id: string) => cycles.find((c) => c.includes(id))?.map((n) => `“${names.get(n)}”`);
    // What waits for a ring without being in it goes after all that is sound, and finds its base broken.
    const stuck = nodes.filter((n) => !order.includes(n.id)).map((n) => n.id);
    const rings = stuck.filter((id) => ringOf(id));
    [...rings, ...order, ...stuck.filter((id) => !ringOf(id))].forEach((id, i) => {
      const node = byId.get(id)!;
      if (node.kind === 'path') return this.path(node.path, pathContext, scene, ringOf(id));
      progress?.(i / nodes.length, node.a.name);
      return this.arrangement(node.a, context, props, time, ringOf(id));
    });
    const bounds: Record<string, Bounds> = {};
    for (const [id, { facts }] of props) if (facts.state === 'ready') bounds[id] = facts.bounds;
    return {
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
      time,
    };
  }

  /** What paths of the scene may ask for. */
  pathContext(scene: Scene): PathContext {
    return {
      path: (id) => this.compiled.get(id)?.result,
      surface: (id) => {
        const surface = scene.surfaces.find((s) => s.id === id);
        const mesh = surface && this.assets.mesh(surface.mesh);
        return mesh && { mesh, matrix: surfaceMatrix(surface) };
      },
    };
  }

  private path(path: Path, context: PathContext, scene: Scene, ring: string[] | undefined): void {
    const needs = pathNeeds(path);
    const surfaces = needs.surfaces.map((id) => {
      const s = scene.surfaces.find((x) => x.id === id);
      return s
        ? [refKey(s.mesh), this.assets.mesh(s.mesh) ? 1 : 0, s.unitScale, s.up, s.turnDeg, s.position]
        : null;
    });
    const key = JSON.stringify([
      path.source,
      path.closed,
      needs.paths.map((id) => this.compiled.get(id)?.key ?? null),
      surfaces,
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
    const settings = [refKey(prop.mesh), prop.unitScale, prop.foot, prop.front, prop.up];
    if (!mesh) return { key: JSON.stringify(['missing', settings]), facts: { state: 'mesh-missing' } };
    if (mesh.indices.length < 3)
      return { key: JSON.stringify(['empty', settings]), facts: { state: 'mesh-empty' } };
    let bounds = this.bounds.get(mesh);
    if (!bounds) this.bounds.set(mesh, (bounds = meshBounds(mesh)));
    return { key: JSON.stringify(settings), facts: { state: 'ready', bounds: propBounds(prop, bounds) } };
  }

  private arrangement(
    a: Arrangement,
    context: ArrangeContext,
    props: Map<string, { key: string }>,
    time: number,
    ring: string[] | undefined,
  ): void {
    const kind = kindOf(a);
    const needs = kind.dependsOn(a);
    const key = JSON.stringify([
      { ...a, name: '', visible: true, thread: '' },
      needs.paths.map((id) => this.compiled.get(id)?.key ?? null),
      needs.props.map((id) => props.get(id)?.key ?? null),
      needs.arrangements.map((id) => this.arranged.get(id)?.key ?? null),
      kind.moves(a) ? time : 0,
      ring,
    ]);
    if (this.arranged.get(a.id)?.key === key) return;
    this.arranged.set(a.id, { id: a.id, key, ...worked(a, context, ring) });
  }

  private forget(scene: Scene): void {
    const paths = new Set(scene.paths.map((p) => p.id));
    const arrangements = new Set(scene.arrangements.map((a) => a.id));
    for (const id of this.compiled.keys()) if (!paths.has(id)) this.compiled.delete(id);
    for (const id of this.arranged.keys()) if (!arrangements.has(id)) this.arranged.delete(id);
  }
}

/** Paths and arrangements with what each waits for. */
function nodesOf(scene: Scene): Node[] {
  return [
    ...scene.paths.map((path): Node => ({
      id: path.id,
      dependsOn: pathNeeds(path).paths,
      kind: 'path',
      path,
    })),
    ...scene.arrangements.map((a): Node => {
      const needs = kindOf(a).dependsOn(a);
      return { id: a.id, dependsOn: [...needs.paths, ...needs.arrangements], kind: 'arrangement', a };
    }),
  ];
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
