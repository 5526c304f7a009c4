import { meshBounds } from '@/core/mesh/mesh';
import type { Prop } from '@/core/mesh/propSchema';
import { snapPointsKept } from '@/core/mesh/snapPoints';
import { engine } from '@/store/engine';

/** How a prop lies on its mesh. */
export type Lie = Partial<Pick<Prop, 'foot' | 'front' | 'up' | 'unitScale'>>;

/** What is to be set so that a prop lies otherwise on its mesh: its snap points stay where they are on that. */
export async function lying(prop: Prop, lie: Lie): Promise<Lie & Partial<Pick<Prop, 'snapPoints'>>> {
  const values = lie.up && lie.up[1] === prop.front[1] && !lie.front ? { ...lie, front: prop.up } : lie;
  const mesh = prop.snapPoints.length > 0 ? await engine().mesh(prop.mesh) : undefined;
  const after = { ...prop, ...values };
  const snapPoints = mesh && snapPointsKept(prop.snapPoints, prop, after, meshBounds(mesh));
  return { ...values, ...(snapPoints && { snapPoints }) };
}
