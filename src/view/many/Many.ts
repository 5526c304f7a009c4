import { Frustum, Matrix4, OrthographicCamera, type Camera, type PerspectiveCamera } from 'three';
import type { ShownAs } from '@/store/commands/nodes';
import type { Block } from './Block';
import { pointLook } from './looks';
import { OF_BOX, planFor, type Budget, type Plan, type SeenBlock } from './plan';
import { askSimpler, simplerOf } from './simplers';

export interface Shown {
  batch: { blocks: readonly Block[]; sizes: ArrayLike<number> };
  as: ShownAs;
}

/** Chooses for every block how it is drawn, before each frame. */
export class Many {
  private frustum = new Frustum();
  private matrix = new Matrix4();

  /** @param redraw called when there are fewer triangles for a prop's mesh */
  constructor(private redraw: () => void) {}

  /** @param height of the view, pixels */
  choose(all: Iterable<Shown>, camera: Camera, height: number, budget: Budget): Plan {
    camera.updateMatrixWorld();
    this.matrix.multiplyMatrices(camera.projectionMatrix, camera.matrixWorldInverse);
    this.frustum.setFromProjectionMatrix(this.matrix);
    const shown = [...all].flatMap(({ batch, as }) =>
      batch.blocks.map((block, b) => ({ block, as, size: batch.sizes[b] })),
    );
    const seen = shown.map(({ block, as, size }): SeenBlock => {
      const { full } = block;
      const simpler = simplerOf(full.geometry);
      const own = (block.drawn.geometry.getIndex()?.count ?? 0) / 3;
      return {
        pixels: this.frustum.intersectsSphere(full.boundingSphere!)
          ? pixelsOf(camera, height, block, size)
          : 0,
        instances: full.count,
        full: as === 'boxes' ? OF_BOX : own,
        simple: as === 'boxes' ? OF_BOX : simpler ? simpler.triangles : Infinity,
        onlyPoints: as === 'points',
        asBoxes: as === 'boxes',
      };
    });
    const plan = planFor(seen, budget);
    const { levels, share, drawn } = plan;
    shown.forEach(({ block, as }, i) => {
      const simpler =
        levels[i] === 'simple' && as === 'full' ? simplerOf(block.full.geometry)?.geometry : undefined;
      block.show(levels[i], share, simpler ?? null, as === 'boxes' || levels[i] === 'boxes');
    });
    if (drawn.simple + drawn.boxes + drawn.points > 0) {
      // A shape that rows have of their own is another one soon.
      const kept = shown.filter(({ block }) => block.drawn.ref);
      for (const geometry of new Set(kept.map(({ block }) => block.full.geometry)))
        void askSimpler(geometry, this.redraw);
    }
    return plan;
  }
}

/** How large what stands in a block comes out where it is nearest, pixels. */
function pixelsOf(camera: Camera, height: number, { full, drawn }: Block, size: number): number {
  const { box } = pointLook(drawn);
  const across = box.min.distanceTo(box.max) * size;
  const scale =
    ((camera as PerspectiveCamera | OrthographicCamera).projectionMatrix.elements[5] * height) / 2;
  if (camera instanceof OrthographicCamera) return across * scale;
  const away = full.boundingBox!.distanceToPoint(camera.position);
  return (across * scale) / Math.max(away, across / 2);
}
