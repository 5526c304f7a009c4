import type { PropFacts } from '../arrange/context';
import { keptBounds, propBounds, propMatrix, type Bounds, type Mesh } from '../mesh/mesh';
import { ownSpace, type Sliced } from '../mesh/slice';
import { propShape, type PropShape } from '../mesh/contact/support';
import type { MeshRef } from '../mesh/meshRef';
import type { Prop } from '../mesh/propSchema';
import { isWheel } from '../arrange/poses/wheels';
import type { Posable } from '../arrange/poses/posable';
import { posable, withWheels } from '../arrange/poses/posedMesh';
import type { Motion } from '../mesh/motion';
import { keyOf } from './fingerprint';
import type { StampProp } from './stamps/laidRows';

/** A mesh by what it is, short. */
export function refKey(ref: MeshRef): string {
  switch (ref.source) {
    case 'built':
      return `built:${ref.name}`;
    case 'file':
      return ref.hash;
    case 'bundle':
      return `bundle:${ref.bundle}`;
    case 'line':
    case 'stamp':
      return JSON.stringify(ref);
  }
}

/** A prop's facts with what they were worked out from. */
interface Known {
  prop: Prop;
  mesh: Mesh | undefined;
  key: string;
  facts: PropFacts;
}

/** Facts of the props of a scene: those of a prop that is the same, with the same mesh, are kept. */
export class PropWork {
  private known = new Map<string, Known>();
  private meshes = new WeakMap<Mesh, { key: string; own: Sliced }>();
  private shapes = new WeakMap<Mesh, { key: string; shape: PropShape }>();
  /** Bounds in each prop's own space, metres; absent where the mesh is not at hand. */
  bounds: Record<string, Bounds> = {};

  get = (id: string): Known | undefined => this.known.get(id);

  /** A prop that is drawn into surfaces; undefined for one of another sort. */
  stamp(id: string): StampProp | undefined {
    const { prop, mesh } = this.known.get(id) ?? {};
    if (!mesh || prop?.mesh.source !== 'stamp') return undefined;
    return { stamp: prop.mesh, matrix: propMatrix(prop, keptBounds(mesh)) };
  }

  /** Takes the props of a scene. @returns whether any are others than before */
  take(
    props: readonly Prop[],
    meshOf: (ref: MeshRef) => Mesh | undefined,
    motionOf: (ref: MeshRef) => Motion | undefined,
  ): boolean {
    const before = this.known;
    this.known = new Map();
    let same = before.size === props.length;
    for (const prop of props) {
      const mesh = meshOf(prop.mesh);
      const have = before.get(prop.id);
      const kept = have?.prop === prop && have.mesh === mesh;
      this.known.set(prop.id, kept ? have : { prop, mesh, ...this.factsOf(prop, mesh, motionOf) });
      same &&= kept;
    }
    if (same) return false;
    this.bounds = {};
    for (const [id, { facts }] of this.known) if (facts.state === 'ready') this.bounds[id] = facts.bounds;
    return true;
  }

  private factsOf(
    prop: Prop,
    mesh: Mesh | undefined,
    motionOf: (ref: MeshRef) => Motion | undefined,
  ): { key: string; facts: PropFacts } {
    const { snapPoints } = prop;
    const settings = [refKey(prop.mesh), prop.unitScale, prop.foot, prop.front, prop.up, snapPoints];
    if (!mesh) return { key: keyOf(['missing', settings]), facts: { state: 'mesh-missing' } };
    if (mesh.indices.length < 3) return { key: keyOf(['empty', settings]), facts: { state: 'mesh-empty' } };
    const whole = keptBounds(mesh);
    const key = keyOf(settings);
    const own = () => this.ownMesh(mesh, key, propMatrix(prop, whole));
    const shape = () =>
      this.shapeOf(mesh, key, () => propShape(mesh.positions, propMatrix(prop, whole), mesh.indices));
    let poses: Posable | null | undefined;
    const motion = motionOf(prop.mesh);
    return {
      key,
      facts: {
        state: 'ready',
        bounds: propBounds(prop, whole),
        shape,
        mesh: own,
        snapPoints,
        ...(prop.mesh.source === 'line' && { fit: prop.mesh.strands > 1 ? 'repeat' : 'stretch' }),
        ...((motion || snapPoints.some(isWheel)) && {
          posable: () => {
            if (poses !== undefined) return poses;
            const plain = motion ? posable(key, mesh, motion, propMatrix(prop, whole)) : null;
            return (poses = withWheels(key, own(), snapPoints, plain));
          },
        }),
      },
    };
  }

  /** A prop's mesh in its own space, kept so that slices of it are too. */
  private ownMesh(mesh: Mesh, key: string, matrix: Float64Array): Sliced {
    const have = this.meshes.get(mesh);
    if (have?.key === key) return have.own;
    const own = ownSpace(mesh, matrix);
    this.meshes.set(mesh, { key, own });
    return own;
  }

  private shapeOf(mesh: Mesh, key: string, make: () => PropShape): PropShape {
    const have = this.shapes.get(mesh);
    if (have?.key === key) return have.shape;
    const shape = make();
    this.shapes.set(mesh, { key, shape });
    return shape;
  }
}
