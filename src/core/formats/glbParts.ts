import { Document, type Accessor, type Mesh as GltfMesh } from '@gltf-transform/core';
import type { Mesh } from '../mesh/mesh';
import { MaterialWriter } from './glbMaterials';

/** The parts of one file: buffers, materials and meshes are shared. */
export class GlbParts {
  readonly document = new Document();
  readonly buffer = this.document.createBuffer();
  readonly scene = this.document.createScene();
  private materials = new MaterialWriter(this.document);
  private meshes = new Map<string, GltfMesh>();
  private numbers = new Map<object, number>();

  constructor(name: string) {
    this.document.getRoot().getAsset().generator = 'Clothesline';
    this.scene.setName(name);
    this.document.getRoot().setDefaultScene(this.scene);
  }

  /** A number for an object that several share. */
  numberOf(shape: object): number {
    let n = this.numbers.get(shape);
    if (n === undefined) this.numbers.set(shape, (n = this.numbers.size));
    return n;
  }

  accessor(type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4', array: Float32Array | Uint32Array): Accessor {
    return this.document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(this.buffer);
  }

  /**
   * The mesh of one prop or surface, mapped by `matrix` (column-major), made once for each list of its materials.
   * @param mirrored left to right, in the mapped space
   */
  mesh(of: string, name: string, mesh: Mesh, matrix: ArrayLike<number>, mirrored = false): GltfMesh {
    const key = `${of} in ${this.numberOf(mesh.materials)}`;
    const have = this.meshes.get(key);
    if (have) return have;
    const { positions, normals } = mapMesh(
      mesh,
      mirrored ? Array.from(matrix, (v, i) => (i % 4 === 0 ? -v : v)) : matrix,
    );
    const out = this.document.createMesh(name);
    const position = this.accessor('VEC3', positions);
    const normal = this.accessor('VEC3', normals);
    const uv = mesh.uvs && this.accessor('VEC2', mesh.uvs);
    const color = mesh.colors && this.accessor('VEC3', mesh.colors);
    const materials = mesh.materials.map((m) => this.materials.material(m));
    for (const group of mesh.groups) {
      const indices = mesh.indices.slice(group.start, group.start + group.count);
      // A mirrored triangle runs the other way round.
      if (mirrored)
        for (let i = 0; i < indices.length; i += 3)
          [indices[i], indices[i + 1]] = [indices[i + 1], indices[i]];
      const primitive = this.document
        .createPrimitive()
        .setAttribute('POSITION', position)
        .setAttribute('NORMAL', normal)
        .setIndices(this.accessor('SCALAR', indices))
        .setMaterial(materials[group.material]);
      if (uv) primitive.setAttribute('TEXCOORD_0', uv);
      if (color && !mesh.materials[group.material].plain) primitive.setAttribute('COLOR_0', color);
      out.addPrimitive(primitive);
    }
    this.meshes.set(key, out);
    return out;
  }

  /** The same mesh with its colours multiplied by a tint; the arrays are shared. */
  tinted(mesh: GltfMesh, tint: string): GltfMesh {
    const key = `${mesh.getName()} ${[...this.meshes.values()].indexOf(mesh)} ${tint}`;
    const have = this.meshes.get(key);
    if (have) return have;
    const out = this.document.createMesh(mesh.getName());
    for (const primitive of mesh.listPrimitives()) {
      out.addPrimitive(primitive.clone().setMaterial(this.materials.tinted(primitive.getMaterial()!, tint)));
    }
    this.meshes.set(key, out);
    return out;
  }
}

/** Positions and unit normals of a mesh carried by an affine map without shear. */
export function mapMesh(
  mesh: Mesh,
  m: ArrayLike<number>,
): { positions: Float32Array; normals: Float32Array } {
  const positions = new Float32Array(mesh.positions.length);
  const normals = new Float32Array(mesh.normals.length);
  for (let o = 0; o < positions.length; o += 3) {
    const [x, y, z] = [mesh.positions[o], mesh.positions[o + 1], mesh.positions[o + 2]];
    const [nx, ny, nz] = [mesh.normals[o], mesh.normals[o + 1], mesh.normals[o + 2]];
    let l = 0;
    for (let k = 0; k < 3; k++) {
      positions[o + k] = m[k] * x + m[4 + k] * y + m[8 + k] * z + m[12 + k];
      const n = m[k] * nx + m[4 + k] * ny + m[8 + k] * nz;
      normals[o + k] = n;
      l += n * n;
    }
    const inv = l > 0 ? 1 / Math.sqrt(l) : 0;
    for (let k = 0; k < 3; k++) normals[o + k] = l > 0 ? normals[o + k] * inv : k === 1 ? 1 : 0;
  }
  return { positions, normals };
}
