import { meshRefSchema } from '@/core/mesh/meshRef';
import { addProp } from '@/store/commands/scene';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectNode, useSelection } from '@/store/selection';
import { say } from '../uiState';

/** A stamp without pictures, ready to be given some. */
export function makeStamp(): void {
  const made = dispatch(addProp, { name: 'Stamp', mesh: meshRefSchema.parse({ source: 'stamp' }) });
  if (made) selectNode('prop', made);
}

/** The prop in hand, where it is one that a stamp can be made of. */
export function stampable() {
  const { node } = useSelection.getState();
  const { scene, readOnly } = useDocument.getState();
  if (readOnly || node?.kind !== 'prop') return undefined;
  return scene.props.find((p) => p.id === node.id && p.mesh.source !== 'stamp');
}

/** A stamp of a prop as it is seen from above: its colours, and its height over its foot. */
export async function stampOfProp(id: string): Promise<void> {
  const prop = useDocument.getState().scene.props.find((p) => p.id === id);
  if (!prop) return;
  const stamp = await engine().stampFrom(prop);
  if (!stamp)
    return say(`${prop.name} has nothing that could be seen from above, or its mesh is not at hand.`);
  const made = dispatch(addProp, { name: `${prop.name} stamp`, mesh: stamp });
  if (made) selectNode('prop', made);
}
