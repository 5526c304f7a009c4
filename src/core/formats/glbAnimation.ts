import {
  WebIO,
  type Accessor,
  type Animation,
  type Mesh as GltfMesh,
  type Node as GltfNode,
} from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { STATE, type Placements } from '../arrange/result';
import type { Assets, EvaluatedArrangement, SceneResult } from '../evaluate/scene';
import type { BentMesh } from '../mesh/bend';
import { meshBounds, propMatrix, type Mesh } from '../mesh/mesh';
import type { Arrangement } from '../arrange/registry';
import type { Prop } from '../mesh/propSchema';
import type { Scene } from '../scene/schema';
import type { Surface } from '../mesh/surfaceSchema';
import { slotName } from '../arrange/slotId';
import { addLights } from './glbLights';
import { GlbParts, mapMesh } from './glbParts';
import { copyWriter } from './glbCopies';
import { GlbPoses } from './glbPoses';
import { addSnapsBelow, countSnaps } from './glbSnapPoints';
import type { GlbOptions } from './glbOptions';
import { WornMeshes } from './wornMeshes';

/** The scene over a stretch of time: what moves as baked transforms, what is deformed as morph targets. */

/** Key frames of one animation. */
export interface Frames {
  /** Seconds, rising, from 0. */
  times: Float32Array;
  /** The scene at each. */
  results: SceneResult[];
}

/** Morph targets of one file: more numbers than this are refused. */
const MOST_MORPHED = 60_000_000;

/** Thrown where a stretch is too long or too fine; the message says what to do. */
class TooManyFrames extends Error {}

/** Where one slot is in each frame; −1 where it is not placed. */
type Rows = Int32Array;

/** Every slot that is placed in any frame, with its rows. */
function slotsOver(frames: Placements[]): Map<number, Rows> {
  const out = new Map<number, Rows>();
  frames.forEach((p, f) => {
    for (let i = 0; i < p.count; i++) {
      if (p.state[i] !== STATE.placed) continue;
      let rows = out.get(p.slot[i]);
      if (!rows) out.set(p.slot[i], (rows = new Int32Array(frames.length).fill(-1)));
      rows[f] = i;
    }
  });
  return out;
}

class Baker {
  private readonly input: Accessor;
  private readonly animation: Animation;

  constructor(
    private w: GlbParts,
    private times: Float32Array,
  ) {
    this.input = w.accessor('SCALAR', times);
    this.animation = w.document.createAnimation('Time');
  }

  channel(
    node: GltfNode,
    path: 'translation' | 'rotation' | 'scale' | 'weights',
    values: Float32Array,
    type: 'SCALAR' | 'VEC3' | 'VEC4',
    step = false,
  ): void {
    const sampler = this.w.document
      .createAnimationSampler()
      .setInput(this.input)
      .setOutput(this.w.accessor(type, values))
      .setInterpolation(step ? 'STEP' : 'LINEAR');
    const channel = this.w.document
      .createAnimationChannel()
      .setTargetNode(node)
      .setTargetPath(path)
      .setSampler(sampler);
    this.animation.addSampler(sampler).addChannel(channel);
  }

  /** Puts a node where a slot is at first, and bakes what of it changes. Where it is not placed it has no size. */
  slot(node: GltfNode, frames: Placements[], rows: Rows, sized: boolean, mirrors = false): void {
    const n = this.times.length;
    const position = new Float32Array(n * 3);
    const rotation = new Float32Array(n * 4);
    const scale = new Float32Array(n * 3);
    const first = rows.findIndex((r) => r >= 0);
    let last = rows[first];
    let from = frames[first];
    for (let f = 0; f < n; f++) {
      const shown = rows[f] >= 0;
      // While it is away it waits where it was, or will be first.
      if (shown) [last, from] = [rows[f], frames[f]];
      position.set(from.position.subarray(last * 3, last * 3 + 3), f * 3);
      rotation.set(from.rotation.subarray(last * 4, last * 4 + 4), f * 4);
      if (f > 0) nearer(rotation, f);
      // A shape of its own has its size in it.
      if (shown) scale.set(sized ? [1, 1, 1] : from.scale.subarray(last * 3, last * 3 + 3), f * 3);
      // The mirroring is in the mesh, but for a copy of a bundle.
      if (!mirrors) scale[f * 3] = Math.abs(scale[f * 3]);
    }
    node
      .setTranslation([position[0], position[1], position[2]])
      .setRotation([rotation[0], rotation[1], rotation[2], rotation[3]])
      .setScale([scale[0], scale[1], scale[2]]);
    if (changes(position, 3)) this.channel(node, 'translation', position, 'VEC3');
    if (changes(rotation, 4)) this.channel(node, 'rotation', rotation, 'VEC4');
    // Coming and going is at once, not a growing.
    if (changes(scale, 3))
      this.channel(
        node,
        'scale',
        scale,
        'VEC3',
        rows.some((r) => r < 0),
      );
  }

