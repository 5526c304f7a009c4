import type { CompiledPath } from '../../curve/compile';
import type { Mesh } from '../mesh';
import { gridMesh, type Grid } from './grid';
import { MOST_TRIANGLES } from './limits';
import { pictureField, type GreyPicture } from './picture';
import { box, hills, plane, sphere, torus } from './plain';
import type { SurfaceShape } from './schema';
import { withLids, type Lid } from './lids';
import { sweptProfile } from './sweptProfile';
import { loft, loftLids, strip, tube, turned, turnedLids } from './swept';

export type { SurfaceShape } from './schema';

/** What surfaces may be made from; undefined where it is not at hand, or broken. */
export interface MakeContext {
  path(id: string): CompiledPath | undefined;
  /** All strokes of a path, where it has more than one. */
  strokes?(id: string): CompiledPath[] | undefined;
  picture?(hash: string): GreyPicture | undefined;
}

export type MakeProblem =
  | 'surface-picture-missing'
  | 'surface-path-missing'
  | 'surface-too-few-paths'
  | 'surface-no-profile'
  | 'surface-too-fine';

type GridShape = Exclude<SurfaceShape, { shape: 'swept' }>;

/** Ids of the paths that a shape is made from. */
export function shapePaths(shape: SurfaceShape): string[] {
  if (shape.shape === 'loft') return shape.paths;
  if (shape.shape === 'swept') return shape.profile === null ? [shape.path] : [shape.path, shape.profile];
  return 'path' in shape ? [shape.path] : [];
}

/**
 * Makes a surface's mesh, metres, Y up, faces outside (or up).
 */
export function makeMesh(shape: SurfaceShape, color: string, context: MakeContext): Mesh | MakeProblem {
  if ('columns' in shape && shape.columns * shape.rows * 2 > MOST_TRIANGLES) return 'surface-too-fine';
  if (shape.shape === 'swept') return swept(shape, color, context);
  const grids = gridsOf(shape, context);
  if (typeof grids === 'string') return grids;
  const mesh = gridMesh(grids, color);
  return 'ends' in shape && shape.ends ? withLids(mesh, lidsOf(shape, grids[0], context)) : mesh;
}

function lidsOf(shape: Extract<GridShape, { ends: boolean }>, grid: Grid, { path }: MakeContext): Lid[] {
  if (shape.shape === 'turned') return turnedLids(shape, path(shape.path)!, grid);
  return loftLids(
    shape.paths.map((id) => path(id)!),
    grid,
  );
}

function swept(
  shape: Extract<SurfaceShape, { shape: 'swept' }>,
  color: string,
  context: MakeContext,
): Mesh | MakeProblem {
  const path = context.path(shape.path);
  const profile = shape.profile === null ? null : context.path(shape.profile);
  if (!path || profile === undefined) return 'surface-path-missing';
  return sweptProfile(shape, context.strokes?.(shape.path) ?? [path], profile, color);
}

function gridsOf(shape: GridShape, context: MakeContext): Grid[] | MakeProblem {
  switch (shape.shape) {
    case 'plane':
      return plane(shape);
    case 'hills':
      return hills(shape);
    case 'picture': {
      const picture = shape.picture ? context.picture?.(shape.picture.hash) : undefined;
      return picture ? pictureField(shape, picture) : 'surface-picture-missing';
    }
    case 'sphere':
      return sphere(shape);
    case 'torus':
      return torus(shape);
    case 'box':
      return box(shape);
    case 'turned':
    case 'strip':
    case 'tube': {
      const path = context.path(shape.path);
      if (!path) return 'surface-path-missing';
      if (shape.shape === 'turned') return turned(shape, path);
      const strokes = context.strokes?.(shape.path) ?? [path];
      if (shape.columns * shape.rows * 2 * strokes.length > MOST_TRIANGLES) return 'surface-too-fine';
      return shape.shape === 'strip' ? strip(shape, strokes) : tube(shape, strokes);
    }
    case 'loft': {
      const paths = shape.paths.map((id) => context.path(id));
      if (paths.some((p) => !p)) return 'surface-path-missing';
      return paths.length < 2 ? 'surface-too-few-paths' : loft(shape, paths as CompiledPath[]);
    }
  }
}
