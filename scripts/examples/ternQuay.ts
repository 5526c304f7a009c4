import type { Vec3 } from '@/core/math/vec3';
import { samplePath } from '@/core/curve/sample';
import type { Scene } from '@/core/scene/schema';
import { QUAY_EDGE, quayEdgePath, STEPS } from '@/demo/surfaces/quay';
import { addKeepOut } from '@/store/commands/gaps';
import { setSlotsRemoved, setArrangement, setSeed, setStep } from '@/store/commands/arrangements';
import { addGenerated, addPath, setPath, setSource } from '@/store/commands/paths';
import { setRunPaths } from '@/store/commands/runs';
import { setGlow } from '@/store/commands/lamps';
import { addMaterial } from '@/store/commands/materials';
import { setExposure, setFinish, setSky, setSun, startLight } from '@/store/commands/light';
import { addDeformer, setSurface } from '@/store/commands/surfaces';
import { windSchema } from '@/core/curve/hang/schema';
import { addStrandsPath, hangStrands } from '@/store/commands/hanging';
import { addStrands, setStrandsEnd } from '@/store/commands/strands';
import { fallenFloats } from './fallenFloats';
import { crateOfJars } from './jarCrates';
import { keepViewpoint } from '@/store/commands/viewpoints';
import { setPoses } from '@/store/commands/poses';
import { addStock } from '@/store/commands/stock';
import { Builder } from './builder';

/** Points along the quay's edge, `inland` metres from it and `up` metres high. */
function alongQuay(stops: number[], inland: number, up: number[]): Vec3[] {
  const { position, tangent } = samplePath(quayEdgePath(), stops);
  const round = (v: number) => Number(v.toFixed(3));
  return stops.map((_, i) => {
    const l = Math.hypot(tangent[i * 3], tangent[i * 3 + 2]);
    return [
      round(position[i * 3] + (tangent[i * 3 + 2] / l) * inland),
      up[i],
      round(position[i * 3 + 2] - (tangent[i * 3] / l) * inland),
    ];
  });
}

/** The harbour by day, made ready for the evening of its lantern festival. */
export const ternQuay = (): Scene => quay('Tern Quay by day').b.scene;

/** The harbour on that evening: lanterns and cords of bulbs light it, under the last of the sky. */
export function lanternEvening(): Scene {
  const { b, lamps, props } = quay('The lantern evening');
  b.do(startLight, { name: 'evening' });
  b.do(setSun, { heightDeg: -3, strength: 0.4 });
  b.do(setSky, { brightness: 0.28, overhead: '#14223c', horizon: '#9c6a62', ground: '#2b2c38' });
  b.do(setExposure, { exposure: 1.5 });
  b.do(setFinish, { halo: 1.2, haloReach: 0.5 });
  b.do(setGlow, { id: props.lantern, glow: { color: '#ffae3e', strength: 0.9 } });
  const { bulb, cord } = b.props(['bulb', 'cord']);
  b.do(setGlow, { id: bulb, glow: { color: '#ffc776', strength: 0.045 } });
  const cords = b.do(addStrands, {
    on: lamps,
    snap: 'left arm',
    values: { name: 'Festival cords', props: [{ prop: cord, weight: 1 }], thread: 'woad' },
  });
  b.do(hangStrands, { id: cords, values: { by: 'sag', sag: 0.8, loose: 0.15, wind: windSchema.parse({ strength: 0.15, gusts: 0.6, compassDeg: 150 }) } });
  const path = b.do(addStrandsPath, { id: cords });
  b.do(setPath, { id: path, values: { visible: false } });
  const bulbs = b.run('Festival bulbs', path, [[bulb, 1]]);
  b.do(setArrangement, { id: bulbs, values: { thread: 'weld' } });
  b.do(setStep, { id: bulbs, step: 'spacing', values: { mode: 'count', count: 38, ends: 'half' } });
  b.do(setStep, { id: bulbs, step: 'variation', values: { tint: { colors: ['#ffffff', '#ffd9a0', '#ffb9a0', '#cfe3ff'], strength: [0.2, 0.8] } } });
  b.meant('Festival cords', 'Lamp posts', 'Festival bulbs', 'Pennants', 'Lanterns on the lines', 'Lamp lines');
  b.meant('Festival bulbs', 'Pennants', 'Lamp posts', 'Lanterns on the lines', 'Lamp lines');
  return b.scene;
}

