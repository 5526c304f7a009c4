import { emptyScene } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import type { Run } from '@/core/arrange/run/schema';
import { builtEntry, builtSettings } from '@/demo/library';
import { COLORS } from '@/demo/shape';
import { applyCommand, type Command } from '@/store/command';
import { meanOverlap } from '@/store/commands/arrangements';
import { addEntry, setEntry } from '@/store/commands/order';
import { addRun } from '@/store/commands/runs';
import { addProp } from '@/store/commands/scene';
import { addPegs } from '@/store/commands/pegs';
import { addPath, setPath } from '@/store/commands/paths';
import { addSurface, makeSurface, setShape, setSurface, setSurfaceColor } from '@/store/commands/surfaces';
import type { Vec3 } from '@/core/math/vec3';
import type { SurfaceShape } from '@/core/mesh/make/schema';
import type { Baked } from '@/core/mesh/bake/bakeSchema';
import { keepBaked, setBaked, wearBaked } from '@/store/commands/baking';
import { keepPicture } from './pictures';
import { EngineService } from '@/engine/service';

const round = (v: number) => Number(v.toFixed(9));

/** Builds scenes by the commands that the interface uses. */
export class Builder {
  scene: Scene;

  constructor(name: string, view: Scene['view']) {
    this.scene = { ...emptyScene(name), view };
  }

  do<A>(command: Command<A>, args: A): string {
    const { scene, made } = applyCommand(this.scene, command, args);
    this.scene = scene;
    return made ?? '';
  }

  prop(name: string): string {
    const entry = builtEntry(name)!;
    return this.do(addProp, { name: entry.title, mesh: { source: 'built', name }, settings: builtSettings(name) });
  }

  props<N extends string>(names: readonly N[]): Record<N, string> {
    return Object.fromEntries(names.map((name) => [name, this.prop(name)])) as Record<N, string>;
  }

  surface(name: string, title: string): string {
    return this.do(addSurface, { name: title, mesh: { source: 'built', name } });
  }

  /** A surface made from numbers. */
  made(shape: SurfaceShape['shape'], name: string, values: Partial<SurfaceShape>, color: string, position: Vec3 = [0, 0, 0], from?: string[]): string {
    const id = this.do(makeSurface, { shape, name, position, from });
    this.do(setShape, { id, values });
    this.do(setSurfaceColor, { ids: [id], color });
    return id;
  }

  /** What lies around: open water so high, the far shore behind it. */
  surroundings(level: number): void {
    for (const [name, title] of [['water', 'Open water'], ['far-shore', 'Far shore']]) {
      if (this.scene.surfaces.some((x) => x.mesh.source === 'built' && x.mesh.name === name)) continue;
      const id = this.surface(name, title);
      this.do(setSurface, { id, values: { position: [0, level, 0], locked: true } });
    }
  }

  /** A spar through these places. */
  spar(name: string, points: Vec3[], radius: number): string {
    const path = this.do(addPath, { name: `${name} line`, points, kind: 'corner' });
    this.do(setPath, { id: path, values: { visible: false } });
    return this.tube(name, path, radius, COLORS.paleWood);
  }

  tube(name: string, path: string, radius: number, color: string): string {
    const id = this.do(makeSurface, { shape: 'tube', name, from: [path] });
    this.do(setShape, { id, values: { radius, columns: 8, rows: 24 } });
    this.do(setSurfaceColor, { ids: [id], color });
    return id;
  }

  /** Lets an arrangement reach into others and surfaces, by name, or into its own fellows: lapped, threaded, in them. */
  meant(name: string, ...others: string[]): void {
    const all = [...this.scene.arrangements, ...this.scene.surfaces];
    const idOf = (wanted: string) => all.find((a) => a.name === wanted)!.id;
    for (const other of others) this.do(meanOverlap, { id: idOf(name), other: idOf(other), meant: true });
  }

  /** Pegs on the places of the surfaces nearest to these, facing as told. */
  pegs(name: string, prop: string, places: { at: Vec3; front: Vec3 }[], how: 'nearest' | 'down', size = 1, lift = 0): string {
    const service = new EngineService();
    service.evaluateAll(this.scene);
    const pins = service.pinPlaces(places.map((p) => ({ ...p, lift })), how);
    const pegs = places.map(({ at }, i) => ({
      prop,
      pin: pins[i] && { ...pins[i], uv: pins[i].uv?.map((v) => round(v)) as [number, number] | undefined, u: round(pins[i].u), v: round(pins[i].v), turnDeg: round(pins[i].turnDeg) },
      position: at,
      rotation: [0, 0, 0, 1] as [number, number, number, number],
      scale: [size, size, size] as Vec3,
    }));
    return this.do(addPegs, { id: null, name, pegs }).split(' ')[0];
  }

  /** A stamp of a prop, by the pictures of it from above. */
  stampOf(id: string): string {
    const prop = this.scene.props.find((p) => p.id === id)!;
    const { stamp, pictures } = new EngineService().files.stampFrom(prop)!;
    for (const { bytes, fileName } of pictures) keepPicture(bytes, fileName);
    return this.do(addProp, { name: `${prop.name} stamp`, mesh: stamp });
  }

  /** Bakes arrangements, by name, into a surface, which then wears the maps instead. */
  async bake(surface: string, settings: Partial<Baked>, ...names: string[]): Promise<void> {
    const of = names.map((name) => this.scene.arrangements.find((a) => a.name === name)!.id);
    this.do(setBaked, { id: surface, values: { ...settings, of } });
    const { baked } = this.scene.surfaces.find((s) => s.id === surface)!;
    const files = (await new EngineService().bakes.bake(this.scene, surface, baked!, 0))!;
    const made = { normal: null, height: null, occlusion: null, color: null, props: null } as NonNullable<Baked['made']>;
    for (const { map, bytes, fileName } of files.maps) made[map] = keepPicture(bytes, fileName);
    this.do(keepBaked, { id: surface, made, heights: files.heights });
    this.do(wearBaked, { id: surface, shown: true });
  }

  findRun(id: string): Run {
    return this.scene.arrangements.find((a) => a.id === id) as Run;
  }

  /** A run whose order is these props, each as often in a row as it says; null is a rest. */
  run(name: string, path: string, order: [prop: string | null, times: number][]): string {
    const id = this.do(addRun, { prop: order[0][0], path, name });
    order.forEach(([prop, times], i) => {
      const entry =
        i === 0
          ? this.findRun(id).order.entries[0].id
          : this.do(addEntry, { id, item: prop ? { kind: 'prop', prop } : { kind: 'pause' } });
      this.do(setEntry, { id, entry, values: { times: [times, times] } });
    });
    return id;
  }
}
