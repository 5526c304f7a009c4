import { hypot } from '../math/portable';
import { WebIO, type Document, type Node as GltfNode, type Primitive } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { MeshoptDecoder } from 'meshoptimizer';
import type { MeshMaterial } from '../mesh/material';
import type { Mesh } from '../mesh/mesh';
import type { Motion } from '../mesh/motion';
import { spreadInstances } from './glbInstances';
import { PLAIN, readMaterials } from './glbMaterials';
import { motionOf } from './glbMotion';
import { emptyNodes } from './glbSnapPoints';
import { notKept } from './glbNotKept';
import { checkSize, checkVertices, FileError } from './limits';

/** Checks the 12-byte header, so that a broken file is told apart from a file of another kind. */
function checkHeader(bytes: Uint8Array, name: string): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length < 20 || view.getUint32(0, true) !== 0x46546c67) {
    throw new FileError(`“${name}” is not a binary glTF file (.glb). Send it out again as .glb.`);
  }
  const version = view.getUint32(4, true);
  if (version !== 2)
    throw new FileError(`“${name}” is glTF version ${version}; version 2 is needed. Convert it first.`);
  const declared = view.getUint32(8, true);
  if (declared > bytes.length) {
    throw new FileError(
      `“${name}” is cut short: it says ${declared} bytes and has ${bytes.length}. Copy or send it out again.`,
    );
  }
}

const CHUNK_HEADER = 20;
const KNOWN = new Set(ALL_EXTENSIONS.map((e) => e.EXTENSION_NAME as string));

/** What a file cannot be read without, from its JSON; said before anything else of it is read. */
function checkExtensions(bytes: Uint8Array, name: string): void {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const length = view.getUint32(12, true);
  let json: { extensionsRequired?: unknown; buffers?: { uri?: string }[] };
  try {
    json = JSON.parse(new TextDecoder().decode(bytes.subarray(CHUNK_HEADER, CHUNK_HEADER + length)));
  } catch {
    throw new FileError(
      `“${name}” is damaged: what it holds is not described in it. Send it out again from where it was made.`,
    );
  }
  const required = Array.isArray(json?.extensionsRequired) ? json.extensionsRequired.map(String) : [];
  if (required.includes('KHR_draco_mesh_compression'))
    throw new FileError(
      `“${name}” is compressed with Draco, which cannot be read yet. Send it out without it.`,
    );
  const unknown = required.filter((e) => !KNOWN.has(e));
  if (unknown.length > 0)
    throw new FileError(
      `“${name}” needs ${unknown.map((e) => `“${e}”`).join(', ')}, which cannot be read. Send it out without that.`,
    );
  if (Array.isArray(json?.buffers) && json.buffers.some((b) => b?.uri && !b.uri.startsWith('data:')))
    throw new FileError(
      `“${name}” keeps its vertices in other files. Send it out as one .glb that holds everything.`,
    );
}

async function parse(bytes: Uint8Array, name: string): Promise<Document> {
  checkExtensions(bytes, name);
  const io = new WebIO().registerExtensions(ALL_EXTENSIONS);
  await MeshoptDecoder.ready;
  io.registerDependencies({ 'meshopt.decoder': MeshoptDecoder });
  try {
    return await io.readBinary(bytes);
  } catch {
    throw new FileError(
      `“${name}” is damaged and cannot be read as glTF. Send it out again from where it was made.`,
    );
  }
}

/** Triangle indices of a primitive, strips and fans unrolled; empty for points and lines. */
function triangles(primitive: Primitive): Uint32Array {
  const count = primitive.getAttribute('POSITION')!.getCount();
  const given = primitive.getIndices()?.getArray();
  const at = (i: number) => (given ? given[i] : i);
  const n = given ? given.length : count;
  const mode = primitive.getMode();
  if (mode === 4) return Uint32Array.from({ length: n - (n % 3) }, (_, i) => at(i));
  if ((mode !== 5 && mode !== 6) || n < 3) return new Uint32Array(0);
  const out = new Uint32Array((n - 2) * 3);
  for (let i = 0; i < n - 2; i++) {
    const odd = mode === 5 && i % 2 === 1;
    out[i * 3] = at(mode === 6 ? 0 : odd ? i + 1 : i);
    out[i * 3 + 1] = at(mode === 6 ? i + 1 : odd ? i : i + 1);
    out[i * 3 + 2] = at(i + 2);
  }
  return out;
}