function quay(name: string) {
  const b = new Builder(name, { eye: [-1.5, 6.4, 19.5], target: [1.2, 1.6, 1.2] });
  const props = b.props([
    'bollard', 'bollard-painted', 'lamp-post', 'pennant-madder', 'pennant-weld', 'pennant-woad', 'pennant-moss', 'pennant-linen',
    'square-flag', 'lantern', 'dinghy', 'crate', 'barrel', 'rope-coil', 'bench', 'mooring-ring', 'life-ring', 'rope-piece', 'net-float',
  ]);
  b.do(addMaterial, {
    values: { name: 'Galvanised iron', color: '#a9b0b5', roughness: 0.35, metal: 1 },
    wornBy: [props['mooring-ring']],
  });
  b.surface('quay', 'Quay');
  const water = b.surface('water', 'Water');
  b.do(setSurface, { id: water, values: { position: [0, -1.62, 0] } });
  const ripples = b.surface('basin', 'Harbour water');
  b.do(setSurface, { id: ripples, values: { position: [0, -1.5, 16] } });
  b.do(addDeformer, { id: ripples, kind: 'wave', values: { height: 0.06, length: 5.5, speed: 0.9, directionDeg: 25 } });
  b.do(addDeformer, { id: ripples, kind: 'noise', values: { height: 0.05, span: 3, speed: 0.4, push: 'y' } });

  const edge = b.do(addPath, { name: 'Quay edge', points: QUAY_EDGE });
  const bollards = b.run('Quay bollards', edge, [[props.bollard, 3], [props['bollard-painted'], 1]]);
  b.do(setStep, { id: bollards, step: 'spacing', values: { pitch: 1.8, insetStart: 0.5, insetEnd: 0.5 } });
  b.do(setStep, { id: bollards, step: 'facing', values: { side: -0.5 } });
  b.do(setStep, { id: bollards, step: 'variation', values: { turnDeg: [-6, 6], size: [0.95, 1.05] } });
  b.do(addKeepOut, { id: bollards, keepOut: { kind: 'range', name: 'Steps', part: 0, stroke: 0, from: STEPS.from, to: STEPS.to } });
  b.do(setSlotsRemoved, { id: bollards, slots: [9], removed: true });
  b.do(setSeed, { id: bollards, seed: 7 });

  const stops = [6, 15.5, 25, 34.5, 44];
  const posts = b.do(addPath, { name: 'Lamp line', points: alongQuay(stops, 4.2, stops.map(() => 0)) });
  const lamps = b.run('Lamp posts', posts, [[props['lamp-post'], 1]]);
  b.do(setArrangement, { id: lamps, values: { thread: 'weld' } });
  b.do(setStep, { id: lamps, step: 'spacing', values: { mode: 'points' } });
  b.do(setStep, { id: lamps, step: 'variation', values: { tipDeg: [-1.5, 1.5] } });

  // A line from post to post, each hanging by its own slack; one run of pennants along all four.
  const arms = alongQuay(stops, 4.2, stops.map(() => 3.55));
  const lines = arms.slice(1).map((to, i) => {
    const from = arms[i];
    const way: Vec3 = [to[0] - from[0], to[1] - from[1], to[2] - from[2]];
    const id = b.do(addGenerated, { shape: 'strand', name: `Pennant line ${i + 1}`, values: { to: way, slack: [0.035, 0.045, 0.03, 0.05][i] } });
    b.do(setSource, { id, values: { position: from } });
    return id;
  });
  const pennants = b.run('Pennants', lines[0], [
    [props['pennant-madder'], 1], [props['pennant-weld'], 1], [props['pennant-woad'], 1], [props['pennant-moss'], 1], [props['pennant-linen'], 1],
  ]);
  b.do(setRunPaths, { id: pennants, paths: lines });
  b.do(setArrangement, { id: pennants, values: { thread: 'woad' } });
  b.do(setSeed, { id: pennants, seed: 3 });
  b.do(setStep, { id: pennants, step: 'spacing', values: { pitch: 0.62, insetStart: 0.4, insetEnd: 0.4, looseBy: 0.04 } });
  b.do(setStep, { id: pennants, step: 'variation', values: { rollDeg: [-14, 14], turnDeg: [-8, 8] } });
  b.do(setStep, { id: pennants, step: 'gaps', values: { chance: 0.06, longest: 1 } });

  const stores = b.do(addPath, {
    name: 'Storehouse line',
    points: alongQuay([4, 12, 21, 30, 40], 8.4, [0, 0, 0, 0, 0]),
  });
  const goods = b.run('Evening stores', stores, [[props.crate, 2], [props.barrel, 3], [null, 1], [props.bench, 1], [null, 1], [props['rope-coil'], 1]]);
  b.do(setArrangement, { id: goods, values: { thread: 'moss' } });
  b.do(setSeed, { id: goods, seed: 12 });
  b.do(setStep, { id: goods, step: 'spacing', values: { pitch: 1.35, looseBy: 0.12 } });
  b.do(setStep, { id: goods, step: 'variation', values: { side: [-0.25, 0.25], turnDeg: [-20, 20], size: [0.92, 1.08] } });
  b.do(setPath, { id: stores, values: { visible: false } });
  // Crates of jars wait for the chandler, stacked two and three high.
  const jars = crateOfJars(b, b.props(['jar-crate', 'jar']));
  const waiting = b.do(addPath, { name: 'Where crates wait', kind: 'corner', points: alongQuay([25.2, 23.4], 6.6, [0, 0]) });
  b.do(setPath, { id: waiting, values: { visible: false } });
  const crates = b.do(addStock, {
    shelf: { from: 'path', path: waiting, behind: 'left' },
    props: [jars],
    values: { shelves: [{ from: 'path', path: waiting, part: 0, depth: 0.7, levels: [{ height: null }] }] },
  });
  b.do(setArrangement, { id: crates, values: { name: 'Crates of jars', thread: 'weld' } });
  b.do(setStep, { id: crates, step: 'filling', values: { highBy: 'count', high: [1, 3], deepBy: 'count', deep: [1, 2], air: 0.08, airBehind: 0.04 } });
  const [boxAt] = alongQuay([24.2], 2, [0]);
  fallenFloats(b, props['net-float'], boxAt, 0.35, b.scene.surfaces[0].id);
  const moored: { at: Vec3; front: Vec3 }[] = [
    { at: [-9, 0, 9], front: [1, 0, 0.3] },
    { at: [-4.4, 0, 7.2], front: [-1, 0, 0.25] },
    { at: [11.5, 0, 11], front: [1, 0, -0.5] },
  ];
  b.pegs('Dinghies', props.dinghy, moored, 'down', 1, 0.19);
  lifeRing(b, props);
  // The rope is wound about the ring and carries the floats.
  b.meant('Grab line rope', 'Grab line rope', 'Great life ring', 'Floats on the grab line');
  b.meant('Floats on the grab line', 'Great life ring');
  const shore = b.surface('far-shore', 'Far shore');
  b.do(setSurface, { id: shore, values: { position: [0, -1.62, 0], locked: true } });
  lampLines(b, lamps, props);
  gulls(b);
  b.do(keepViewpoint, { name: 'From the water', eye: [-8.5, 2.4, 13.5], aim: [0.6, 1.35, 0.4], focal: 25, aspect: 16 / 9 });
  b.do(keepViewpoint, { name: 'Under the lines', eye: [-7.6, 1.5, -3.4], aim: [6, 2.3, 2.2], focal: 30, aspect: 16 / 9 });
  return { b, lamps, props };
}

