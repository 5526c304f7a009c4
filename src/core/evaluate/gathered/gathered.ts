import type { ArrangementResult, Finding, FindingKind } from '../../arrange/result';
import type { CompiledPath } from '../../curve/compile';
import { networkOf } from '../../mesh/network/network';
import type { NetworkSpec } from '../../mesh/network/networkSchema';
import type { DustSpec } from '../../mesh/dust/dustSchema';
import { dustSheet } from '../../mesh/dust/dustSheet';
import { MOST_MARKS } from '../../mesh/mark';
import type { Mesh } from '../../mesh/mesh';
import type { PlacedMesh } from '../../mesh/merged';
import { joining, type Joined, type Refused } from '../../mesh/solid/joining';
import { kernel } from '../../mesh/solid/kernel';
import type { SolidSpec } from '../../mesh/solid/solidSchema';
import type { Surface } from '../../mesh/surfaceSchema';
import { wornAmong } from '../../scene/worn';
import type { Scene } from '../../scene/schema';
import { keyOf } from '../fingerprint';
import { placedMeshes, type PropLooks } from '../placedMeshes';
import { takenBy } from './takes';

/** What the meshes of such surfaces are worked out from. */
export interface GatherHost {
  scene(): Pick<Scene, 'surfaces' | 'arrangements'>;
  surface(id: string): { mesh?: Mesh; matrix: Float64Array } | undefined;
  arranged(id: string): Pick<ArrangementResult, 'placements' | 'inside'> | undefined;
  prop: PropLooks['prop'];
  /** What all wears that an arrangement has placed, as text. */
  wornBy(arrangement: string): string;
  /** The key of what a node came to. */
  keyOf(id: string): string | undefined;
  /** The strokes of a path; undefined where it is broken, or there is none such. */
  strokes(id: string): CompiledPath[] | undefined;
  /** Asked between pieces of work: whether there is time to go on. */
  goOn(): boolean;
}

/** A mesh that was made from others. */
export interface Gathered {
  /** Undefined where there is none yet, or nothing that it could be made from. */
  mesh: Mesh | undefined;
  /** Everything that the mesh follows from, as text: that of the last good one as long as the next is not done. */
  key: string;
  /** The share that is done of what was asked for. */
  done: number;
  findings: Finding[];
}

interface Kept {
  good: { key: string; mesh: Mesh | undefined; findings: Finding[] };
  work: { key: string; steps: Generator<number, Joined>; done: number; said: Finding[] } | null;
}

const NOTHING = { key: '', mesh: undefined, findings: [] };

/** The meshes of surfaces that are made from others, each kept until its successor is done. */
export class GatherWork {
  private kept = new Map<string, Kept>();
  /** What is not done yet, by the surface. */
  readonly unfinished = new Map<string, { name: string; done: number }>();

  private last = new Map<string, Gathered>();

  constructor(private host: GatherHost) {}

  /** What a surface that is made from others came to last. */
  of = (id: string): Gathered | undefined => this.last.get(id);

  /** What it depends on that none of its parts' results tell: what they wear, and whether it can be made yet. */
  aside = (surface: Surface): string => {
    const { surfaces } = this.host.scene();
    const worn = (id: string) => surfaces.find((s) => s.id === id)?.material ?? this.host.wornBy(id);
    return [...takenBy(surface).map(worn), kernel() ? '' : 'waits'].join('|');
  };

  /** The mesh of a surface that is made from others, as far as it has come; undefined for any other. @param aside {@link aside} */
  gather(surface: Surface, aside: unknown, progress?: (done: number) => void): Gathered | undefined {
    const { mesh } = surface;
    if (mesh.source === 'built' || mesh.source === 'file' || mesh.source === 'made') return undefined;
    const taken = takenBy(surface).map((id) => this.host.keyOf(id) ?? null);
    const key = keyOf(['gathered', mesh, aside, taken]);
    const made =
      mesh.source === 'dust' ? this.dust(surface.id, mesh, key) : this.joined(surface, mesh, key, progress);
    this.last.set(surface.id, made);
    return made;
  }

  /** All that an arrangement has placed, or a surface, where it stands; undefined where the scene has none such. */
  parts(id: string): PlacedMesh[] | undefined {
    const { surfaces, arrangements } = this.host.scene();
    const surface = surfaces.find((s) => s.id === id);
    if (surface) {
      const { mesh, matrix } = this.host.surface(id) ?? {};
      return mesh && matrix ? [{ mesh, matrix, wears: surface.material ?? undefined, of: id }] : [];
    }
    const arranged = this.host.arranged(id);
    const worn = wornAmong(arrangements);
    const looks: PropLooks = { prop: this.host.prop, wears: (...of) => worn(...of) ?? undefined };
    return arranged && placedMeshes(id, arranged, looks);
  }

