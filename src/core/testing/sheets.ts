import { quatRotate, type Quat } from '../math/quat';
import { type Vec3 } from '../math/vec3';
import { STATE, type Placements } from '../arrange/result';
import { Evaluator, type EvaluatedArrangement } from '../evaluate/scene';
import { shapeSchema } from '../mesh/make/schema';
import { emptyScene, newProp, newSurface } from '../scene/defaults';
import { pathSchema } from '../curve/schema';
import type { Scene } from '../scene/schema';
import { ASSETS } from './scene';
import { sheetSchema, type Sheet } from '../arrange/sheet/schema';

/** Sheets on walls whose every place is known. */

export const sheet = (more: object = {}): Sheet =>
  sheetSchema.parse({
    id: 'tiles',
    kind: 'sheet',
    name: 'Tiles',
    thread: 'moss',
    surface: 'wall',
    order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'p' } }] },
    ...more,
  });

/** The wall is a straight line from (radius, 0) to (top, height) turned about Y, or any other shape. */
export function worked(
  tiles: Sheet,
  wall: { radius: number; top?: number; height?: number; columns?: number } | object,
  change: (scene: Scene) => void = () => {},
): EvaluatedArrangement & { at(i: number): Vec3 } {
  const turned =
    'radius' in wall && !('shape' in wall)
      ? (wall as { radius: number; top?: number; height?: number; columns?: number })
      : null;
  const scene: Scene = {
    ...emptyScene('Sheets'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    surfaces: [
      newSurface('wall', 'Wall', {
        source: 'made',
        shape: shapeSchema.parse(
          turned ? { shape: 'turned', path: 'profile', columns: turned.columns ?? 60, rows: 16 } : wall,
        ),
        color: '#D8CDB6',
      }),
    ],
    paths: turned
      ? [
          pathSchema.parse({
            id: 'profile',
            name: 'Profile',
            source: {
              kind: 'points',
              points: [
                { id: 'a', kind: 'corner', position: [turned.radius, 0, 0] },
                { id: 'b', kind: 'corner', position: [turned.top ?? turned.radius, turned.height ?? 6, 0] },
              ],
            },
          }),
        ]
      : [],
    arrangements: [tiles],
  };
  change(scene);
  const result = new Evaluator(ASSETS).evaluate(scene).arrangements[0];
  const { position } = result.placements;
  return { ...result, at: (i) => [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]] };
}

export const placed = (p: Placements): number[] =>
  Array.from({ length: p.count }, (_, i) => i).filter((i) => p.state[i] === STATE.placed);
export const turn = (p: Placements, i: number, v: Vec3) =>
  quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, v);