/** Gulls fly a loop over the harbour, each with its own beat. */
function gulls(b: Builder): void {
  const loop = b.do(addPath, {
    name: 'Gull loop',
    closed: true,
    points: [[-9, 5.5, 2], [-4, 6.8, -5], [5, 7.4, -6], [12, 6.4, 0], [9, 5.6, 6], [1.5, 5.3, 8], [-6, 5.1, 7]],
  });
  b.do(setPath, { id: loop, values: { visible: false } });
  const flock = b.run('Gulls', loop, [[b.prop('gull'), 1]]);
  b.do(setArrangement, { id: flock, values: { thread: 'woad' } });
  b.do(setStep, { id: flock, step: 'spacing', values: { mode: 'count', count: 11, looseBy: 1.4 } });
  b.do(setStep, { id: flock, step: 'facing', values: { posture: 'bank', size: 1.25 } });
  b.do(setStep, { id: flock, step: 'variation', values: { side: [-1.6, 1.6], lift: [-0.7, 0.9], turnDeg: [-6, 6], rollDeg: [-14, 14] } });
  b.do(setStep, { id: flock, step: 'pulley', values: { speed: 2.6 } });
  b.do(setPoses, { id: flock, values: { clip: 'Beat', pace: [0.8, 1.15] } });
  b.do(setSeed, { id: flock, seed: 3 });
}

