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

/** What was found for a geometry as its vertices were then; null as long as it is looked for. */
const made = new WeakMap<BufferGeometry, { version: number; found: SimplerGeometry | null }>();

const versionOf = (geometry: BufferGeometry): number =>
  (geometry.getAttribute('position') as BufferAttribute).version;

/** What there is of a geometry in fewer triangles, by now. */
export function simplerOf(geometry: BufferGeometry): SimplerGeometry | undefined {
  const have = made.get(geometry);
  return (have?.version === versionOf(geometry) && have.found) || undefined;
}

/** Has the worker find fewer triangles for a geometry, once. @param then called when they are there */
export async function askSimpler(geometry: BufferGeometry, then?: () => void): Promise<void> {
  const version = versionOf(geometry);
  if (made.get(geometry)?.version === version) return;
  const asked = { version, found: null };
  made.set(geometry, asked);
  const found = await engine().simpler({
    positions: geometry.getAttribute('position').array as Float32Array,
    indices: geometry.getIndex()!.array as Uint32Array,
    groups: geometry.groups.map(({ materialIndex: material = 0, ...group }) => ({ ...group, material })),
  });
  if (made.get(geometry) !== asked) return;
  made.set(geometry, {
    version,
    found: { geometry: inTriangles(geometry, found), triangles: found.indices.length / 3, off: found.off },
  });
  then?.();
}

/** Geometries that share vertices with others, by these: they go with them. */
const sharing = new WeakMap<BufferGeometry, BufferGeometry>();

function inTriangles(of: BufferGeometry, { indices, groups }: Simpler): BufferGeometry {
  let out = sharing.get(of);
  if (!out) {
    const made = (out = new BufferGeometry());
    sharing.set(of, made);
    for (const [name, values] of Object.entries(of.attributes)) made.setAttribute(name, values);
    of.addEventListener('dispose', () => made.dispose());
  }
  out.setIndex(new BufferAttribute(indices, 1));
  out.clearGroups();
  for (const g of groups) out.addGroup(g.start, g.count, g.material);
  out.boundingSphere = of.boundingSphere;
  return out;
}
