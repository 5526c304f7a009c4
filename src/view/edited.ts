import type { Path } from '@/core/scene/schema';
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

function pathOf(
  paths: Path[],
  arrangements: { id: string; paths: { path: string }[] }[],
  { node, points }: Pick<ReturnType<typeof useSelection.getState>, 'node' | 'points'>,
): Path | undefined {
  const id =
    node?.kind === 'path'
      ? node.id
      : node?.kind === 'arrangement'
        ? (points?.path ?? arrangements.find((a) => a.id === node.id)?.paths[0]?.path)
        : points?.path;
  return paths.find((p) => p.id === id);
}

export function useEditedPath(): Path | undefined {
  const paths = useDocument((s) => s.scene.paths);
  const arrangements = useDocument((s) => s.scene.arrangements);
  const node = useSelection((s) => s.node);
  const points = useSelection((s) => s.points);
  return pathOf(paths, arrangements, { node, points });
}
