import {
  BackSide,
  BufferAttribute,
  DoubleSide,
  DirectionalLight,
  InstancedMesh,
  Matrix4,
  Mesh,
  MeshLambertMaterial,
  OrthographicCamera,
  PerspectiveCamera,
  PlaneGeometry,
  SphereGeometry,
  type BufferGeometry,
} from 'three';
import { askSimpler, simplerOf } from '../many/simplers';
import { inFewer, shadesUnseen } from './casters';

jest.mock('@/store/engine', () => ({
  engine: () => ({ simpler: jest.requireActual('@/engine/simpler').simplerMesh }),
}));

/** The sun over a scene of so many metres across. */
function sun(across: number, height = 40): DirectionalLight {
  const light = new DirectionalLight();
  const r = across / 2;
  Object.assign(light.shadow.camera, { left: -r, right: r, top: r, bottom: -r });
  light.shadow.mapSize.set(1024, 1024);
  light.position.set(10, height, 5);
  return light;
}

function eye(x: number, y: number): PerspectiveCamera {
  const camera = new PerspectiveCamera();
  camera.position.set(x, y, 0);
  camera.updateMatrixWorld();
  return camera;
}

describe('what is drawn from fewer triangles', () => {
  const ball = (): BufferGeometry => {
    const geometry = new SphereGeometry(1, 64, 32);
    geometry.setIndex(new BufferAttribute(Uint32Array.from(geometry.getIndex()!.array), 1));
    geometry.addGroup(0, geometry.getIndex()!.count, 0);
    return geometry;
  };
  /** How near to it a light of so many metres across asks for: a power of two, no more than half a texel. */
  const within = (across: number) => 2 ** Math.floor(Math.log2(across / 1024 / 2));

  test('is what lies nearer to itself than half a texel, as soon as it is there', async () => {
    const geometry = ball();
    const mesh = new Mesh(geometry);
    const counts: number[] = [];
    for (const across of [4, 32, 256]) {
      expect(inFewer(mesh, sun(across))).toBe(geometry);
      await askSimpler(geometry, undefined, within(across));
      await new Promise((done) => setTimeout(done, 50));
      const fewer = inFewer(mesh, sun(across));
      expect(fewer).not.toBe(geometry);
      const { off, triangles } = simplerOf(geometry, within(across))!;
      expect(off).toBeGreaterThan(0);
      expect(off).toBeLessThanOrEqual(across / 1024 / 2);
      counts.push(triangles);
      expect(fewer.getIndex()!.count / 3).toBe(triangles);
      // The middle of a face of a ball is where it is farthest from it.
      const at = fewer.getAttribute('position');
      const index = fewer.getIndex()!;
      let farthest = 0;
      for (let i = 0; i < index.count; i += 3) {
        const middle = [0, 1, 2].map(
          (a) => [0, 1, 2].reduce((sum, k) => sum + at.getComponent(index.getX(i + k), a), 0) / 3,
        );
        farthest = Math.max(farthest, 1 - Math.hypot(...middle));
      }
      expect(farthest).toBeLessThan(2 * off);
      expect(farthest).toBeGreaterThan(0.2 * off);
    }
    // The coarser the texels, the fewer.
    expect(counts[0]).toBeGreaterThan(2 * counts[1]);
    expect(counts[1]).toBeGreaterThan(2 * counts[2]);
    // A scene that is a little larger asks for nothing anew.
    expect(inFewer(mesh, sun(36))).toBe(inFewer(mesh, sun(32)));
  });

  test('counts by the size it has, the largest of its instances', async () => {
    const geometry = ball();
    await askSimpler(geometry, undefined, within(32));
    await askSimpler(geometry, undefined, within(16));
    const two = new InstancedMesh(geometry, new MeshLambertMaterial(), 2);
    two.setMatrixAt(1, new Matrix4().makeScale(1.9, 1.9, 1.9));
    expect(inFewer(two, sun(32 * 1.95))).toBe(simplerOf(geometry, within(32))!.geometry);
    two.setMatrixAt(1, new Matrix4().makeScale(3.8, 3.8, 3.8));
    two.instanceMatrix.needsUpdate = true;
    expect(inFewer(two, sun(32 * 1.95))).toBe(simplerOf(geometry, within(16))!.geometry);
  });

  test('is asked for anew when vertices have moved, and never drawn from the old', async () => {
    const geometry = ball();
    await askSimpler(geometry, undefined, within(32));
    const mesh = new Mesh(geometry);
    const before = inFewer(mesh, sun(32));
    expect(before).not.toBe(geometry);
    geometry.scale(3, 3, 3);
    expect(inFewer(mesh, sun(32))).toBe(geometry);
    await askSimpler(geometry, undefined, within(32));
    await new Promise((done) => setTimeout(done, 50));
    expect(inFewer(mesh, sun(32))).toBe(before);
    let gone = false;
    before.addEventListener('dispose', () => (gone = true));
    geometry.dispose();
    expect(gone).toBe(true);
  });
});

