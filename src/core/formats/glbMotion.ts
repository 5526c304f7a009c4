import type { Document, Node as GltfNode, Primitive } from '@gltf-transform/core';
import { Motion, type MotionChannel, type MotionData, type MotionPiece } from '../mesh/motion';

/**
 * The motion of a glTF: its animations, morph targets and skins, for the primitives that its mesh was put together
 * from, in that order. Null where nothing in it can move.
 */
export function motionOf(
  document: Document,
  pieces: { primitive: Primitive; node: GltfNode }[],
): Motion | null {
  const root = document.getRoot();
  const nodes = root.listNodes();
  const indices = new Map(nodes.map((node, i) => [node, i]));
  const at = (node: GltfNode | null) => (node && indices.get(node)) ?? -1;
  const clips = root.listAnimations().map((animation, i) => {
    const channels = animation.listChannels().flatMap((channel): MotionChannel[] => {
      const sampler = channel.getSampler();
      const path = channel.getTargetPath();
      const node = at(channel.getTargetNode());
      const times = sampler?.getInput();
      const values = sampler?.getOutput();
      if (!sampler || !path || node < 0 || !times?.getCount() || !values) return [];
      return [
        {
          node,
          path,
          times: Float32Array.from({ length: times.getCount() }, (_, k) => times.getScalar(k)),
          values: plain(values),
          interpolation: sampler.getInterpolation(),
        },
      ];
    });
    const duration = Math.max(0, ...channels.map((c) => c.times[c.times.length - 1]));
    return { name: animation.getName() || `Clip ${i + 1}`, duration, channels };
  });
  const playing = clips.filter((c) => c.channels.length > 0);
  const posed = pieces.some(({ node, primitive }) => node.getSkin() || primitive.listTargets().length > 0);
  if (playing.length === 0 && !posed) return null;
  const data: MotionData = {
    clips: playing,
    nodes: nodes.map((node) => ({
      parent: at(node.getParentNode()),
      translation: [...node.getTranslation()],
      rotation: [...node.getRotation()],
      scale: [...node.getScale()],
    })),
    pieces: pieces.map(({ primitive, node }) => pieceOf(primitive, node, at)),
  };
  return new Motion(data);
}

/** All numbers of an accessor, those kept as fractions read as such. */
function plain(accessor: NonNullable<ReturnType<Primitive['getAttribute']>>): Float32Array {
  const width = accessor.getElementSize();
  const out = new Float32Array(accessor.getCount() * width);
  const el: number[] = [];
  for (let i = 0; i < accessor.getCount(); i++)
    out.set(accessor.getElement(i, el).slice(0, width), i * width);
  return out;
}

function pieceOf(primitive: Primitive, node: GltfNode, at: (node: GltfNode | null) => number): MotionPiece {
  const positions = plain(primitive.getAttribute('POSITION')!);
  const mesh = node.getMesh()!;
  const own = node.getWeights();
  const piece: MotionPiece = {
    node: at(node),
    positions,
    targets: primitive.listTargets().map((t) => {
      const moved = t.getAttribute('POSITION');
      return moved ? plain(moved) : new Float32Array(positions.length);
    }),
    weights: [...(own.length > 0 ? own : mesh.getWeights())],
  };
  const skin = node.getSkin();
  const [index, weight] = [primitive.getAttribute('JOINTS_0'), primitive.getAttribute('WEIGHTS_0')];
  if (!skin || !index || !weight) return piece;
  const joints = skin.listJoints();
  const binds = skin.getInverseBindMatrices();
  const identity = Float32Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1);
  piece.skin = {
    joints: joints.map(at),
    inverseBind: joints.map((_, i) => (binds ? Float32Array.from(binds.getElement(i, [])) : identity)),
    index: Uint16Array.from(plain(index)),
    weight: plain(weight),
    per: 4,
  };
  return piece;
}
