import { KINDS, type ArrangementKind } from '../arrange/registry';
import type { ArrangeContext, PropFacts } from '../arrange/context';
import { compilePath, type CompileResult } from '../curve/compile';
import { polyline } from '../curve/sample';
import { meshBounds, propBounds, type Bounds, type Mesh } from '../mesh/mesh';
import type { Arrangement, MeshRef, Prop, Scene } from '../scene/schema';
import { orderNodes } from './graph';
import { emptyPlacements, type Finding, type RunResult } from './result';

/** Where meshes come from; undefined where one is not at hand. */
export interface Assets {
  mesh(ref: MeshRef): Mesh | undefined;
}

/** A path as it is drawn and measured. */
export interface PathResult {
  id: string;
  key: string;
  ok: boolean;
  closed: boolean;
  length: number;
  position: Float64Array;
  s: Float64Array;
  pointS: Float64Array;
  /** Control points of the cubics, 12 a segment, and the point each leaves from. */
  controls: Float64Array;
  segmentPoint: Int32Array;
  findings: Finding[];
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

/**
 * Evaluates scenes and remembers every node by the content that it depends on, so that a change works out only
 * what follows from it. One evaluator keeps the nodes of its last scene. Deterministic: the same scene and assets
 * give the same numbers, bit for bit, whatever was evaluated before.
 */
export class Evaluator {
  private compiled = new Map<string, { key: string; result: CompileResult; drawn: PathResult }>();
  private arranged = new Map<string, ArrangementResult>();
  private bounds = new WeakMap<Mesh, Bounds>();

  constructor(private assets: Assets) {}

  /** @param progress called before each node with the share done, 0–1, and the node's name */
  evaluate(scene: Scene, progress?: (done: number, name: string) => void): SceneResult {
    const paths = scene.paths.map((path) => this.path(path.id, path));
    const props = new Map(scene.props.map((prop) => [prop.id, this.prop(prop)]));
    const context: ArrangeContext = {
      path: (id) => (scene.paths.some((p) => p.id === id) ? this.compiled.get(id)!.result : undefined),
      prop: (id) => props.get(id)?.facts,
    };
    const kinds = (a: Arrangement) => KINDS[a.kind] as ArrangementKind;
    const nodes = scene.arrangements.map((a) => {
      const needs = kinds(a).dependsOn(a);
      return { id: a.id, dependsOn: [...needs.paths, ...needs.props], a, needs };
    });
    const { cycles } = orderNodes(nodes);
    const arrangements = nodes.map(({ a, needs }, i) => {
      progress?.(i / nodes.length, a.name);
      const key = JSON.stringify([
        { ...a, name: '', visible: true, thread: '' },
        needs.paths.map((id) => (context.path(id) ? this.compiled.get(id)!.key : null)),
        needs.props.map((id) => props.get(id)?.key ?? null),
      ]);
      const have = this.arranged.get(a.id);
      if (have?.key === key) return have;
      const made = { id: a.id, key, ...this.arrangement(kinds(a), a, context, cycles) };
      this.arranged.set(a.id, made);
      return made;
    });
    this.forget(scene);
    const bounds: Record<string, Bounds> = {};
    for (const [id, { facts }] of props) if (facts.state === 'ready') bounds[id] = facts.bounds;
    return { paths, arrangements, propBounds: bounds };
  }

  /** The compiled path of the last scene, for measuring and editing. */
  compiledPath(id: string): CompileResult | undefined {
    return this.compiled.get(id)?.result;
  }

  private path(id: string, path: Scene['paths'][number]): PathResult {
    const key = JSON.stringify([path.source, path.closed]);
    const have = this.compiled.get(id);
    if (have?.key === key) return have.drawn;
    const result = compilePath(path);
    const line = result.ok
      ? polyline(result.path)
      : { position: new Float64Array(0), s: new Float64Array(0) };
    const findings: Finding[] = result.ok
      ? result.path.notes.map((note) => ({
          kind: note.kind,
          severity: 'warning',
          node: id,
          detail: { path: id, point: note.pointId, amount: note.amount ?? 0 },
        }))
      : [{ kind: `path-${result.problem}`, severity: 'error', node: id, detail: { path: id } }];
    const drawn: PathResult = {
      id,
      key,
      ok: result.ok,
      closed: result.ok && result.path.closed,
      length: result.ok ? result.path.length : 0,
      ...line,
      pointS: result.ok ? result.path.pointS : new Float64Array(0),
      controls: result.ok ? result.path.controls : new Float64Array(0),
      segmentPoint: result.ok ? result.path.segmentPoint : new Int32Array(0),
      findings,
    };
    this.compiled.set(id, { key, result, drawn });
    return drawn;
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
    kind: ArrangementKind,
    a: Arrangement,
    context: ArrangeContext,
    cycles: string[][],
  ): RunResult {
    const facts = { length: 0, usable: 0, pitch: 0, askedPitch: 0, loose: 0 };
    const broken = (finding: Omit<Finding, 'node' | 'severity'>): RunResult => ({
      placements: emptyPlacements(),
      findings: [{ ...finding, severity: 'error', node: a.id }],
      facts,
      parts: [],
    });
    const ring = cycles.find((c) => c.includes(a.id));
    if (ring) return broken({ kind: 'cycle', detail: { ring: ring.join(' → ') } });
    try {
      return kind.evaluate(a, context);
    } catch (error) {
      return broken({
        kind: 'failed',
        detail: { message: error instanceof Error ? error.message : String(error) },
      });
    }
  }

  private forget(scene: Scene): void {
    const paths = new Set(scene.paths.map((p) => p.id));
    const arrangements = new Set(scene.arrangements.map((a) => a.id));
    for (const id of this.compiled.keys()) if (!paths.has(id)) this.compiled.delete(id);
    for (const id of this.arranged.keys()) if (!arrangements.has(id)) this.arranged.delete(id);
  }
}
