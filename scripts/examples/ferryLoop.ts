import type { Scene } from '@/core/scene/schema';
import { addFromMesh, addGenerated, addOffset, addPath, setGenerator, setPath, setSource } from '@/store/commands/paths';
import { setStep, setArrangement, setSeed } from '@/store/commands/arrangements';
import { setPoses } from '@/store/commands/poses';
import { addRiders } from '@/store/commands/riders';
import { addDeformer, setSurface } from '@/store/commands/surfaces';
import type { Vec3 } from '@/core/math/vec3';
import { setPoint } from '@/store/commands/paths';
import type { PointsPath } from '@/core/curve/schema';
import { Builder } from './builder';

/** Cars on a closed loop, drawn round by the pulley; buoys mark the lane, pylons carry the line. */
export function ferryLoop(): Scene {
  const b = new Builder('Ferry loop', { eye: [9.5, 5.2, 14.5], target: [-0.4, 0.9, 0] });
  const props = b.props(['ferry-car', 'line-pylon', 'buoy', 'net-float', 'bollard-painted', 'plank']);
  const water = b.surface('water', 'Water');
  b.do(setSurface, { id: water, values: { position: [0, -0.1, 0] } });

  const loop = b.do(addGenerated, { shape: 'rectangle', name: 'Ferry line' });
  b.do(setGenerator, { id: loop, values: { width: 15, depth: 8, fillet: 3.2 } });
  const cars = b.run('Cars', loop, [[props['ferry-car'], 1]]);
  b.do(setStep, { id: cars, step: 'spacing', values: { mode: 'count', count: 9 } });
  b.do(setStep, { id: cars, step: 'facing', values: { posture: 'bank', lift: -0.12 } });
  b.do(setStep, { id: cars, step: 'pulley', values: { speed: 0.6 } });
  b.do(setStep, { id: cars, step: 'variation', values: { tint: { colors: ['#d6a02b', '#b4472f', '#61793f'], strength: [0.25, 0.25] } } });
  b.do(setSeed, { id: cars, seed: 5 });
  // Each car carries something of its own, which goes round and tilts with it.
  const freight = b.props(['crate', 'barrel', 'rope-coil']);
  const cargo = b.do(addRiders, {
    on: cars,
    values: {
      name: 'Cargo',
      props: [
        { prop: freight.crate, weight: 3 },
        { prop: freight.barrel, weight: 2 },
        { prop: freight['rope-coil'], weight: 1 },
      ],
      share: 0.85,
      seat: 'foot',
      offset: [0, 0.53, -0.2],
      size: 0.8,
      seed: 3,
    },
  });
  b.do(setStep, { id: cargo, step: 'variation', values: { turnDeg: [-25, 25], along: [-0.1, 0.1] } });

  const inner = b.do(addOffset, { path: loop, distance: -1.5 });
  b.do(setPath, { id: inner, values: { name: 'Pylon line' } });
  const pylons = b.run('Pylons', inner, [[props['line-pylon'], 1]]);
  b.do(setArrangement, { id: pylons, values: { thread: 'woad' } });
  b.do(setStep, { id: pylons, step: 'spacing', values: { mode: 'divide', parts: 2, per: 'quadrant' } });

  const outer = b.do(addOffset, { path: loop, distance: 1.6 });
  b.do(setPath, { id: outer, values: { name: 'Lane' } });
  const marks = b.run('Lane marks', outer, [[props.buoy, 1], [props['net-float'], 5]]);
  b.do(setArrangement, { id: marks, values: { thread: 'weld' } });
  b.do(setStep, { id: marks, step: 'spacing', values: { pitch: 0.9 } });
  b.do(setStep, { id: marks, step: 'variation', values: { turnDeg: [-180, 180], tipDeg: [-7, 7], rollDeg: [-7, 7] } });

  const stage = b.do(addGenerated, { shape: 'line', name: 'Landing stage' });
  b.do(setGenerator, { id: stage, values: { to: [0, 0, 3.4] } });
  b.do(setSource, { id: stage, values: { position: [0, 0.16, 5.6] } });
  const deck = b.run('Landing stage deck', stage, [[props.plank, 1]]);
  b.do(setArrangement, { id: deck, values: { thread: 'plum' } });
  b.do(setStep, { id: deck, step: 'spacing', values: { pitch: 0.17 } });
  b.do(setStep, { id: deck, step: 'variation', values: { turnDeg: [-1.5, 1.5] } });
  const ends = b.run('Stage bollards', stage, [[props['bollard-painted'], 1]]);
  b.do(setArrangement, { id: ends, values: { thread: 'moss' } });
  b.do(setStep, { id: ends, step: 'spacing', values: { mode: 'count', count: 2, insetStart: 0.5, insetEnd: 0.5, rows: { count: 1, distance: 1.1, stagger: 0, side: 'both', mirrored: false } } });
  b.do(setStep, { id: ends, step: 'facing', values: { size: 0.8 } });
  // The beacon stands behind the loop, with rings to moor at around its foot.
  const tower = b.surface('tower', 'Beacon tower');
  b.do(setSurface, { id: tower, values: { position: [-3.5, -0.1, -9], size: 0.8 } });
  const around = Array.from({ length: 7 }, (_, i): { at: Vec3; front: Vec3 } => {
    const a = (i / 7) * 2 * Math.PI;
    return { at: [-3.5 + 1.9 * Math.sin(a), 1.1, -9 + 1.9 * Math.cos(a)], front: [0, 1, 0] };
  });
  b.pegs('Mooring rings', b.prop('mooring-ring'), around, 'nearest', 2);
  // Boards lap in the bend, and the bollards stand in them.
  b.meant('Lane marks', 'Water');
  b.meant('Landing stage deck', 'Landing stage deck', 'Stage bollards');
  walkers(b);
  lift(b);
  b.surroundings(-0.1);
  return b.scene;
}

