import {
  Document,
  WebIO,
  type Accessor,
  type Material,
  type Mesh as GltfMesh,
  type Node as GltfNode,
} from '@gltf-transform/core';
import { EXTMeshGPUInstancing } from '@gltf-transform/extensions';
import { meshBounds, propMatrix, type Mesh } from '../mesh/mesh';
import { STATE, type Placements } from '../evaluate/result';
import type { ArrangementResult, Assets, SceneResult, SurfaceResult } from '../evaluate/scene';
import type { Arrangement, Prop, Scene, Surface } from '../scene/schema';
import { slotName } from '../arrange/slotId';

export interface GlbOptions {
  /** "instanced": one node a prop and arrangement (EXT_mesh_gpu_instancing); "nodes": one node a prop placed. */
  props: 'instanced' | 'nodes';
  /** Whether the surfaces go along. */
  surfaces: boolean;
}

/** Writes one file; the parts share buffers, materials and meshes. */
class Writer {
  readonly document = new Document();
  readonly buffer = this.document.createBuffer();
  readonly scene = this.document.createScene();
  private meshes = new Map<string, GltfMesh>();

  accessor(type: 'SCALAR' | 'VEC2' | 'VEC3' | 'VEC4', array: Float32Array | Uint32Array): Accessor {
    return this.document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(this.buffer);
  }

  /**
   * The mesh of one prop or surface, mapped by `matrix` (column-major), made once.
   * @param mirrored left to right, in the mapped space
   */
  mesh(key: string, name: string, mesh: Mesh, matrix: ArrayLike<number>, mirrored = false): GltfMesh {
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
    const materials = mesh.materials.map((m) => this.material(m));
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
      if (color) primitive.setAttribute('COLOR_0', color);
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
    const factor = tint.split(',').map(Number);
    const out = this.document.createMesh(mesh.getName());
    for (const primitive of mesh.listPrimitives()) {
      const material = primitive.getMaterial()!.clone();
      const color = material.getBaseColorFactor();
      material.setBaseColorFactor([
        color[0] * factor[0],
        color[1] * factor[1],
        color[2] * factor[2],
        color[3],
      ]);
      out.addPrimitive(primitive.clone().setMaterial(material));
    }
    this.meshes.set(key, out);
    return out;
  }

  private material(m: Mesh['materials'][number]): Material {
    const out = this.document
      .createMaterial(m.name)
      .setBaseColorFactor(m.color)
      .setMetallicFactor(m.metallic)
      .setRoughnessFactor(m.roughness)
      .setEmissiveFactor(m.emissive)
      .setDoubleSided(m.doubleSided);
    if (m.texture) {
      out.setBaseColorTexture(
        this.document.createTexture(m.name).setImage(m.texture.bytes).setMimeType(m.texture.mime),
      );
    }
    return out;
  }
}

