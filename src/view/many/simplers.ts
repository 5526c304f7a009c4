import { BufferAttribute, BufferGeometry } from 'three';
import type { Simpler } from '@/engine/simpler';
import { engine } from '@/store/engine';

/** A geometry in fewer triangles between its own vertices. */
interface SimplerGeometry {
  geometry: BufferGeometry;
  triangles: number;
  /** How far from the geometry it may lie, in units of its own. */
  off: number;
}

interface Made {
  /** What its vertices were then. */
  version: number;
  /** Null as long as it is looked for. */
  found: SimplerGeometry | null;
}

/** What was found for a geometry, by how far from it that may lie. */
const made = new WeakMap<BufferGeometry, Map<number, Made>>();

/** As little as one sees of what is far away. */
const FAR = 0;

const versionOf = (geometry: BufferGeometry): number =>
  (geometry.getAttribute('position') as BufferAttribute).version;

/**
 * What there is of a geometry in fewer triangles, by now.
 * @param within how far from it they may lie, in its units; 0: as little as one sees of what is far away
 */
export function simplerOf(geometry: BufferGeometry, within = FAR): SimplerGeometry | undefined {
  const have = made.get(geometry)?.get(within);
  return (have?.version === versionOf(geometry) && have.found) || undefined;
}

/**
 * Has the worker find fewer triangles for a geometry, once.
 * @param then called when they are there @param within as in {@link simplerOf}
 */
export async function askSimpler(geometry: BufferGeometry, then?: () => void, within = FAR): Promise<void> {
  const version = versionOf(geometry);
  const all = made.get(geometry) ?? new Map<number, Made>();
  made.set(geometry, all);
  if (all.get(within)?.version === version) return;
  const asked: Made = { version, found: null };
  all.set(within, asked);
  const shape = {
    positions: geometry.getAttribute('position').array as Float32Array,
    indices: geometry.getIndex()!.array as Uint32Array,
    groups: geometry.groups.map(({ materialIndex: material = 0, ...group }) => ({ ...group, material })),
  };
  const found = await engine().simpler(shape, within || undefined);
  if (all.get(within) !== asked) return;
  asked.found = {
    geometry: inTriangles(geometry, found, within),
    triangles: found.indices.length / 3,
    off: found.off,
  };
  then?.();
}

/** Geometries that share vertices with others, by these: they go with them. */
const sharing = new WeakMap<BufferGeometry, Map<number, BufferGeometry>>();

function inTriangles(of: BufferGeometry, { indices, groups }: Simpler, within: number): BufferGeometry {
  const all = sharing.get(of) ?? new Map<number, BufferGeometry>();
  sharing.set(of, all);
  let out = all.get(within);
  if (!out) {
    const made = (out = new BufferGeometry());
    all.set(within, made);
    for (const [name, values] of Object.entries(of.attributes)) made.setAttribute(name, values);
    of.addEventListener('dispose', () => made.dispose());
  }
  out.setIndex(new BufferAttribute(indices, 1));
  out.clearGroups();
  for (const g of groups) out.addGroup(g.start, g.count, g.material);
  out.boundingSphere = of.boundingSphere;
  return out;
}
