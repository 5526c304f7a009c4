import { makeSurface, setShape } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { putMesh } from '@/store/keeping/scenes';
import { selectNode, useSelection } from '@/store/selection';

/** The longer side of a new height field, metres. */
const SIDE = 24;

/** A picture as a height field: a new surface, or another picture for the height field in hand. */
export async function bringInHeights(bytes: Uint8Array, fileName: string): Promise<void> {
  const { hash, format, width, height } = await engine().bringInPicture(bytes, fileName);
  await putMesh(hash, bytes);
  const picture = { hash, format, fileName: fileName.slice(0, 200) };
  const { node } = useSelection.getState();
  const held = useDocument
    .getState()
    .scene.surfaces.find((s) => node?.kind === 'surface' && s.id === node.id);
  if (held?.mesh.source === 'made' && held.mesh.shape.shape === 'picture') {
    dispatch(setShape, { id: held.id, values: { picture } });
    return;
  }
  const k = SIDE / Math.max(width, height);
  const made = dispatch(makeSurface, {
    shape: 'picture',
    name: fileName.replace(/\.(png|jpe?g)$/i, '').slice(0, 200) || 'Heights',
    values: {
      picture,
      width: Number((width * k).toFixed(3)),
      depth: Number((height * k).toFixed(3)),
      columns: Math.min(200, width - 1),
      rows: Math.min(200, height - 1),
    },
  });
  if (made) selectNode('surface', made);
}
