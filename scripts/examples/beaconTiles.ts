import type { Scene } from '@/core/scene/schema';
import { EngineService } from '@/engine/service';
import { addGenerated, addSheetPath, setPath } from '@/store/commands/paths';
import { setArrangement, setStep } from '@/store/commands/arrangements';
import { addCurves, addItem, addSheet } from '@/store/commands/sheets';
import { addSpans } from '@/store/commands/spans';
import { COLORS } from '@/demo/shape';
import { makeSurface, setShape, setSurface, setSurfaceColor } from '@/store/commands/surfaces';
import { Builder } from './builder';

/** The beacon in its scallop tiles, rigid below and bent above, a lattice of tubes over them, and the boathouse beside it. */
export function beaconTiles(): Scene {
  const b = new Builder('Tiles of the beacon', { eye: [11.5, 4.4, 19.5], target: [2.9, 4.7, 0] });
  const props = b.props(['scallop-tile', 'shingle', 'emblem', 'rope-post', 'rail', 'bollard']);
  const tower = b.surface('tower', 'Beacon tower');
  const roof = b.surface('roof', 'Boathouse roof');
  const hull = b.surface('hull', 'Hull');
  b.do(setSurface, { id: roof, values: { position: [7.5, 0, -3.5], turnDeg: -25 } });
  b.do(setSurface, { id: hull, values: { position: [5.8, 0, 3.2], turnDeg: 14 } });

  const sheet = (surface: string, prop: string, name: string, over: [number, number], grid: object, facing: object) => {
    const id = b.do(addSheet, { surface, prop, name, values: { over: { kind: 'uv', u: [0, 1], v: over }, grid, facing } });
    return id;
  };
  // Thicker at their lower ends, tiles lean in a little: the row above lies on the one below.
  const tile = { size: 1.5, tipDeg: 2.5, lift: 0.03 };
  const rows = { follow: true, stagger: 'brick' as const };
  sheet(tower, props['scallop-tile'], 'Tiles, rigid', [0, 0.36], { ...rows, columns: 33, rows: 9, bottom: 0.1 }, tile);
  const bent = sheet(tower, props['scallop-tile'], 'Tiles, bent', [0.36, 0.7], { ...rows, columns: 22, rows: 8 }, { ...tile, bend: true, tolerance: 0.006 });
  b.do(setStep, { id: bent, step: 'variation', values: { tint: { colors: ['#d6a02b', '#7a4a6b', '#b4472f'], strength: [0, 0.45] } } });

  // A pattern of lines in every cell of a sheet without props, laid round the waist and made into tubes.
  const lattice = b.do(addSheet, {
    surface: tower,
    name: 'Lattice',
    values: { over: { kind: 'uv', u: [0, 1], v: [0.72, 0.85] }, grid: { columns: 14, rows: 2 }, repeat: true },
  });
  b.do(addCurves, {
    id: lattice,
    curves: [
      { name: 'Rising', points: [[0, 0], [1, 1]], closed: false, smooth: false },
      { name: 'Falling', points: [[0, 1], [1, 0]], closed: false, smooth: false },
    ],
  });
  const lines = b.do(addSheetPath, { sheet: lattice, curve: null });
  b.do(setPath, { id: lines, values: { visible: false } });
  const tubes = b.do(makeSurface, { shape: 'tube', name: 'Lattice tubes', from: [lines] });
  b.do(setShape, { id: tubes, values: { radius: 0.045, columns: 6, rows: 10 } });
  b.do(setSurfaceColor, { ids: [tubes], color: '#33465A' });

  // Straight beams round the gallery's opening: from divisions per quadrant, each second one, meeting exactly.
  const opening = b.do(addGenerated, { shape: 'circle', name: 'Gallery', position: [0, 10, 0], values: { radius: 1.55 } });
  const posts = b.run('Gallery posts', opening, [[props['rope-post'], 1]]);
  b.do(setStep, { id: posts, step: 'spacing', values: { mode: 'divide', per: 'quadrant', parts: 4, every: 2, from: 1 } });
  b.do(setStep, { id: posts, step: 'facing', values: { size: 0.8 } });
  for (const [name, height] of [['Gallery beams', 0.62], ['Gallery foot beams', 0.2]] as const) {
    const end = { offset: [0, height, 0] as [number, number, number] };
    b.do(addSpans, { on: posts, values: { name, props: [{ prop: props.rail, weight: 1 }], from: end, to: end, size: 0.8 } });
  }

  // Both slopes of the roof, each with its own way up.
  for (const [name, v] of [['Shingles, west', [0, 0.5]], ['Shingles, east', [0.5, 1]]] as const) {
    const id = sheet(roof, props.shingle, name, [...v], { columns: 22, rows: 9, stagger: 'brick', left: 0.06, right: 0.06, bottom: 0.1 }, { size: 1.35, tipDeg: 3, lift: 0.035, bend: true, tolerance: 0.006 });
    b.do(setStep, { id, step: 'variation', values: { side: [-0.012, 0.012], turnDeg: [-1.2, 1.2], tint: { colors: ['#6b4630', '#cfc4ae'], strength: [0, 0.5] } } });
  }

  const emblem = b.do(addSheet, { surface: hull, name: 'Emblem', values: { width: 1.2, height: 1.2, grid: { on: false }, facing: { bend: true, size: 0.75 } } });
  const service = new EngineService();
  service.evaluateAll(b.scene);
  const [pin] = service.pinPlaces([{ at: [5.75, 0.62, 4.2], front: [0, 1, 0], lift: 0 }], 'nearest');
  const round = (x: number) => Number(x.toFixed(9));
  if (!pin || pin.surface !== hull) throw new Error('The emblem found no hull.');
  b.do(setArrangement, {
    id: emblem,
    values: {
      over: {
        kind: 'frame',
        pin: { ...pin, u: round(pin.u), v: round(pin.v), uv: pin.uv?.map(round) as [number, number], turnDeg: round(pin.turnDeg) },
        position: [5.75, 0.62, 4.2],
        rotation: [0, 0, 0, 1],
        along: 'normal',
        reach: 2,
      },
    },
  });
  b.do(addItem, { id: emblem, prop: props.emblem, at: [0.6, 0.6] });
  b.do(setArrangement, { id: emblem, values: { thread: 'weld' } });
  // Tiles and shingles lap.
  b.meant('Tiles, rigid', 'Tiles, rigid', 'Tiles, bent');
  b.meant('Tiles, bent', 'Tiles, bent', 'Lattice tubes');
  b.meant('Shingles, west', 'Shingles, west', 'Shingles, east');
  b.meant('Shingles, east', 'Shingles, east');

  // The point that it stands on, the boathouse's walls, and what the hull rests on.
  b.made('box', 'Terrace', { width: 8, height: 1.2, depth: 8, fillet: 0.25 }, COLORS.stone, [0, -0.72, 0]);
  b.meant('Tiles, rigid', 'Terrace');
  b.made('hills', 'Point', { width: 44, depth: 40, columns: 64, rows: 56, height: 0.16, span: 8, layers: 3, seed: 4 }, '#98A276', [3, -0.45, 0]);
  const walls = b.surface('boathouse-walls', 'Boathouse walls');
  b.do(setSurface, { id: walls, values: { position: [7.5, 0, -3.5], turnDeg: -25 } });
  for (const [name, x] of [['Chock, aft', -1.3], ['Chock, fore', 1.3]] as const) {
    const chock = b.made('box', name, { width: 0.35, height: 1, depth: 1.1, fillet: 0.04 }, COLORS.wood, [5.8 + x * 0.97, -0.1, 3.2 - x * 0.24]);
    b.do(setSurface, { id: chock, values: { turnDeg: 14 } });
  }
  b.surroundings(-1.6);
  return b.scene;
}