/** Normals by area-weighted triangles, for primitives that bring none (or broken ones). */
function fillNormals(positions: Float32Array, indices: Uint32Array, normals: Float32Array): void {
  const sums = new Float32Array(positions.length);
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    const u = [0, 1, 2].map((k) => positions[b + k] - positions[a + k]);
    const v = [0, 1, 2].map((k) => positions[c + k] - positions[a + k]);
    const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
    for (const o of [a, b, c]) for (let k = 0; k < 3; k++) sums[o + k] += n[k];
  }
  for (let o = 0; o < positions.length; o += 3) {
    if (Math.abs(hypot(normals[o], normals[o + 1], normals[o + 2]) - 1) < 0.01) continue;
    const l = hypot(sums[o], sums[o + 1], sums[o + 2]);
    for (let k = 0; k < 3; k++) normals[o + k] = l > 0 ? sums[o + k] / l : k === 1 ? 1 : 0;
  }
}

/** Whether any face is more than a line. */
function hasArea(p: Float32Array, indices: Uint32Array): boolean {
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [indices[i] * 3, indices[i + 1] * 3, indices[i + 2] * 3];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    if (hypot(uy * vz - uz * vy, uz * vx - ux * vz, ux * vy - uy * vx) > 0) return true;
  }
  return false;
}

interface Piece {
  primitive: Primitive;
  node: GltfNode;
  indices: Uint32Array;
  world: number[];
}

function gather(document: Document): Piece[] {
  const scene = document.getRoot().getDefaultScene() ?? document.getRoot().listScenes()[0];
  const pieces: Piece[] = [];
  const visit = (node: GltfNode) => {
    for (const primitive of node.getMesh()?.listPrimitives() ?? []) {
      if (!primitive.getAttribute('POSITION')) continue;
      const indices = triangles(primitive);
      if (indices.length > 0) pieces.push({ primitive, node, indices, world: node.getWorldMatrix() });
    }
  };
  scene?.traverse(visit);
  return pieces;
}

/** A mesh, and how it moves by itself: null where it does not. */
export interface MovingMesh {
  mesh: Mesh;
  motion: Motion | null;
  /** What else its file has, in words: it is not kept. */
  notKept: string[];
}

/** {@link readMovingGlb}, its motion left aside. */
export const readGlb = async (bytes: Uint8Array, name: string): Promise<Mesh> =>
  (await readMovingGlb(bytes, name)).mesh;

/**
 * Reads a binary glTF 2.0 as one mesh: every node of its scene and every instance, transforms, morph weights and skins applied as they are
 * at rest. @throws FileError with one clear sentence for what is broken, too large, or has no faces
 */
export async function readMovingGlb(bytes: Uint8Array, name: string): Promise<MovingMesh> {
  checkSize(bytes, name);
  checkHeader(bytes, name);
  const document = await parse(bytes, name);
  spreadInstances(document, name);
  const pieces = gather(document);
  const vertexCount = pieces.reduce((sum, p) => sum + p.primitive.getAttribute('POSITION')!.getCount(), 0);
  if (vertexCount === 0)
    throw new FileError(`“${name}” has no faces, so there is nothing to place. Choose another file.`);
  checkVertices(vertexCount, name);
  const mesh = assemble(document, pieces, vertexCount, name);
  const snapPoints = emptyNodes(document);
  if (snapPoints.length > 0) mesh.snapPoints = snapPoints;
  const motion = motionOf(document, pieces);
  if (motion && !motion.isFinite())
    throw new FileError(
      `“${name}” has an animation with values that are not numbers. Send it out again, or without its animations.`,
    );
  if (motion?.posesAtRest) {
    motion.sample(null, 0, mesh.positions);
    mesh.normals.fill(0);
    fillNormals(mesh.positions, mesh.indices, mesh.normals);
  }
  return {
    mesh,
    motion: motion && motion.clips.length > 0 ? motion : null,
    notKept: notKept(document),
  };
}

