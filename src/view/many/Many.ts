import {
  Frustum,
  Matrix4,
  OrthographicCamera,
  type BufferGeometry,
  type Camera,
  type PerspectiveCamera,
} from 'three';
import type { Simpler } from '@/engine/simpler';
import type { ShownAs } from '@/store/commands/nodes';
import type { DrawnMesh } from '../sceneMeshes';
import type { Block } from './Block';
import { pointLook, simplerGeometry } from './looks';
import { OF_BOX, planFor, type Budget, type Plan, type SeenBlock } from './plan';

export interface Shown {
  batch: { blocks: readonly Block[]; sizes: ArrayLike<number> };
  as: ShownAs;
}

/** Chooses for every block how it is drawn, before each frame. */
export class Many {
  private simpler = new WeakMap<DrawnMesh, Simpler | 'asked'>();
  private geometries = new WeakMap<BufferGeometry, BufferGeometry>();
  private frustum = new Frustum();
  private matrix = new Matrix4();

  /**
   * @param ask fetches fewer triangles for a prop's mesh
   * @param redraw called when they are there
   */
  constructor(
    private ask: (drawn: DrawnMesh) => Promise<Simpler | undefined> | undefined,
    private redraw: () => void,
  ) {}

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
      const simpler = this.simplerOf(block.drawn);
      const own = (block.drawn.geometry.getIndex()?.count ?? 0) / 3;
      return {
        pixels: this.frustum.intersectsSphere(full.boundingSphere!)
          ? pixelsOf(camera, height, block, size)
          : 0,
        instances: full.count,
        full: as === 'boxes' ? OF_BOX : own,
        simple: as === 'boxes' ? OF_BOX : simpler ? simpler.indices.length / 3 : Infinity,
        onlyPoints: as === 'points',
        asBoxes: as === 'boxes',
      };
    });
    const plan = planFor(seen, budget);
    const { levels, share, drawn } = plan;
    shown.forEach(({ block, as }, i) => {
      const simpler = levels[i] === 'simple' && as === 'full' ? this.simplerOf(block.drawn) : undefined;
      block.show(
        levels[i],
        share,
        simpler ? this.geometry(block.full.geometry, simpler, block.drawn) : null,
        as === 'boxes' || levels[i] === 'boxes',
      );
    });
    if (drawn.simple + drawn.boxes + drawn.points > 0) this.fetch(shown.map(({ block }) => block.drawn));
    return plan;
  }

  private simplerOf(drawn: DrawnMesh): Simpler | undefined {
    const have = this.simpler.get(drawn);
    return have === 'asked' ? undefined : have;
  }

  private fetch(meshes: DrawnMesh[]): void {
    for (const drawn of new Set(meshes)) {
      if (this.simpler.has(drawn)) continue;
      this.simpler.set(drawn, 'asked');
      void this.ask(drawn)?.then((found) => {
        if (!found) return;
        this.simpler.set(drawn, found);
        this.redraw();
      });
    }
  }

  /** Fewer triangles between the vertices of a geometry; of a mirrored one with their faces outside. */
  private geometry(of: BufferGeometry, simpler: Simpler, drawn: DrawnMesh): BufferGeometry {
    let made = this.geometries.get(of);
    if (!made) this.geometries.set(of, (made = simplerGeometry(of, simpler, of !== drawn.geometry)));
    return made;
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
