import type { Scene } from '@/core/scene/schema';
import { setStep } from '@/store/commands/arrangements';
import { makeSolid } from '@/store/commands/gathered';
import { addPath, setPath } from '@/store/commands/paths';
import { setPrint } from '@/store/commands/scene';
import { addSheet } from '@/store/commands/sheets';
import { setThickness } from '@/store/commands/surfaces';
import { COLORS } from '@/demo/shape';
import { Builder } from './builder';

/** The beacon as a model of 1:200: a thick wall, tiles joined to it, a lattice pierced through it, closed above. */
export function beaconPrint(): Scene {
  const b = new Builder('The beacon, to be printed', { eye: [11.5, 8.4, 19], target: [0, 5.6, 0] });
  b.do(setPrint, { scale: 200 });
  const props = b.props(['scallop-tile', 'lozenge']);
  const tower = b.surface('tower', 'Wall');
  b.do(setThickness, { id: tower, values: { inwards: 0.36 } });

  const sheet = (prop: string, name: string, over: [number, number], grid: object, facing: object) =>
    b.do(addSheet, { surface: tower, prop, name, values: { over: { kind: 'uv', u: [0, 1], v: over }, grid, facing } });
  // Twice as high as they are tiled, and sunk until nothing of them is off the wall: what is thinner would not print.
  const rows = { follow: true, stagger: 'brick' as const };
  const tile = { size: 1.8, bend: true, tolerance: 0.006 };
  const lower = sheet(props['scallop-tile'], 'Tiles below', [0.05, 0.42], { ...rows, columns: 30, rows: 8 }, tile);
  const upper = sheet(props['scallop-tile'], 'Tiles above', [0.42, 0.7], { ...rows, columns: 22, rows: 6 }, tile);
  for (const id of [lower, upper]) b.do(setStep, { id, step: 'variation', values: { sizeY: [3, 3], lift: [-0.045, -0.045] } });
  const lattice = sheet(props.lozenge, 'Lattice', [0.72, 0.83], { columns: 9, rows: 2, stagger: 'brick' }, { size: 0.8 });

  b.do(setStep, { id: lattice, step: 'variation', values: { sizeY: [1.7, 1.7] } });

  const profile = b.do(addPath, {
    name: 'Gallery’s profile',
    kind: 'corner',
    points: [[0, 9.6, 0], [2.4, 9.6, 0], [3.1, 10, 0], [3.1, 10.5, 0], [0, 10.5, 0]],
  });
  b.do(setPath, { id: profile, values: { visible: false } });
  const gallery = b.made('turned', 'Gallery', { columns: 40, rows: 60 }, COLORS.white, [0, 0, 0], [profile]);
  const lamp = b.made('sphere', 'Lamp room', { radius: 1.35, columns: 40, rows: 20 }, COLORS.weld, [0, 10.6, 0]);
  const footing = b.made('box', 'Footing', { width: 6.4, height: 0.9, depth: 6.4, fillet: 0.2 }, COLORS.stone, [0, -0.6, 0]);

  const joined = [tower, footing, gallery, lamp, lower, upper].map((of) => ({ how: 'join' as const, of }));
  b.do(makeSolid, { name: 'Beacon', steps: [...joined, { how: 'cut', of: lattice }] });
  return b.scene;
}