function assemble(document: Document, pieces: Piece[], vertexCount: number, name: string): Mesh {
  const positions = new Float32Array(vertexCount * 3);
  const normals = new Float32Array(vertexCount * 3);
  const hasUv = pieces.some((p) => p.primitive.getAttribute('TEXCOORD_0'));
  const hasColor = pieces.some((p) => p.primitive.getAttribute('COLOR_0'));
  const uvs = hasUv ? new Float32Array(vertexCount * 2) : undefined;
  const colors = hasColor ? new Float32Array(vertexCount * 3).fill(1) : undefined;
  const indices = new Uint32Array(pieces.reduce((sum, p) => sum + p.indices.length, 0));
  const materials: MeshMaterial[] = readMaterials(document);
  const known = document.getRoot().listMaterials();
  const groups: Mesh['groups'] = [];
  let vertex = 0;
  let index = 0;
  for (const { primitive, indices: local, world } of pieces) {
    const position = primitive.getAttribute('POSITION')!;
    const normal = primitive.getAttribute('NORMAL');
    const uv = primitive.getAttribute('TEXCOORD_0');
    const color = primitive.getAttribute('COLOR_0');
    const n = position.getCount();
    const el: number[] = [];
    const inverse = inverseTranspose(world);
    const mirrored = inverse.mirrored;
    for (let i = 0; i < n; i++) {
      position.getElement(i, el);
      for (let k = 0; k < 3; k++) {
        positions[(vertex + i) * 3 + k] =
          world[k] * el[0] + world[4 + k] * el[1] + world[8 + k] * el[2] + world[12 + k];
      }
      if (normal) {
        normal.getElement(i, el);
        const m = inverse.rows;
        const v = [0, 1, 2].map((k) => m[k * 3] * el[0] + m[k * 3 + 1] * el[1] + m[k * 3 + 2] * el[2]);
        const l = hypot(v[0], v[1], v[2]) || 1;
        for (let k = 0; k < 3; k++) normals[(vertex + i) * 3 + k] = v[k] / l;
      }
      if (uv) uvs!.set(uv.getElement(i, el).slice(0, 2), (vertex + i) * 2);
      if (color) colors!.set(color.getElement(i, el).slice(0, 3), (vertex + i) * 3);
    }
    for (let i = 0; i < local.length; i++) {
      if (local[i] >= n) {
        throw new FileError(
          `“${name}” names vertex ${local[i]} of ${n} in a face. The file is damaged; send it out again.`,
        );
      }
      // A mirrored node turns its triangles over; two corners change places to keep the outside out.
      const k = i % 3;
      indices[index + i] = vertex + local[mirrored && k > 0 ? i + (k === 1 ? 1 : -1) : i];
    }
    const material = primitive.getMaterial();
    let m = material ? known.indexOf(material) : materials.indexOf(PLAIN);
    if (m < 0) m = materials.push(PLAIN) - 1;
    groups.push({ start: index, count: local.length, material: m });
    vertex += n;
    index += local.length;
  }
  if (!positions.every(Number.isFinite)) {
    throw new FileError(
      `“${name}” has vertices that are not numbers. Send it out again from where it was made.`,
    );
  }
  if (!hasArea(positions, indices))
    throw new FileError(
      `The faces of “${name}” have no area: all of it lies on a line or a point. Choose another file.`,
    );
  fillNormals(positions, indices, normals);
  // Looks that are no numbers are left out; where it stands does not depend on them.
  for (const looks of [uvs, colors])
    looks?.forEach((v, i) => {
      if (!Number.isFinite(v)) looks[i] = looks === colors ? 1 : 0;
    });
  return { positions, normals, uvs, colors, indices, groups, materials };
}

/** Cofactors of the upper 3×3 (rows), which carry normals under any affine map. */
function inverseTranspose(m: number[]): { rows: number[]; mirrored: boolean } {
  const [a, b, c, d, e, f, g, h, i] = [m[0], m[4], m[8], m[1], m[5], m[9], m[2], m[6], m[10]];
  const rows = [
    e * i - f * h,
    f * g - d * i,
    d * h - e * g,
    c * h - b * i,
    a * i - c * g,
    b * g - a * h,
    b * f - c * e,
    c * d - a * f,
    a * e - b * d,
  ];
  const mirrored = a * rows[0] + b * rows[1] + c * rows[2] < 0;
  return { rows: mirrored ? rows.map((v) => -v) : rows, mirrored };
}