/**
 * A great life ring stands on the quay, as the festival's gate: a grab line is wound around it, rope end to end along
 * a coil, with floats on it.
 */
function lifeRing(b: Builder, props: Record<'life-ring' | 'rope-piece' | 'net-float', string>): void {
  const [x, y, z] = [-4.6, 1, 3];
  const size = 2.6;
  // The prop's tube has its middle at 0.3 m and is 0.075 m thick.
  const ring = b.do(addGenerated, { shape: 'circle', name: 'Life ring', values: { radius: 0.3 * size } });
  b.do(setSource, { id: ring, values: { position: [x, y, z], tipDeg: 90 } });
  const grab = b.do(addGenerated, { shape: 'coil', around: ring, name: 'Grab line', values: { radius: 0.085 * size, turns: 8 } });
  const stand = b.do(addGenerated, { shape: 'line', name: 'Ring stand', values: { to: [0, 0, 0.1] } });
  b.do(setSource, { id: stand, values: { position: [x, y, z - 0.05] } });

  const body = b.run('Great life ring', stand, [[props['life-ring'], 1]]);
  b.do(setStep, { id: body, step: 'spacing', values: { mode: 'count', count: 1, ends: 'half' } });
  b.do(setStep, { id: body, step: 'facing', values: { size } });
  const rope = b.run('Grab line rope', grab, [[props['rope-piece'], 1]]);
  b.do(setStep, { id: rope, step: 'spacing', values: { mode: 'touch' } });
  b.do(setStep, { id: rope, step: 'facing', values: { posture: 'bank', size: 1.5 } });
  const floats = b.run('Floats on the grab line', grab, [[props['net-float'], 1]]);
  b.do(setStep, { id: floats, step: 'spacing', values: { mode: 'count', count: 16 } });
  b.do(setStep, { id: floats, step: 'facing', values: { posture: 'bank', size: 0.55 } });
  b.do(setStep, { id: floats, step: 'variation', values: { tint: { colors: ['#2c5f86', '#fbf8f1'], strength: [0.5, 0.5] } } });
  for (const id of [ring, grab, stand]) b.do(setPath, { id, values: { visible: false } });
}

/**
 * Lines from arm to arm of the lamp posts, with lanterns that hang on them and sway; and a mooring line from the bow of
 * each dinghy to the nearest bollard, whatever the water does.
 */
function lampLines(b: Builder, lamps: string, props: Record<'lantern', string>): void {
  const { cord, rope } = b.props(['cord', 'rope']);
  const lines = b.do(addStrands, {
    on: lamps,
    snap: 'right arm',
    values: { name: 'Lamp lines', props: [{ prop: cord, weight: 1 }], thread: 'weld' },
  });
  b.do(hangStrands, { id: lines, values: { by: 'sag', sag: 0.55, loose: 0.2, wind: windSchema.parse({ strength: 0.25, gusts: 0.9, compassDeg: 150 }) } });
  const path = b.do(addStrandsPath, { id: lines });
  b.do(setPath, { id: path, values: { visible: false } });
  const lanterns = b.run('Lanterns on the lines', path, [[props.lantern, 1]]);
  b.do(setArrangement, { id: lanterns, values: { thread: 'madder' } });
  b.do(setStep, { id: lanterns, step: 'spacing', values: { mode: 'count', count: 3, ends: 'half' } });
  b.do(setStep, { id: lanterns, step: 'facing', values: { size: 0.75 } });
  const dinghies = b.scene.arrangements.find((a) => a.name === 'Dinghies')!;
  const bollards = b.scene.arrangements.find((a) => a.name === 'Quay bollards')!;
  const moor = b.do(addStrands, {
    on: dinghies.id,
    snap: 'bow',
    values: { name: 'Mooring lines', pairs: 'nearest', props: [{ prop: rope, weight: 1 }], fit: 'repeat', thread: 'plum' },
  });
  b.do(setStrandsEnd, { id: moor, end: 'to', values: { on: bollards.id, snap: 'neck' } });
  b.do(hangStrands, { id: moor, values: { slack: 0.04 } });
  // They are made fast round their bollards and under the arms.
  b.meant('Lamp lines', 'Lamp posts', 'Lanterns on the lines', 'Pennants');
  b.meant('Mooring lines', 'Quay bollards', 'Dinghies', 'Quay');
}