  end(): void {
    if (this.animation.listChannels().length === 0) this.animation.dispose();
  }
}

/** The one of the two signs of a quaternion that turns less from the frame before. */
function nearer(rotation: Float32Array, f: number): void {
  let dot = 0;
  for (let k = 0; k < 4; k++) dot += rotation[f * 4 + k] * rotation[f * 4 - 4 + k];
  if (dot < 0) for (let k = 0; k < 4; k++) rotation[f * 4 + k] *= -1;
}

function changes(values: Float32Array, width: number): boolean {
  for (let i = width; i < values.length; i++) if (values[i] !== values[i - width]) return true;
  return false;
}

function addArrangement(
  w: GlbParts,
  bake: Baker,
  a: Arrangement,
  results: EvaluatedArrangement[],
  props: Map<string, Prop>,
  worn: WornMeshes,
  snaps: boolean,
): void {
  const frames = results.map((r) => r.placements);
  const parent = w.document.createNode(a.name).setExtras({ kind: a.kind, id: a.id });
  const playing = new GlbPoses(w, bake, frames);
  const copies = results.map((r) => new Set(r.inside?.copy));
  for (const [slot, rows] of slotsOver(frames)) {
    const f = rows.findIndex((r) => r >= 0);
    const p = frames[f];
    const prop = props.get(p.props[p.prop[rows[f]]]);
    const mesh = worn.ofProp(prop, a.id);
    // A copy of a bundle goes with all that it holds, as that is when it is first there.
    if (prop && copies[f].has(rows[f])) {
      const node = w.document
        .createNode(`${prop.name} ${slotName(slot)}`)
        .setExtras({ slot: slotName(slot), prop: prop.name });
      const options = { props: 'nodes' as const, surfaces: false, snaps };
      copyWriter(w, parent, results[f].inside!, props, worn, options).fill(node, rows[f]);
      bake.slot(node, frames, rows, false, true);
      parent.addChild(node);
      continue;
    }
    if (!prop || !mesh || mesh.indices.length < 3) continue;
    const bent = bentOver(frames, rows);
    const posed = playing.over(frames, rows);
    if (bent) {
      const node = w.document
        .createNode(`${prop.name} ${slotName(slot)}`)
        .setExtras({ slot: slotName(slot), prop: prop.name });
      addBent(w, bake, node, bent, { prop, mesh, arrangement: a.id, slot });
      bake.slot(node, frames, rows, true);
      parent.addChild(node);
      continue;
    }
    const mirrored = p.scale[rows[f] * 3] < 0;
    const made =
      (posed && playing.mesh(prop, mesh, mirrored)) ??
      w.mesh(
        `${prop.id}${mirrored ? ' mirrored' : ''}`,
        prop.name,
        mesh,
        propMatrix(prop, meshBounds(mesh)),
        mirrored,
      );
    const node = w.document
      .createNode(`${prop.name} ${slotName(slot)}`)
      .setMesh(made)
      .setExtras({ slot: slotName(slot), prop: prop.name });
    bake.slot(node, frames, rows, false);
    if (posed) playing.play(node, prop, posed);
    if (snaps) addSnapsBelow(w.document, node, prop, mirrored);
    parent.addChild(node);
  }
  if (parent.listChildren().length > 0) w.scene.addChild(parent);
}

/** The shape of a bent slot in each frame, that of the nearest frame before where it is away; null for a rigid one. */
function bentOver(frames: Placements[], rows: Rows): BentMesh[] | null {
  const shapes = [...rows].map((row, k) =>
    row >= 0 && frames[k].shape ? frames[k].bent?.[frames[k].shape![row]] : undefined,
  );
  const first = shapes.find((s) => s !== undefined);
  if (!first) return null;
  let last = first;
  return shapes.map((s) => {
    // One that is sliced otherwise, or straight, at a time cannot be come to from the first.
    if (s && s.positions.length === first.positions.length) last = s;
    return last;
  });
}

const SAME = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** A bent item; where its shape changes, each frame is a morph target. Those that stay as they are share theirs. */
function addBent(
  w: GlbParts,
  bake: Baker,
  node: GltfNode,
  shapes: BentMesh[],
  of: { prop: Prop; mesh: Mesh; arrangement: string; slot: number },
): void {
  const [first] = shapes;
  const steady = shapes.every((s) => s === first);
  const asMesh = (s: BentMesh): Mesh => ({ ...of.mesh, ...s, positions: Float32Array.from(s.positions) });
  const key = steady ? w.numberOf(first) : `slot ${of.slot}`;
  const made = w.mesh(`${of.prop.id} ${of.arrangement} ${key}`, `${of.prop.name}, bent`, asMesh(first), SAME);
  node.setMesh(made);
  if (!steady) morph(w, bake, node, made, shapes.map(asMesh));
}

