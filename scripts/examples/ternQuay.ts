import type { Vec3 } from '@/core/math/vec3';
import { samplePath } from '@/core/curve/sample';
import { emptyScene } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { builtEntry } from '@/demo/library';
import { QUAY_EDGE, quayEdgePath, STEPS } from '@/demo/surfaces/quay';
import { applyCommand, type Command } from '@/store/command';
import { addPath, setPath } from '@/store/commands/paths';
import { addEntry, addKeepOut, addRun, setArrangement, setEntry, setSlotsRemoved, setStep } from '@/store/commands/runs';
import { addProp, addSurface, setSurface } from '@/store/commands/scene';

/** Builds scenes by the commands that the interface uses. */
class Builder {
  constructor(public scene: Scene) {}

  do<A>(command: Command<A>, args: A): string {
    const { scene, made } = applyCommand(this.scene, command, args);
    this.scene = scene;
    return made ?? '';
  }

  prop(name: string): string {
    const entry = builtEntry(name)!;
    return this.do(addProp, { name: entry.title, mesh: { source: 'built', name }, settings: { foot: { at: entry.foot } } });
  }

  /** A run whose order is these props, each as often in a row as it says; null is a rest. */
  run(name: string, path: string, order: [prop: string | null, times: number][]): string {
    const id = this.do(addRun, { prop: order[0][0], path, name });
    order.forEach(([prop, times], i) => {
      const entry =
        i === 0
          ? this.scene.arrangements.find((a) => a.id === id)!.order.entries[0].id
          : this.do(addEntry, { id, item: prop ? { kind: 'prop', prop } : { kind: 'rest' } });
      this.do(setEntry, { id, entry, values: { times: [times, times] } });
    });
    return id;
  }
}

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

/** The harbour on the evening of its lantern festival. */
export function ternQuay(): Scene {
  const b = new Builder({ ...emptyScene('Tern Quay, lantern evening'), view: { eye: [-1.5, 6.4, 19.5], target: [1.2, 1.1, 1.2] } });
  const props = Object.fromEntries(
    [
      'bollard', 'bollard-painted', 'lamp-post', 'pennant-madder', 'pennant-weld', 'pennant-woad', 'pennant-moss', 'pennant-linen',
      'square-flag', 'lantern', 'crate', 'barrel', 'rope-coil', 'bench', 'mooring-ring', 'life-ring',
    ].map((name) => [name, b.prop(name)]),
  );
  b.do(addSurface, { name: 'Quay', mesh: { source: 'built', name: 'quay' } });
  const water = b.do(addSurface, { name: 'Water', mesh: { source: 'built', name: 'water' } });
  b.do(setSurface, { id: water, values: { position: [0, -1.5, 0] } });

  const edge = b.do(addPath, { name: 'Quay edge', points: QUAY_EDGE });
  const bollards = b.run('Quay bollards', edge, [[props.bollard, 3], [props['bollard-painted'], 1]]);
  b.do(setStep, { id: bollards, step: 'spacing', values: { pitch: 1.8, insetStart: 0.5, insetEnd: 0.5 } });
  b.do(setStep, { id: bollards, step: 'facing', values: { side: -0.5 } });
  b.do(setStep, { id: bollards, step: 'variation', values: { turnDeg: [-6, 6], size: [0.95, 1.05] } });
  b.do(addKeepOut, { id: bollards, name: 'Steps', from: STEPS.from, to: STEPS.to });
  b.do(setSlotsRemoved, { id: bollards, slots: [9], removed: true });
  b.do(setArrangement, { id: bollards, values: { seed: 7 } });

  const stops = [6, 15.5, 25, 34.5, 44];
  const posts = b.do(addPath, { name: 'Lamp line', points: alongQuay(stops, 4.2, stops.map(() => 0)) });
  const lamps = b.run('Lamp posts', posts, [[props['lamp-post'], 1]]);
  b.do(setArrangement, { id: lamps, values: { thread: 'weld' } });
  b.do(setStep, { id: lamps, step: 'spacing', values: { mode: 'count', count: 5 } });
  b.do(setStep, { id: lamps, step: 'variation', values: { tipDeg: [-1.5, 1.5] } });

  // Hung from post to post: at each post the height of its arms, low in between.
  const between = stops.flatMap((s, i) => (i + 1 < stops.length ? [s, (s + stops[i + 1]) / 2] : [s]));
  const heights = between.map((_, i) => (i % 2 === 0 ? 3.55 : 2.75));
  const line = b.do(addPath, { name: 'Pennant line', points: alongQuay(between, 4.2, heights) });
  const pennants = b.run('Pennants', line, [
    [props['pennant-madder'], 1], [props['pennant-weld'], 1], [props['pennant-woad'], 1], [props['pennant-moss'], 1], [props['pennant-linen'], 1],
  ]);
  b.do(setArrangement, { id: pennants, values: { thread: 'woad', seed: 3 } });
  b.do(setStep, { id: pennants, step: 'spacing', values: { pitch: 0.62, insetStart: 0.4, insetEnd: 0.4, looseBy: 0.04 } });
  b.do(setStep, { id: pennants, step: 'facing', values: { posture: 'upright', heading: 'along' } });
  b.do(setStep, { id: pennants, step: 'variation', values: { rollDeg: [-14, 14], turnDeg: [-8, 8] } });
  b.do(setStep, { id: pennants, step: 'gaps', values: { chance: 0.06 } });

  const stores = b.do(addPath, {
    name: 'Storehouse line',
    points: alongQuay([4, 12, 21, 30, 40], 8.4, [0, 0, 0, 0, 0]),
  });
  const goods = b.run('Evening stores', stores, [[props.crate, 2], [props.barrel, 3], [null, 1], [props.bench, 1], [null, 1], [props['rope-coil'], 1]]);
  b.do(setArrangement, { id: goods, values: { thread: 'moss', seed: 12 } });
  b.do(setStep, { id: goods, step: 'spacing', values: { pitch: 1.35, looseBy: 0.12 } });
  b.do(setStep, { id: goods, step: 'variation', values: { side: [-0.25, 0.25], turnDeg: [-20, 20], size: [0.92, 1.08] } });
  b.do(setPath, { id: stores, values: { visible: false } });
  return b.scene;
}