/** Positions and unit normals of a mesh carried by an affine map without shear. */
function mapMesh(mesh: Mesh, m: ArrayLike<number>): { positions: Float32Array; normals: Float32Array } {
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

/** Placed rows that share a mesh. */
interface Group {
  prop: number;
  mirrored: boolean;
  /** "r,g,b" linear; empty for the prop's own colours. */
  tint: string;
  rows: number[];
}

/** Above this many tints instances carry theirs as an attribute (_TINT) instead of a mesh a tint. */
const MOST_TINTS = 32;

/** Rows of the placed props by prop, mirroring and tint. */
function groupsOf(p: Placements): Group[] {
  const tintOf = (i: number) =>
    p.tint ? [0, 1, 2].map((a) => Math.round(p.tint![i * 3 + a] * 255) / 255).join(',') : '';
  const tints = new Set<string>();
  for (let i = 0; i < p.count && tints.size <= MOST_TINTS; i++)
    if (p.state[i] === STATE.placed) tints.add(tintOf(i));
  const apart = tints.size <= MOST_TINTS;
  const out = new Map<string, Group>();
  for (let i = 0; i < p.count; i++) {
    if (p.state[i] !== STATE.placed) continue;
    const mirrored = p.scale[i * 3] < 0;
    const tint = apart ? tintOf(i) : '';
    const key = `${p.prop[i]} ${mirrored} ${tint}`;
    const group = out.get(key);
    if (group) group.rows.push(i);
    else out.set(key, { prop: p.prop[i], mirrored, tint, rows: [i] });
  }
  return [...out.values()].sort((a, b) => a.prop - b.prop || Number(a.mirrored) - Number(b.mirrored));
}

/** A row's scale; its mirroring is in the mesh. */
const sizeOf = (p: Placements, row: number): [number, number, number] => [
  Math.abs(p.scale[row * 3]),
  p.scale[row * 3 + 1],
  p.scale[row * 3 + 2],
];

function addInstanced(
  w: Writer,
  parent: GltfNode,
  name: string,
  mesh: GltfMesh,
  p: Placements,
  { rows, tint }: Group,
): void {
  const extension = w.document.createExtension(EXTMeshGPUInstancing).setRequired(true);
  const pick = (from: Float64Array | Float32Array, width: number) => {
    const out = new Float32Array(rows.length * width);
    rows.forEach((row, i) => out.set(from.subarray(row * width, row * width + width), i * width));
    return out;
  };
  const instances = extension
    .createInstancedMesh()
    .setAttribute('TRANSLATION', w.accessor('VEC3', pick(p.position, 3)))
    .setAttribute('ROTATION', w.accessor('VEC4', pick(p.rotation, 4)))
    .setAttribute('SCALE', w.accessor('VEC3', Float32Array.from(rows.flatMap((row) => sizeOf(p, row)))));
  if (p.tint && !tint) instances.setAttribute('_TINT', w.accessor('VEC3', pick(p.tint, 3)));
  const node = w.document.createNode(name).setMesh(mesh).setExtension('EXT_mesh_gpu_instancing', instances);
  node.setExtras({ slots: rows.map((row) => slotName(p.slot[row])) });
  parent.addChild(node);
}

function addNodes(
  w: Writer,
  parent: GltfNode,
  name: string,
  mesh: GltfMesh,
  p: Placements,
  { rows, tint }: Group,
): void {
  for (const row of rows) {
    const slot = slotName(p.slot[row]);
    const node = w.document
      .createNode(`${name} ${slot}`)
      .setMesh(mesh)
      .setTranslation([p.position[row * 3], p.position[row * 3 + 1], p.position[row * 3 + 2]])
      .setRotation([
        p.rotation[row * 4],
        p.rotation[row * 4 + 1],
        p.rotation[row * 4 + 2],
        p.rotation[row * 4 + 3],
      ])
      .setScale(sizeOf(p, row))
      .setExtras({
        slot,
        prop: name,
        ...(p.tint && !tint && { tint: [...p.tint.subarray(row * 3, row * 3 + 3)] }),
      });
    parent.addChild(node);
  }
}

function addArrangement(
  w: Writer,
  arrangement: Arrangement,
  result: ArrangementResult,
  props: Map<string, Prop>,
  assets: Assets,
  options: GlbOptions,
): void {
  const parent = w.document
    .createNode(arrangement.name)
    .setExtras({ kind: arrangement.kind, id: arrangement.id });
  const p = result.placements;
  for (const group of groupsOf(p)) {
    const prop = props.get(p.props[group.prop]);
    const mesh = prop && assets.mesh(prop.mesh);
    if (!prop || !mesh || mesh.indices.length < 3) continue;
    const key = `${prop.id}${group.mirrored ? ' mirrored' : ''}`;
    const plain = w.mesh(key, prop.name, mesh, propMatrix(prop, meshBounds(mesh)), group.mirrored);
    const made = group.tint ? w.tinted(plain, group.tint) : plain;
    if (options.props === 'instanced') addInstanced(w, parent, prop.name, made, p, group);
    else addNodes(w, parent, prop.name, made, p, group);
  }
  if (parent.listChildren().length > 0) w.scene.addChild(parent);
}

function addSurface(w: Writer, surface: Surface, { mesh, matrix }: SurfaceResult): void {
  if (!mesh || mesh.indices.length < 3) return;
  const made = w.mesh(`surface ${surface.id}`, surface.name, mesh, matrix);
  w.scene.addChild(w.document.createNode(surface.name).setMesh(made).setExtras({ id: surface.id }));
}

/**
 * A binary glTF 2.0 of what is placed and visible: metres, Y up. Each prop's mesh is written once, with its foot
 * at the origin; nodes are named by arrangement and prop and carry slot names in their extras.
 */
export async function writeGlb(
  scene: Scene,
  result: SceneResult,
  assets: Assets,
  options: GlbOptions,
): Promise<Uint8Array> {
  const w = new Writer();
  w.document.getRoot().getAsset().generator = 'Clothesline';
  w.scene.setName(scene.name);
  w.document.getRoot().setDefaultScene(w.scene);
  const props = new Map(scene.props.map((p) => [p.id, p]));
  scene.arrangements.forEach((a, i) => {
    if (a.visible) addArrangement(w, a, result.arrangements[i], props, assets, options);
  });
  if (options.surfaces)
    scene.surfaces.forEach((s, i) => {
      if (s.visible) addSurface(w, s, result.surfaces[i]);
    });
  return new WebIO().registerExtensions([EXTMeshGPUInstancing]).writeBinary(w.document);
}
