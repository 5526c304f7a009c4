import { compilePath } from '@/core/curve/compile';
import { pointAt } from '@/core/curve/sample';
import { hasPoints, type PathPoint } from '@/core/curve/schema';
import type { Vec3 } from '@/core/math/vec3';
import { duplicatePoints } from '@/store/commands/pathEdits';
import { movePoints } from '@/store/commands/paths';
import { cancelGesture, dispatch, endGesture, useDocument } from '@/store/document';
import { selectNode, selectPoints } from '@/store/selection';
import type { ViewHandle } from './handle';
import { dragPlane, minus, plus } from './overlay/followPointer';
import { onPlane } from './project';
import { pathUnder } from './scenePick';

/** Dragging a copy of one stroke of a path away from it, with Alt. */
export class StrokeCopy {
  /** Where the copy's points were when it was made; none before the pointer has moved. */
  private start: Record<string, Vec3> | null = null;

  private constructor(
    private path: string,
    private points: readonly PathPoint[],
    private from: Vec3,
  ) {}

  /** Begins at a pixel; null where no path with free points of its own is. */
  static at(x: number, y: number): StrokeCopy | null {
    const under = pathUnder(x, y);
    const path = useDocument.getState().scene.paths.find((p) => p.id === under?.id);
    // Points on a surface are dragged over it one by one.
    if (!under || !hasPoints(path) || path.source.on) return null;
    const compiled = compilePath(path);
    const curve = compiled.ok ? compiled.strokes[under.stroke] : undefined;
    if (!curve) return null;
    const { points } = path.source;
    let end = curve.firstPoint + 1;
    while (end < points.length && !points[end].begins) end++;
    return new StrokeCopy(path.id, points.slice(curve.firstPoint, end), pointAt(curve, under.s));
  }

  private get key() {
    return `copy a stroke of ${this.path}`;
  }

  move(view: ViewHandle, x: number, y: number): void {
    const at = onPlane(view, x, y, dragPlane(view, false), this.from);
    if (!at) return;
    if (!this.start) {
      endGesture();
      const ids = this.points.map((p) => p.id);
      const made = dispatch(duplicatePoints, { path: this.path, ids, aside: 0 }, this.key)?.split(' ') ?? [];
      this.start = Object.fromEntries(made.map((id, i) => [id, this.points[i].position]));
      selectNode('path', this.path);
      selectPoints(this.path, made);
    }
    const by = minus(at, this.from);
    const to = Object.fromEntries(Object.entries(this.start).map(([id, p]) => [id, plus(p, by)]));
    dispatch(movePoints, { path: this.path, to }, this.key);
  }

  end(): void {
    endGesture();
  }

  cancel(): void {
    cancelGesture(this.key);
  }
}
