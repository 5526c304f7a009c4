import type { MeshTake } from '@/core/curve/schema';
import type { Scene } from '@/core/scene/schema';
import { addFromMesh, addGenerated, addPath, setPath } from '@/store/commands/paths';
import { setArrangement, setSeed, setStep } from '@/store/commands/arrangements';
import { COLORS } from '@/demo/shape';
import { addDeformer, setShape, setSurface } from '@/store/commands/surfaces';
import { Builder } from './builder';

/**
 * A sail in the wind: twin stitch rows along its seams, rings along the luff, floats along the foot. Of its stitches those
 * along it are props, those across are stamps, and those of its hem are baked into the cloth.
 */
export async function sailcloth(): Promise<Scene> {
  const b = new Builder('Sailcloth', { eye: [-1.6, 2.6, 12.2], target: [1.6, 2.5, 0] });
  const props = b.props(['stitch', 'mooring-ring', 'net-float', 'cleat']);
  const sail = b.made('plane', 'Sail', { width: 5, depth: 4, columns: 40, rows: 32 }, '#EFE6D2', [0, 2.4, 0]);
  b.do(setSurface, { id: sail, values: { tipDeg: 90 } });
  b.do(addDeformer, { id: sail, kind: 'taper', values: { along: 'z', factor: 1.25 } });
  b.do(addDeformer, { id: sail, kind: 'bend', values: { along: 'x', towards: 'y', angleDeg: 34, sway: 0.35, period: 5 } });
  b.do(addDeformer, { id: sail, kind: 'wave', values: { height: 0.16, length: 2.2, speed: 1.4, directionDeg: 12, pinned: 'start' } });

  const take = (name: string, what: MeshTake) => {
    const id = b.do(addFromMesh, { surface: sail, take: what, name });
    b.do(setPath, { id, values: { visible: false } });
    return id;
  };
  const row = (name: string, path: string, prop: string, thread: 'madder' | 'woad' | 'weld' | 'moss' | 'plum', pitch: number) => {
    const id = b.run(name, path, [[prop, 1]]);
    b.do(setArrangement, { id, values: { thread } });
    b.do(setStep, { id, step: 'spacing', values: { pitch } });
    b.do(setStep, { id, step: 'facing', values: { posture: 'surface' } });
    return id;
  };

  /** Two rows, as far apart along the cloth everywhere. */
  const twin = (id: string) => {
    const rows = { count: 2, distance: 0.09, stagger: 0.5, side: 'middle' as const, mirrored: false };
    b.do(setStep, { id, step: 'spacing', values: { rows } });
    return id;
  };

  const seam = take('Seam', { what: 'iso', along: 'v', from: 0.5, to: 0.5, count: 1 });
  const stitches = twin(row('Twin seam stitches', seam, props.stitch, 'woad', 0.16));
  b.do(setStep, { id: stitches, step: 'variation', values: { turnDeg: [-5, 5] } });
  const cross = take('Cross seam', { what: 'iso', along: 'u', from: 0.62, to: 0.62, count: 1 });
  twin(row('Cross seam stitches', cross, b.stampOf(props.stitch), 'plum', 0.16));
  const hem = take('Hem', { what: 'iso', along: 'v', from: 0.03, to: 0.97, count: 2 });
  row('Hem stitches', hem, props.stitch, 'moss', 0.2);
  const luff = take('Luff', { what: 'iso', along: 'u', from: 0.02, to: 0.02, count: 1 });
  row('Luff rings', luff, props['mooring-ring'], 'madder', 0.5);
  const foot = take('Foot', { what: 'iso', along: 'v', from: 0.005, to: 0.005, count: 1 });
  const floats = row('Floats along the foot', foot, props['net-float'], 'weld', 0.42);
  b.do(setStep, { id: floats, step: 'variation', values: { tint: { colors: ['#2c5f86', '#d6a02b'], strength: [0.3, 0.6] } } });
  b.do(setSeed, { id: floats, seed: 4 });

  // A patch: a loop drawn on the cloth, in the sail's own frame as it lies flat.
  const outline: [number, number, number][] = [
    [-1.5, 0, -1.25],
    [-0.35, 0, -1.4],
    [-0.15, 0, -0.6],
    [-1.2, 0, -0.35],
  ];
  const patch = b.do(addPath, { name: 'Patch', points: outline, closed: true, on: sail });
  b.do(setPath, { id: patch, values: { visible: false } });
  row('Patch stitches', patch, props.stitch, 'madder', 0.15);

  // A signal cloth on a line, simulated: it hangs by its upper side, and what is sewn and pegged onto it goes along.
  const line = b.do(addGenerated, { shape: 'strand', name: 'Signal line', position: [3.3, 3.5, 0.9], values: { to: [3.4, 0.15, -0.5], slack: 0.012 } });
  const cloth = b.made('plane', 'Signal cloth', { width: 2.2, depth: 1.5, columns: 22, rows: 15 }, '#C9583F', [5, 2.7, 0.65]);
  b.do(setSurface, { id: cloth, values: { tipDeg: 90 } });
  b.do(addDeformer, { id: cloth, kind: 'cloth', values: { sides: ['v1'], line, wind: 5, windDeg: 200, gusts: 0.7, seed: 7 } });
  const edge = b.do(addFromMesh, { surface: cloth, take: { what: 'iso', along: 'u', from: 0.06, to: 0.94, count: 2 }, name: 'Edges of the cloth' });
  b.do(setPath, { id: edge, values: { visible: false } });
  row('Stitches of the cloth', edge, props.stitch, 'plum', 0.14);
  const low = b.do(addFromMesh, { surface: cloth, take: { what: 'iso', along: 'v', from: 0.04, to: 0.04, count: 1 }, name: 'Lower edge' });
  b.do(setPath, { id: low, values: { visible: false } });
  row('Weights of the cloth', low, props['net-float'], 'weld', 0.3);

  // Cleats pegged where the sail was mended.
  const mended = [
    [-0.9, 3.2],
    [-0.5, 3.35],
    [-0.7, 2.95],
  ].map(([x, y]) => ({ at: [x, y, 0.2] as [number, number, number], front: [0, 1, 0] as [number, number, number] }));
  b.pegs('Cleats on the patch', props.cleat, mended, 'nearest', 0.7);
  // Seams cross, and what hangs on the sail is sewn to it.
  b.meant('Twin seam stitches', 'Cross seam stitches', 'Luff rings');
  b.meant('Hem stitches', 'Cross seam stitches', 'Floats along the foot');
  b.meant('Luff rings', 'Floats along the foot');

  // A wet rope that was thrown over a chest: it lies on that, on the green and on itself.
  const chest = b.made('box', 'Chest', { width: 1.5, height: 0.75, depth: 0.8, fillet: 0.06, cells: 4 }, '#7A5B43', [0.9, -0.42, 1.9]);
  const thrown = b.do(addPath, {
    name: 'Rope as it was thrown',
    points: [
      [-1.4, 0.55, 2.9],
      [-0.5, 0.7, 2.0],
      [0.5, 0.75, 2.1],
      [1.4, 0.75, 1.7],
      [2.4, 0.7, 2.2],
      [3.0, 0.6, 2.9],
      [2.4, 0.75, 3.2],
      [2.2, 0.9, 2.6],
      [2.9, 1.05, 2.4],
      [3.6, 0.9, 3.0],
    ],
  });
  b.do(setPath, { id: thrown, values: { visible: false } });
  const wet = b.tube('Wet rope', thrown, 0.055, '#C9AE7B');
  b.do(setShape, { id: wet, values: { columns: 10, rows: 200 } });

  // Where it hangs: a mast with a spar, poles for the line, on a green above the water.
  b.spar('Mast', [[-2.78, -0.6, 0], [-2.78, 5.3, 0]], 0.07);
  const head = take('Head', { what: 'iso', along: 'v', from: 0.995, to: 0.995, count: 1 });
  b.tube('Head spar', head, 0.045, COLORS.paleWood);
  b.spar('Line pole, west', [[3.3, -0.6, 0.9], [3.3, 3.7, 0.9]], 0.05);
  b.spar('Line pole, east', [[6.7, -0.6, 0.4], [6.7, 3.85, 0.4]], 0.05);
  const green = b.made('hills', 'Green', { width: 46, depth: 30, columns: 60, rows: 40, height: 0.22, span: 7, layers: 3, seed: 9 }, '#98A276', [2, -0.35, 1]);
  b.do(addDeformer, { id: wet, kind: 'sag', values: { onto: [chest, green], soft: 0.15, stiffness: 0.25, friction: 0.7, drag: 3, settled: true } });
  b.surroundings(-1.6);
  b.meant('Luff rings', 'Mast', 'Head spar');
  b.meant('Hem stitches', 'Mast', 'Head spar');
  b.meant('Twin seam stitches', 'Mast');
  b.meant('Cross seam stitches', 'Head spar');
  await b.bake(sail, { maps: ['normal', 'color'], size: 1024, within: 2, reach: 0.05 }, 'Hem stitches');
  return b.scene;
}
