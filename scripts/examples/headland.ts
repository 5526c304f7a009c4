import { setPoses } from '@/store/commands/poses';
import type { PaintStroke } from '@/core/mesh/mask/schema';
import type { Scene } from '@/core/scene/schema';
import { cliffEdge, FOOTPATH, heightAt, YARD } from '@/demo/surfaces/headland';
import { meanOverlap, setStep } from '@/store/commands/arrangements';
import { addLayer, addMask, addStroke, type NewLayer } from '@/store/commands/masks';
import { addPath, setPath } from '@/store/commands/paths';
import { addScatter } from '@/store/commands/scatter';
import { setSurface } from '@/store/commands/surfaces';
import { Builder } from './builder';
import { GRAZED } from './pictures';

// Never a negative nought: files know only one.
const to = (n: number, digits = 3) => Number(n.toFixed(digits)) + 0;

/** A headland under a hundred thousand tufts, with gorse, sea pinks and boulders where they belong, and gulls over it. */
export function headland(): Scene {
  const b = new Builder('The headland', { eye: [43, 17.5, 37], target: [0, 6.5, -3] });
  const props = b.props(['grass-tuft', 'gorse', 'sea-pink', 'boulder', 'gull', 'cabbage', 'bench']);
  const land = b.surface('headland', 'Headland');
  const house = b.surface('keepers-house', 'Keeper’s house');
  b.do(setSurface, { id: house, values: { position: [YARD.x - 3, YARD.y, YARD.z - 2], turnDeg: 14 } });
  const plot = b.made('plane', 'Plot', { width: 7, depth: 4.5, columns: 14, rows: 9 }, '#6E5A45', [YARD.x + 6.4, YARD.y + 0.06, YARD.z + 0.2]);
  b.do(setSurface, { id: plot, values: { turnDeg: 14 } });
  const air = b.made('box', 'Air above', { width: 66, height: 9, depth: 46, fillet: 3 }, '#D8CDB6', [4, 17, 2]);
  b.do(setSurface, { id: air, values: { visible: false, locked: true } });

  const line = (points: [number, number][]) => points.map(([x, z]): [number, number, number] => [to(x), to(heightAt(x, z)), to(z)]);
  const footpath = b.do(addPath, { name: 'Footpath', kind: 'smooth', points: line(FOOTPATH) });
  const edge = b.do(addPath, { name: 'Cliff edge', kind: 'smooth', closed: true, points: line(cliffEdge(3.5, 36)) });
  for (const id of [footpath, edge]) b.do(setPath, { id, values: { visible: false } });

  const notSteep: NewLayer = { kind: 'slope', from: 26, to: 40, over: true };
  const offThePath = (from: number, end: number): NewLayer => ({ kind: 'distance', of: 'paths', paths: [footpath], measured: 'above', from, to: end });
  const besideHouses = (from: number, end: number): NewLayer => ({ kind: 'outline', surfaces: [house, plot], from, to: end });
  const inFromTheEdge = (from: number, end: number): NewLayer => ({ kind: 'inside', paths: [edge], from, to: end });

  const fading = b.do(addMask, { name: 'Fading at the cliff’s edge', layers: [inFromTheEdge(-1, 6)] });
  const turf = b.do(addMask, {
    name: 'Turf',
    layers: [
      notSteep,
      { kind: 'height', from: 2, to: 3.5 },
      { kind: 'noise', seed: 2, span: 4, from: 0.02, to: 0.12 },
      { kind: 'picture', picture: GRAZED, by: 'above', frame: { x: 0, z: 0, width: 104, depth: 104 }, from: 0.05, to: 0.4 },
      offThePath(0.6, 1.3),
      besideHouses(0.35, 0.8),
      inFromTheEdge(-2, 2),
    ],
  });
  // The grass is trodden down about the bench, and about the door.
  const painted = b.do(addLayer, { id: turf, layer: { kind: 'painted', base: 1 } });
  const treads: [radius: number, strength: number, places: [number, number][]][] = [
    [2.2, 0.95, [[20.5, 12], [22, 13]]],
    [1.8, 0.9, [[-4.6, -6.4], [-8, -7.6], [-11.4, -9.6]]],
  ];
  for (const [radius, strength, places] of treads) {
    const stroke: Omit<PaintStroke, 'id'> = { does: 'take', radius, softness: 0.6, strength, dabs: line(places).flat() };
    b.do(addStroke, { id: turf, layer: painted, surface: land, stroke });
  }

  const over = { kind: 'surfaces' as const, surfaces: [land] };
  const scattered = (name: string, prop: string, thread: 'moss' | 'weld' | 'plum' | 'woad' | 'madder', seed: number) =>
    b.do(addScatter, { over, props: [prop], values: { name, thread, seed } });

  const tufts = scattered('Tufts', props['grass-tuft'], 'moss', 7);
  b.do(setStep, { id: tufts, step: 'spread', values: { how: 'loose', amount: 'number', number: 205_000, mask: turf } });
  b.do(setStep, { id: tufts, step: 'stand', values: { lean: 0.4, lift: -0.03 } });
  b.do(setStep, { id: tufts, step: 'variation', values: { size: [0.55, 1.1], sizeMask: fading, sizeLeast: 0.45, tint: { colors: ['#fbeeb4', '#eef5cf'], strength: [0, 0.7] } } });

  const bushes = b.do(addMask, {
    name: 'Gorse in patches',
    layers: [notSteep, { kind: 'noise', seed: 5, span: 13, from: 0.66, to: 0.78 }, offThePath(1.6, 2.6), besideHouses(1.5, 3), inFromTheEdge(1, 3)],
  });
  const gorse = scattered('Gorse', props.gorse, 'weld', 3);
  b.do(setStep, { id: gorse, step: 'spread', values: { how: 'even', distance: 1.15, mask: bushes } });
  b.do(setStep, { id: gorse, step: 'stand', values: { lean: 0.2, lift: -0.05 } });
  b.do(setStep, { id: gorse, step: 'variation', values: { size: [0.7, 1.7] } });

  const rim = b.do(addMask, {
    name: 'Along the rim',
    layers: [
      { ...inFromTheEdge(0, 7), ramp: [[0, 0], [0.2, 1], [0.5, 1], [1, 0]] },
      { kind: 'slope', from: 32, to: 46, over: true },
      { kind: 'noise', seed: 8, span: 6, from: 0.45, to: 0.6 },
    ],
  });
  const pinks = scattered('Sea pinks', props['sea-pink'], 'plum', 5);
  b.do(setStep, { id: pinks, step: 'spread', values: { how: 'clumps', distance: 1.9, each: [6, 14], wide: 0.7, mask: rim } });
  b.do(setStep, { id: pinks, step: 'stand', values: { lean: 0.6 } });
  b.do(setStep, { id: pinks, step: 'variation', values: { size: [0.9, 1.6] } });

  const broken = b.do(addMask, {
    name: 'Where it is broken',
    layers: [
      { kind: 'slope', from: 20, to: 34, ramp: [[0, 0], [0.5, 1], [1, 0.6]] },
      { kind: 'height', from: 0.5, to: 1.5 },
    ],
  });
  const boulders = scattered('Boulders', props.boulder, 'woad', 9);
  b.do(setStep, { id: boulders, step: 'spread', values: { how: 'even', distance: 1.7, mask: broken } });
  b.do(setStep, { id: boulders, step: 'stand', values: { lean: 0.5, lift: -0.14 } });
  b.do(setStep, { id: boulders, step: 'variation', values: { size: [0.5, 1.9], tipDeg: [-20, 20], rollDeg: [-20, 20] } });

  const rows = b.do(addScatter, { over: { kind: 'surfaces', surfaces: [plot] }, props: [props.cabbage], values: { name: 'Cabbages in rows', thread: 'moss', seed: 2 } });
  b.do(setStep, { id: rows, step: 'spread', values: { how: 'grid', rows: 'uv', distance: 0.62, stagger: 'brick', loose: 0.12 } });
  b.do(setStep, { id: rows, step: 'variation', values: { size: [0.75, 1.15], turnDeg: [-180, 180] } });

  const gulls = b.do(addScatter, { over: { kind: 'volume', surface: air }, props: [props.gull], values: { name: 'Gulls', thread: 'woad', seed: 4 } });
  b.do(setStep, { id: gulls, step: 'spread', values: { how: 'even', amount: 'number', number: 46 } });
  b.do(setStep, { id: gulls, step: 'stand', values: { heading: 'drift', driftSpan: 26, turnDeg: -60, size: 1.5 } });
  b.do(setPoses, { id: gulls, values: { plays: 'hold', clip: 'Beat', hold: [0.05, 0.7] } });
  b.do(setStep, { id: gulls, step: 'variation', values: { turnDeg: [-15, 15], tipDeg: [-10, 14], rollDeg: [-24, 24] } });

  b.pegs('Bench with a view', props.bench, [{ at: [21.2, to(heightAt(21.2, 13)), 13], front: [0.6, 0, 0.8] }], 'down');
  for (const name of ['Tufts', 'Gorse', 'Sea pinks', 'Boulders', 'Cabbages in rows']) {
    const id = b.scene.arrangements.find((a) => a.name === name)!.id;
    b.do(meanOverlap, { id, other: id, meant: true });
  }
  // What grows through each other, and lies in the ground, is meant to.
  b.meant('Tufts', 'Headland', 'Gorse', 'Sea pinks', 'Boulders', 'Bench with a view');
  b.meant('Gorse', 'Headland', 'Sea pinks', 'Boulders');
  b.meant('Sea pinks', 'Headland', 'Boulders');
  b.meant('Boulders', 'Headland');
  b.meant('Cabbages in rows', 'Plot');
  b.surroundings(0);
  return b.scene;
}

