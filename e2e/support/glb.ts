import { Document, WebIO, type Node } from '@gltf-transform/core';
import { ALL_EXTENSIONS, type InstancedMesh } from '@gltf-transform/extensions';

/** What stands in a .glb that was sent out, and small ones to bring in. */

export type P3 = [number, number, number];

export interface Standing {
  mesh: string;
  /** Every vertex, metres in the scene. */
  points: P3[];
}

/** Every mesh of the file where it stands, each instance by itself. */
export async function standing(bytes: Uint8Array): Promise<Standing[]> {
  const document = await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(new Uint8Array(bytes));
  return document
    .getRoot()
    .listNodes()
    .flatMap((node) => {
      const mesh = node.getMesh();
      if (!mesh) return [];
      const own = mesh.listPrimitives().flatMap((primitive): P3[] => {
        const position = primitive.getAttribute('POSITION')!;
        return Array.from({ length: position.getCount() }, (_, i) => position.getElement(i, [0, 0, 0]));
      });
      return placesOf(node).map((place) => ({ mesh: mesh.getName(), points: own.map(place) }));
    });
}

/** Where a vertex of a node's mesh comes to lie, for each of its instances. */
function placesOf(node: Node): ((p: P3) => P3)[] {
  const m = node.getWorldMatrix();
  const world = ([x, y, z]: P3): P3 =>
    [0, 1, 2].map((r) => m[r] * x + m[4 + r] * y + m[8 + r] * z + m[12 + r]) as P3;
  const instanced = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing');
  if (!instanced) return [world];
  const of = (name: string, i: number, rest: number[]) =>
    instanced.getAttribute(name)?.getElement(i, rest.slice()) ?? rest;
  const count = instanced.listAttributes()[0].getCount();
  return Array.from({ length: count }, (_, i) => {
    const t = of('TRANSLATION', i, [0, 0, 0]);
    const [qx, qy, qz, qw] = of('ROTATION', i, [0, 0, 0, 1]);
    const s = of('SCALE', i, [1, 1, 1]);
    return (p: P3): P3 => {
      const [x, y, z] = p.map((v, k) => v * s[k]);
      const [u, v, w] = [2 * (qy * z - qz * y), 2 * (qz * x - qx * z), 2 * (qx * y - qy * x)];
      return world([
        x + qw * u + qy * w - qz * v + t[0],
        y + qw * v + qz * u - qx * w + t[1],
        z + qw * w + qx * v - qy * u + t[2],
      ]);
    };
  });
}

/**
 * A .glb of one mesh. @param places xyz a vertex, metres @param indices three a triangle; absent: as they come
 * @param empty nodes without a mesh: their names, and where
 */
export async function glbOf(
  places: ArrayLike<number>,
  indices?: number[],
  empty: Record<string, P3> = {},
): Promise<Uint8Array> {
  const d = new Document();
  const buffer = d.createBuffer();
  const position = d.createAccessor().setType('VEC3').setArray(Float32Array.from(places)).setBuffer(buffer);
  const order = indices ?? Array.from({ length: places.length / 3 }, (_, k) => k);
  const faces = d.createAccessor().setArray(Uint16Array.from(order)).setBuffer(buffer);
  const primitive = d.createPrimitive().setAttribute('POSITION', position).setIndices(faces);
  const scene = d.createScene().addChild(d.createNode().setMesh(d.createMesh().addPrimitive(primitive)));
  for (const [name, at] of Object.entries(empty)) scene.addChild(d.createNode(name).setTranslation(at));
  return new WebIO().writeBinary(d);
}

/** Where nodes without a mesh of that name stand in the scene. */
export async function emptyNodesOf(bytes: Uint8Array, name: string): Promise<P3[]> {
  const document = await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(new Uint8Array(bytes));
  return document
    .getRoot()
    .listNodes()
    .filter((node) => !node.getMesh() && node.getName() === name)
    .map((node) => node.getWorldTranslation());
}
