import type { Assets } from '../evaluate/scene';
import type { Mesh } from '../mesh/mesh';
import { emptyScene, newEntry, newPath, newProp, newRun, newSurface } from '../scene/defaults';
import type { Run } from '../arrange/run/schema';
import type { PathPoint, PointsPath } from '../curve/schema';
import type { Scene } from '../scene/schema';
import { ridersSchema } from '../arrange/riders/schema';
import { points } from './paths';

/** A box of 0.4 × 0.6 × 0.5 m that does not stand at its origin. */
export function exampleMesh(): Mesh {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].map((c) => [
    1 + (c & 1) * 0.4,
    2 + ((c >> 1) & 1) * 0.6,
    3 + ((c >> 2) & 1) * 0.5,
  ]);
  const faces = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ];
  const normals = [
    [0, 0, -1],
    [0, 0, 1],
    [0, -1, 0],
    [0, 1, 0],
    [-1, 0, 0],
    [1, 0, 0],
  ];
  const indices = faces.flatMap((_, f) => [0, 1, 2, 0, 2, 3].map((k) => f * 4 + k));
  return {
    positions: Float32Array.from(faces.flatMap((f) => f.flatMap((c) => corners[c]))),
    normals: Float32Array.from(normals.flatMap((n) => [n, n, n, n].flat())),
    indices: Uint32Array.from(indices),
    groups: [{ start: 0, count: indices.length, material: 0 }],
    materials: [
      {
        name: 'm',
        color: [0.5, 0.4, 0.3, 1],
        metallic: 0,
        roughness: 1,
        emissive: [0, 0, 0],
        doubleSided: false,
      },
    ],
  };
}

const box = exampleMesh();
const floor: Mesh = {
  ...box,
  positions: new Float32Array([-9, 0, 9, 9, 0, 9, 9, 0, -9, -9, 0, -9]),
  normals: new Float32Array([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]),
  indices: new Uint32Array([0, 1, 2, 0, 2, 3]),
  groups: [{ start: 0, count: 6, material: 0 }],
};

/** Meshes "box" and "floor"; anything else is not at hand. */
export const ASSETS: Assets = {
  mesh: (ref) => (ref.source === 'built' ? { box, floor }[ref.name] : undefined),
};

/** A floor, a smooth path, and a run of two props with gaps and variation. */
export function exampleScene(): Scene {
  const scene = emptyScene('Example');
  scene.nextId = 100;
  scene.props = [
    newProp('prop1', 'Box', { source: 'built', name: 'box' }),
    newProp('prop2', 'Other box', { source: 'built', name: 'box' }),
  ];
  scene.surfaces = [newSurface('surface3', 'Floor', { source: 'built', name: 'floor' })];
  scene.paths = [
    newPath(
      'path4',
      'Path',
      points('smooth', [
        [-6, 0, 0],
        [-1, 0, 3],
        [3, 1, -2],
        [7, 0, 1],
      ]),
    ),
  ];
  const run = newRun('run5', 'Row, “quoted”', 'woad', 'path4', [
    newEntry('entry6', { kind: 'prop', prop: 'prop1' }),
    newEntry('entry7', { kind: 'prop', prop: 'prop2' }),
    newEntry('entry8', { kind: 'pause' }),
  ]);
  run.gaps.chance = 0.2;
  run.variation.turnDeg = [-30, 30];
  run.variation.size = [0.9, 1.1];
  scene.arrangements = [run];
  return scene;
}

/** The first arrangement of a scene, which is a run. */
export const firstRun = (scene: Scene): Run => scene.arrangements[0] as Run;
/** The points of the first path of a scene. */
export const firstPoints = (scene: Scene): PathPoint[] => (scene.paths[0] as PointsPath).source.points;

/** Riders on riders on the first arrangement of a scene, so many deep. */
export function towerOn(scene: Scene, deep: number): Scene {
  const prop = scene.props[0].id;
  for (let i = 0; i < deep; i++)
    scene.arrangements.push(
      ridersSchema.parse({
        kind: 'riders',
        id: `riders${i}`,
        name: `Storey ${i}`,
        thread: 'moss',
        on: i === 0 ? scene.arrangements[0].id : `riders${i - 1}`,
        props: [{ prop, weight: 1 }],
      }),
    );
  return scene;
}