/** Gives a mesh a morph target for each frame but the first, one fading into the next. */
function morph(
  w: GlbParts,
  bake: Baker,
  node: GltfNode,
  made: GltfMesh,
  frames: Pick<Mesh, 'positions' | 'normals'>[],
): void {
  const [rest] = frames;
  const n = frames.length;
  const away = (now: Float32Array, then: Float32Array) => now.map((v, i) => v - then[i]);
  const targets = frames.slice(1).map(({ positions, normals }) => ({
    position: w.accessor('VEC3', away(positions, rest.positions)),
    normal: w.accessor('VEC3', away(normals, rest.normals)),
  }));
  for (const primitive of made.listPrimitives())
    for (const { position, normal } of targets)
      primitive.addTarget(
        w.document.createPrimitiveTarget().setAttribute('POSITION', position).setAttribute('NORMAL', normal),
      );
  made.setWeights(new Array<number>(n - 1).fill(0));
  const weights = new Float32Array(n * (n - 1));
  for (let f = 1; f < n; f++) weights[f * (n - 1) + f - 1] = 1;
  bake.channel(node, 'weights', weights, 'SCALAR');
}

/** A surface; where its vertices move, each frame is a morph target, one fading into the next. */
function addSurface(
  w: GlbParts,
  bake: Baker,
  surface: Surface,
  frames: SceneResult['surfaces'],
  worn: WornMeshes,
): void {
  const [first] = frames;
  if (frames.some((s) => s.facesKey !== first.facesKey)) return pageByPage(w, bake, surface, frames, worn);
  if (!first.mesh || first.mesh.indices.length < 3) return;
  const mesh = worn.ofSurface(first.mesh, surface);
  const made = w.mesh(`surface ${surface.id}`, surface.name, mesh, first.matrix);
  const node = w.document.createNode(surface.name).setMesh(made).setExtras({ id: surface.id });
  w.scene.addChild(node);
  if (frames.every((s) => s.key === first.key)) return;
  morph(
    w,
    bake,
    node,
    made,
    frames.map((s) => mapMesh(s.mesh!, s.matrix)),
  );
}

/** A surface that has other faces at other times, as a solid has whose parts move: a node for each that it is, seen in its turn. */
function pageByPage(
  w: GlbParts,
  bake: Baker,
  surface: Surface,
  frames: SceneResult['surfaces'],
  worn: WornMeshes,
): void {
  for (const key of new Set(frames.map((s) => s.key))) {
    const { mesh, matrix } = frames.find((s) => s.key === key)!;
    if (!mesh || mesh.indices.length < 3) continue;
    const name = `${surface.name} ${w.scene.listChildren().length + 1}`;
    const made = w.mesh(`surface ${surface.id} ${key}`, name, worn.ofSurface(mesh, surface), matrix);
    const scale = Float32Array.from(frames.flatMap((s) => Array<number>(3).fill(s.key === key ? 1 : 0)));
    const node = w.document.createNode(name).setMesh(made).setExtras({ id: surface.id });
    w.scene.addChild(node.setScale([scale[0], scale[1], scale[2]]));
    bake.channel(node, 'scale', scale, 'VEC3', true);
  }
}

/**
 * A binary glTF 2.0 with one animation: a node a prop that is placed at any time, its transform baked at each frame;
 * surfaces whose vertices move carry a morph target a frame. Metres, Y up.
 * @throws TooManyFrames where the morph targets would be too large a file
 */
export async function writeAnimatedGlb(
  scene: Scene,
  { times, results }: Frames,
  assets: Assets,
  { surfaces, snaps = false, lights = false }: Pick<GlbOptions, 'surfaces' | 'snaps' | 'lights'>,
): Promise<Uint8Array> {
  const w = new GlbParts(scene.name);
  const worn = new WornMeshes(scene, assets);
  const bake = new Baker(w, times);
  const props = new Map(scene.props.map((p) => [p.id, p]));
  if (snaps)
    countSnaps(
      results[0].arrangements.filter((_, i) => scene.arrangements[i].visible).map((r) => r.placements),
      props,
    );
  if (surfaces) {
    const morphed = results[0].surfaces.reduce(
      (sum, s, i) =>
        results.some((r) => r.surfaces[i].key !== s.key) ? sum + (s.mesh?.positions.length ?? 0) : sum,
      0,
    );
    if (morphed * 2 * times.length > MOST_MORPHED)
      throw new TooManyFrames(
        'too many faces move for so many frames; take fewer frames a second, or less time',
      );
  }
  scene.arrangements.forEach((a, i) => {
    if (a.visible)
      addArrangement(
        w,
        bake,
        a,
        results.map((r) => r.arrangements[i]),
        props,
        worn,
        snaps,
      );
  });
  if (surfaces)
    scene.surfaces.forEach((s, i) => {
      if (s.visible)
        addSurface(
          w,
          bake,
          s,
          results.map((r) => r.surfaces[i]),
          worn,
        );
    });
  // As they are at the first moment: a file has no animation of lights.
  if (lights && results[0]) addLights(w, scene, results[0]);
  bake.end();
  return new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(w.document);
}
