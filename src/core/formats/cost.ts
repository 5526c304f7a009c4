import type { Placements } from '../arrange/result';
import { STATE } from '../arrange/result';
import type { Inside } from '../arrange/inside';
import { slotName } from '../arrange/slotId';
import type { Assets, EvaluatedArrangement, SceneResult } from '../evaluate/scene';
import type { Scene } from '../scene/schema';
import { meshBytes } from './animationSize';

/** What a node of a scene costs to draw, to hold and to send. */
export interface Cost {
  id: string;
  of: 'arrangement' | 'prop' | 'surface';
  /** How many props it has placed; of a prop, how often it is placed. */
  placed: number;
  /** Triangles that are drawn of it when all is drawn in full. */
  triangles: number;
  /** Bytes that are held for it: arrays of its results and of its meshes, and a matrix a placed prop. */
  memory: number;
  /** About how many bytes of a `.glb` with instances are its own. */
  file: number;
}

/** Bytes of an instance's matrix where it is drawn. */
const MATRIX = 64;
/** Place, turn and size of an instance in a file, and what names a group of them. */
const INSTANCE = 12 + 16 + 12;
const GROUP = 900;

/** Bytes of all typed arrays of a flat structure. */
const arrays = (of: object): number =>
  Object.values(of).reduce<number>((sum, v) => sum + (ArrayBuffer.isView(v) ? v.byteLength : 0), 0);

/**
 * What all that is shown costs. Copies of bundles count by what they hold; a mesh that many use is held and sent once,
 * and counts as its prop's.
 */
export function costsOf(scene: Scene, result: SceneResult, assets: Assets): Cost[] {
  const byProp = new Map<string, Cost>();
  const trianglesOf = new Map<string, number>();
  for (const { id, mesh: ref } of scene.props) {
    if (ref.source === 'bundle') continue;
    const mesh = assets.mesh(ref);
    // A stamp is drawn into the surface that it lies on.
    trianglesOf.set(id, mesh && ref.source !== 'stamp' ? mesh.indices.length / 3 : 0);
    const bytes = mesh ? meshBytes(mesh) : 0;
    byProp.set(id, { id, of: 'prop', placed: 0, triangles: 0, memory: bytes, file: 0 });
  }
  const arrangements = scene.arrangements.flatMap((a, i): Cost[] => {
    if (!a.visible) return [];
    const cost: Cost = { id: a.id, of: 'arrangement', placed: 0, triangles: 0, memory: 0, file: 0 };
    const r = result.arrangements[i];
    const count = (prop: string, triangles = trianglesOf.get(prop) ?? 0) => {
      const own = byProp.get(prop);
      cost.placed++;
      cost.triangles += triangles;
      cost.memory += MATRIX;
      cost.file += INSTANCE;
      if (!own) return;
      own.placed++;
      own.triangles += triangles;
    };
    const copies = countInside(r.inside, count);
    cost.file += countPlaced(r.placements, copies, count);
    cost.memory += arrays(r.placements) + (r.inside ? arrays(r.inside) : 0);
    for (const bent of [...(r.placements.bent ?? []), ...(r.inside?.bent ?? [])]) {
      cost.memory += arrays(bent);
      cost.file += bent.positions.length * 4 + arrays({ ...bent, positions: null }) + GROUP;
    }
    cost.file += namesOf(r);
    return [cost];
  });
  for (const own of byProp.values()) if (own.placed > 0) own.file = own.memory + GROUP;
  const surfaces = scene.surfaces.flatMap((s, i): Cost[] => {
    const { mesh } = result.surfaces[i];
    if (!s.visible || !mesh) return [];
    const bytes = meshBytes(mesh);
    return [
      {
        id: s.id,
        of: 'surface',
        placed: 0,
        triangles: mesh.indices.length / 3,
        memory: bytes,
        file: bytes + GROUP,
      },
    ];
  });
  return [...arrangements, ...[...byProp.values()].filter((c) => c.placed > 0), ...surfaces];
}

type Count = (prop: string, triangles?: number) => void;

/** Counts what is placed beside copies of bundles. @returns bytes of the groups that they are written in */
function countPlaced(p: Placements, copies: ReadonlySet<number>, count: Count): number {
  const groups = new Set<string>();
  for (let row = 0; row < p.count; row++) {
    if (p.state[row] !== STATE.placed || copies.has(row)) continue;
    const shape = p.shape?.[row] ?? -1;
    const bent = shape >= 0 ? p.bent?.[shape] : undefined;
    count(p.props[p.prop[row]], bent && bent.indices.length / 3);
    groups.add(`${p.prop[row]} ${shape} ${p.pose?.[row] ?? -1}`);
  }
  return groups.size * GROUP;
}

/** Counts what copies of bundles hold. @returns the rows that are such copies */
function countInside(inside: Inside | undefined, count: Count): ReadonlySet<number> {
  if (!inside) return new Set();
  for (let i = 0; i < inside.count; i++) {
    if (inside.bundle[i]) continue;
    const shape = inside.shape?.[i] ?? -1;
    const bent = shape >= 0 ? inside.bent?.[shape] : undefined;
    count(inside.props[inside.prop[i]], bent && bent.indices.length / 3);
  }
  return new Set(inside.copy);
}

/** Bytes of the names of slots, which go along as text. */
function namesOf({ placements: p }: EvaluatedArrangement): number {
  let bytes = 0;
  for (let i = 0; i < p.count; i++) if (p.state[i] === STATE.placed) bytes += slotName(p.slot[i]).length + 3;
  return bytes;
}
