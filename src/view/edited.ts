import { hasPoints, type Path, type PointsPath } from '@/core/curve/schema';
import { has, type Arrangement } from '@/core/arrange/registry';
import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';

/** The path whose points are shown for editing: the selected one, or that of the selected arrangement. */
export function editedPath(): Path | undefined {
  return pathOf(
    useDocument.getState().scene.paths,
    useDocument.getState().scene.arrangements,
    useSelection.getState(),
  );
}

const firstPathOf = (a: Arrangement | undefined) => (has(a, 'paths') ? a.paths[0]?.path : undefined);

function pathOf(
  paths: Path[],
  arrangements: Arrangement[],
  { node, points }: Pick<ReturnType<typeof useSelection.getState>, 'node' | 'points'>,
): Path | undefined {
  const id =
    node?.kind === 'path'
      ? node.id
      : node?.kind === 'arrangement'
        ? (points?.path ?? firstPathOf(arrangements.find((a) => a.id === node.id)))
        : points?.path;
  return paths.find((p) => p.id === id);
}

function useEditedPath(): Path | undefined {
  const paths = useDocument((s) => s.scene.paths);
  const arrangements = useDocument((s) => s.scene.arrangements);
  const node = useSelection((s) => s.node);
  const points = useSelection((s) => s.points);
  return pathOf(paths, arrangements, { node, points });
}

/** The path in hand if it has points of its own to move. */
export function useEditedPoints(): PointsPath | undefined {
  const path = useEditedPath();
  return hasPoints(path) ? path : undefined;
}