describe('what shades only what nobody sees', () => {
  const sheet = (width: number): Mesh => {
    const mesh = new Mesh(new PlaneGeometry(width, width, 4, 4), new MeshLambertMaterial());
    mesh.geometry.rotateX(-Math.PI / 2);
    return mesh;
  };
  const light = sun(50);

  test('is a level sheet that reaches beyond all, seen and lit from above', () => {
    expect(shadesUnseen(sheet(400), eye(30, 5), light)).toBe(true);
    // Not from below, nor lit from there, nor from where one looks past its edge.
    expect(shadesUnseen(sheet(400), eye(30, -5), light)).toBe(false);
    expect(shadesUnseen(sheet(400), eye(30, 5), sun(50, -40))).toBe(false);
    expect(shadesUnseen(sheet(400), eye(230, 5), light)).toBe(false);
    expect(shadesUnseen(sheet(80), eye(10, 5), light)).toBe(false);
    const flat = new OrthographicCamera();
    flat.position.y = 5;
    flat.updateMatrixWorld();
    expect(shadesUnseen(sheet(400), flat, light)).toBe(false);
  });

  test('is none that has a hole or a hill, is steep, or is seen through', () => {
    const holed = sheet(400);
    const index = holed.geometry.getIndex()!;
    holed.geometry.setIndex(new BufferAttribute(Uint16Array.from(index.array).slice(6), 1));
    const hilly = sheet(400);
    hilly.geometry.getAttribute('position').setY(12, 0.5);
    const steep = sheet(400);
    steep.rotation.z = 0.1;
    steep.updateMatrixWorld();
    const clear = sheet(400);
    clear.material = new MeshLambertMaterial({ transparent: true });
    const cut = sheet(400);
    cut.material = new MeshLambertMaterial({ alphaTest: 0.5 });
    for (const mesh of [holed, hilly, steep, clear, cut])
      expect(shadesUnseen(mesh, eye(30, 5), light)).toBe(false);
  });

  test('is none that is inside out, unless it is seen from both sides', () => {
    const inverse = sheet(400);
    const index = inverse.geometry.getIndex()!;
    inverse.geometry.setIndex(new BufferAttribute(Uint16Array.from(index.array).reverse(), 1));
    const turned = sheet(400);
    turned.rotation.z = Math.PI;
    turned.updateMatrixWorld();
    for (const mesh of [inverse, turned]) {
      expect(shadesUnseen(mesh, eye(30, 5), light)).toBe(false);
      mesh.material = new MeshLambertMaterial({ side: BackSide });
      expect(shadesUnseen(mesh, eye(30, 5), light)).toBe(true);
      mesh.material = new MeshLambertMaterial({ side: DoubleSide });
      expect(shadesUnseen(mesh, eye(30, 5), light)).toBe(true);
    }
    const mirrored = sheet(400);
    mirrored.scale.x = -1;
    mirrored.updateMatrixWorld();
    expect(shadesUnseen(mirrored, eye(30, 5), light)).toBe(true);
  });

  test('is looked at anew when it begins to move', () => {
    const mesh = sheet(400);
    expect(shadesUnseen(mesh, eye(30, 5), light)).toBe(true);
    const at = mesh.geometry.getAttribute('position');
    at.setY(12, 0.5);
    at.needsUpdate = true;
    mesh.geometry.boundingBox = null;
    expect(shadesUnseen(mesh, eye(30, 5), light)).toBe(false);
  });
});