  private joined(
    surface: Surface,
    spec: SolidSpec | NetworkSpec,
    key: string,
    progress?: (done: number) => void,
  ): Gathered {
    const { id } = surface;
    let have = this.kept.get(id);
    if (!have) this.kept.set(id, (have = { good: NOTHING, work: null }));
    const library = kernel();
    if (!library) return { ...have.good, done: 1, findings: [said(id, 'solid-waits', {})] };
    if (have.work?.key !== key) {
      have.work?.steps.return(undefined as never);
      have.work = null;
      this.unfinished.delete(id);
      if (have.good.key === key) return { ...have.good, done: 1 };
      const { inputs, said: found } = spec.source === 'solid' ? this.steps(id, spec) : this.tubes(id, spec);
      have.work = { key, steps: joining(library, inputs), done: 0, said: found };
    }
    return this.goOn(surface, have, have.work, progress);
  }

  private goOn(
    { id, name }: Surface,
    have: Kept,
    work: NonNullable<Kept['work']>,
    progress?: (done: number) => void,
  ): Gathered {
    try {
      do {
        const next = work.steps.next();
        if (next.done) {
          const { mesh, refused } = next.value;
          const findings = [...work.said, ...refused.map((r) => sayRefused(id, r))];
          if (mesh.indices.length === 0) findings.push(said(id, 'solid-nothing', {}));
          have.good = { key: work.key, mesh, findings };
          have.work = null;
          this.unfinished.delete(id);
          return { ...have.good, done: 1 };
        }
        work.done = next.value;
        progress?.(work.done);
      } while (this.host.goOn());
    } catch (error) {
      const message = error instanceof Error ? error.message : String(error);
      have.good = { key: work.key, mesh: undefined, findings: [said(id, 'failed', { message })] };
      have.work = null;
      this.unfinished.delete(id);
      return { ...have.good, done: 1 };
    }
    this.unfinished.set(id, { name, done: work.done });
    return { ...have.good, done: work.done };
  }

  private steps(id: string, { steps }: SolidSpec) {
    const missing: Finding[] = [];
    const inputs = steps.flatMap((s) => {
      const parts = s.on ? this.parts(s.of) : [];
      if (!parts) missing.push(said(id, 'solid-missing', {}));
      return s.on && parts ? [{ how: s.how, mend: s.mend, grain: s.grain, node: s.of, parts }] : [];
    });
    return { inputs, said: missing };
  }

  /** The tubes and joints of a network, and where its lines nearly meet. */
  private tubes(id: string, spec: NetworkSpec) {
    const strokes = spec.paths.map((path) => this.host.strokes(path));
    const found: Finding[] = strokes.includes(undefined) ? [said(id, 'network-missing', {})] : [];
    const { parts, misses } = networkOf(
      strokes.flatMap((s) => s ?? []),
      spec,
    );
    if (misses.length > 0) {
      // The nearest is the first.
      const told = misses.slice(0, MOST_MARKS);
      const amounts = told.map((m) => m.distance - 2 * spec.radius);
      found.push({
        ...said(id, 'network-near', { count: misses.length, apart: amounts[0] }),
        severity: 'warning',
        marks: told.map(({ a, b }) => [a, b]),
        amounts,
      });
    }
    return {
      inputs: [{ how: 'join' as const, mend: 'none' as const, grain: 0, node: id, parts }],
      said: found,
    };
  }

  private dust(id: string, spec: DustSpec, key: string): Gathered {
    const have = this.kept.get(id);
    if (have?.good.key === key) return { ...have.good, done: 1 };
    const over = spec.over.map((of) => this.parts(of));
    const findings: Finding[] = over.includes(undefined) ? [said(id, 'dust-missing', {})] : [];
    const made = dustSheet(
      over.flatMap((parts) => parts ?? []),
      spec,
    );
    if (made === null) findings.push(said(id, 'dust-nothing', {}));
    if (made === 'fine') findings.push(said(id, 'dust-fine', {}));
    const mesh = made === null || made === 'fine' ? undefined : made;
    const good = { key, mesh, findings };
    this.kept.set(id, { good, work: null });
    return { ...good, done: 1 };
  }

  keepOnly(stays: (id: string) => boolean): void {
    for (const [id, { work }] of this.kept) {
      if (stays(id)) continue;
      work?.steps.return(undefined as never);
      this.kept.delete(id);
      this.last.delete(id);
      this.unfinished.delete(id);
    }
  }
}

const said = (surface: string, kind: FindingKind, detail: Finding['detail']): Finding => ({
  kind,
  severity: 'error',
  node: surface,
  detail: { surface, ...detail },
});

const REFUSED: Record<Refused['why'], FindingKind> = {
  open: 'solid-open',
  unsound: 'solid-unsound',
  'inside-out': 'solid-inside-out',
  'many-cells': 'solid-many-cells',
  crossing: 'solid-crossing',
};

const sayRefused = (surface: string, { why, node, count, edges, marks }: Refused): Finding => ({
  ...said(surface, REFUSED[why], { of: node, count, edges }),
  marks,
  severity: why === 'crossing' ? 'warning' : 'error',
});
