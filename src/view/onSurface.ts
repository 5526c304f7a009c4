import { Triangle, Vector3, type BufferGeometry, type Mesh } from 'three';
import type { MeshBVH } from 'three-mesh-bvh';
import type { Vec3 } from '@/core/math/vec3';
import { placeMatrix, through, throughInverse } from '@/core/mesh/surface';
import { hasPoints, type PathPoint, type PointsPath } from '@/core/curve/schema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import type { PathResult } from '@/core/evaluate/scene';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { currentView } from '@/view/handle';

/**
 * Paths that lie on a surface keep their points in that surface's own frame, as it is at rest. What is shown and
 * dragged are the places where they have come to; these go from one to the other.
 */

const surfaceOf = (id: string): Surface | undefined =>
  useDocument.getState().scene.surfaces.find((s) => s.id === id);

function drawn(id: string): Mesh | undefined {
  let found: Mesh | undefined;
  currentView()?.scene.traverseVisible((o) => {
    if (o.userData.surface === id) found = o as Mesh;
  });
  return found;
}

const round = (p: Vec3): Vec3 => [Number(p[0].toFixed(7)), Number(p[1].toFixed(7)), Number(p[2].toFixed(7))];

/** The nearest place of a shown surface: how far away, and where it is on the surface at rest; null where none is. */
export function restPlace(id: string, at: Vec3): { away: number; rest: Vec3 } | null {
  const surface = surfaceOf(id);
  const mesh = drawn(id);
  const served = engine().state.result.surfaces.get(id);
  if (!surface || !mesh || !served) return null;
  const geometry = mesh.geometry as BufferGeometry & { boundsTree?: MeshBVH };
  const local = mesh.worldToLocal(new Vector3(...at));
  const hit = geometry.boundsTree?.closestPointToPoint(local);
  if (!hit) return null;
  const away = mesh.localToWorld(hit.point.clone()).distanceTo(new Vector3(...at));
  const undeformed = served.rest?.undeformed;
  // A mesh just as it was brought in is drawn where it stands: its own frame is one step back.
  if (!undeformed)
    return {
      away,
      rest: round(throughInverse(placeMatrix(surface), mesh.localToWorld(hit.point).toArray())),
    };
  const index = geometry.getIndex()!;
  const corners = [0, 1, 2].map((k) => index.getX(hit.faceIndex * 3 + k));
  const position = geometry.getAttribute('position');
  const [a, b, c] = corners.map((k) => new Vector3().fromBufferAttribute(position, k));
  const weights = Triangle.getBarycoord(hit.point, a, b, c, new Vector3())?.toArray() ?? [1, 0, 0];
  const rest = [0, 1, 2].map((axis) =>
    corners.reduce((sum, k, i) => sum + undeformed[k * 3 + axis] * weights[i], 0),
  ) as Vec3;
  return { away, rest: round(rest) };
}

/** How near to a surface a drawn point lies on it, metres. */
const ON = 2e-3;

/** The shown surface on which all of these places lie, with where that is at rest; null where there is none. */
export function surfaceUnder(points: Vec3[]): { id: string; rest: Vec3[] } | null {
  for (const { id, visible } of useDocument.getState().scene.surfaces) {
    if (!visible) continue;
    const rest = points.map((p) => restPlace(id, p));
    if (rest.every((r) => r !== null && r.away <= ON)) return { id, rest: rest.map((r) => r!.rest) };
  }
  return null;
}

/** A place in the scene as a path keeps it: on its surface at rest, else just as it is. */
export function kept(path: PointsPath, at: Vec3): Vec3 {
  const { on } = path.source;
  const surface = on ? surfaceOf(on) : undefined;
  if (!on || !surface) return at;
  return restPlace(on, at)?.rest ?? throughInverse(placeMatrix(surface), at);
}

/** A way or an axis in the scene as a path keeps it. */
export function keptWay(path: PointsPath, way: Vec3): Vec3 {
  const surface = path.source.on ? surfaceOf(path.source.on) : undefined;
  if (!surface) return way;
  const m = placeMatrix({ ...surface, position: [0, 0, 0] });
  return throughInverse(m, way);
}

/** A path's points where they are now: where a surface has carried them, or what they are connected to. */
export function shownPoints(path: PointsPath, result: PathResult | undefined): PathPoint[] {
  const { points, on } = path.source;
  if (!result?.ok) return points;
  const surface = on ? surfaceOf(on) : undefined;
  const m = surface && placeMatrix({ ...surface, position: [0, 0, 0] });
  const turned = (way: Vec3): Vec3 => (m ? through(m, way) : way);
  const out = [...points];
  for (const { carried, firstPoint } of result.strokes)
    for (let i = 0; carried && i * 3 < carried.length && firstPoint + i < out.length; i++) {
      const p = points[firstPoint + i];
      out[firstPoint + i] = {
        ...p,
        position: [carried[i * 3], carried[i * 3 + 1], carried[i * 3 + 2]],
        handleIn: turned(p.handleIn),
        handleOut: turned(p.handleOut),
      };
    }
  return out;
}

/** Where the points of a path of the scene are now, by its id. */
export function shownPointsOf(id: string): PathPoint[] {
  const path = useDocument.getState().scene.paths.find((p) => p.id === id);
  return hasPoints(path) ? shownPoints(path, engine().state.result.paths.get(id)) : [];
}