/** People pace the landing stage while they wait, each in step for itself, as fast as their feet tread. */
function walkers(b: Builder): void {
  const people = b.props(['skipper', 'gardener', 'baker']);
  const round = b.do(addGenerated, { shape: 'rectangle', name: 'Way on the stage' });
  b.do(setGenerator, { id: round, values: { width: 0.66, depth: 1.9, fillet: 0.32 } });
  b.do(setSource, { id: round, values: { position: [0, 0.22, 7.3] } });
  b.do(setPath, { id: round, values: { visible: false } });
  const waiting = b.run('Waiting people', round, [[people.skipper, 1], [people.gardener, 1], [people.baker, 1]]);
  b.do(setArrangement, { id: waiting, values: { thread: 'madder' } });
  b.do(setStep, { id: waiting, step: 'spacing', values: { mode: 'count', count: 4, looseBy: 0.15 } });
  b.do(setStep, { id: waiting, step: 'facing', values: { size: 0.72 } });
  b.do(setStep, { id: waiting, step: 'pulley', values: { speed: 0.75 } });
  b.do(setPoses, { id: waiting, values: { clip: 'Walk', stride: 1.02 } });
  b.do(setSeed, { id: waiting, seed: 4 });
}

/** A belt lifts creels from the boats up to the stage: a strip that goes round by its own pulley, all on it with it. */
function lift(b: Builder): void {
  const creel = b.prop('creel');
  const [from, to, radius, z]: [Vec3, Vec3, number, number] = [[0.95, 0.62, 7.9], [4.3, 0.28, 7.9], 0.16, 7.9];
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  const l = Math.hypot(dx, dy);
  const off: Vec3 = [(-dy / l) * radius, (dx / l) * radius, 0];
  const at = (p: Vec3, side: number, on: number): Vec3 =>
    [p[0] + off[0] * side + (dx / l) * on * radius, p[1] + off[1] * side + (dy / l) * on * radius, z].map((v) => Number(v.toFixed(4))) as Vec3;
  // From below up to the stage on top, back beneath; the rollers are its bends.
  const ring = b.do(addPath, { name: 'Belt line', kind: 'corner', closed: true, points: [at(to, 1, 1), at(from, 1, -1), at(from, -1, -1), at(to, -1, 1)] });
  const points = (b.scene.paths.find((p) => p.id === ring) as PointsPath).source.points;
  for (const { id } of points) b.do(setPoint, { path: ring, id, values: { fillet: radius * 0.999 } });
  b.do(setPath, { id: ring, values: { visible: false } });
  const belt = b.made('strip', 'Belt', { width: 0.52, rollDeg: 180, columns: 2, rows: 220 }, '#4B5560', [0, 0, 0], [ring]);
  b.do(addDeformer, { id: belt, kind: 'pulley', values: { speed: 0.35 } });
  for (const [name, p] of [['Upper roller', from], ['Lower roller', to]] as const)
    b.spar(name, [[p[0], p[1], z - 0.32], [p[0], p[1], z + 0.32]], radius - 0.012);
  for (const [k, p] of [from, to].entries())
    for (const side of [-0.31, 0.31]) b.spar(`Leg ${k * 2 + (side > 0 ? 2 : 1)}`, [[p[0], -0.6, z + side], [p[0], p[1] + 0.05, z + side]], 0.03);
  const line = b.do(addFromMesh, { surface: belt, take: { what: 'iso', along: 'u', from: 0.5, to: 0.5, count: 1 }, name: 'Along the belt' });
  b.do(setPath, { id: line, values: { visible: false } });
  const creels = b.run('Creels on the belt', line, [[creel, 1]]);
  b.do(setArrangement, { id: creels, values: { thread: 'plum' } });
  b.do(setStep, { id: creels, step: 'spacing', values: { mode: 'count', count: 12 } });
  b.do(setStep, { id: creels, step: 'facing', values: { posture: 'surface', lift: 0.008 } });
  b.do(setStep, { id: creels, step: 'variation', values: { turnDeg: [-20, 20] } });
}
