import { useThree } from '@react-three/fiber';
import { memo, useEffect, useMemo } from 'react';
import { Line2 } from 'three/examples/jsm/lines/Line2.js';
import { LineGeometry } from 'three/examples/jsm/lines/LineGeometry.js';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import type { Thread } from '@/core/arrange/base';
import { has } from '@/core/arrange/registry';
import type { DrawnStroke } from '@/core/evaluate/scene';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { INK, THREAD_COLORS } from './colors';

/** What one path is drawn from. */
interface Line {
  id: string;
  strokes: readonly DrawnStroke[];
  /** Of the arrangement that is selected, where it stands on the path. */
  thread: Thread | null;
  picked: boolean;
}

/** The paths as lines of even width: in their arrangement's thread where it is selected, in ink otherwise. */
export function PathsLayer() {
  const paths = useDocument((s) => s.scene.paths);
  const results = useEngine((s) => s.result.paths);
  const picked = useSelection((s) => (s.node?.kind === 'path' ? s.node.id : null));
  const active = useSelection((s) => s.arrangement);
  const selected = useDocument((s) =>
    active ? s.scene.arrangements.find((a) => a.id === active) : undefined,
  );
  const lines = useMemo(() => {
    const on = new Set(has(selected, 'paths') ? selected.paths.map((p) => p.path) : []);
    const found: Line[] = [];
    for (const { id, visible } of paths) {
      const result = visible ? results.get(id) : undefined;
      if (!result?.ok) continue;
      const thread = selected && on.has(id) ? selected.thread : null;
      found.push({ id, strokes: result.strokes, thread, picked: picked === id });
    }
    return found;
  }, [paths, results, picked, selected]);
  const blocks = Array.from({ length: Math.ceil(lines.length / BLOCK) }, (_, i) =>
    lines.slice(i * BLOCK, (i + 1) * BLOCK),
  );
  return blocks.map((block, i) => <PathsBlock key={i} lines={block} />);
}

/** Paths that are gone through together: of a thousand that are there one is dragged. */
const BLOCK = 32;

const same = (a: Line, b: Line): boolean =>
  a.id === b.id && a.strokes === b.strokes && a.thread === b.thread && a.picked === b.picked;

const PathsBlock = memo(
  function PathsBlock({ lines }: { lines: readonly Line[] }) {
    return lines.flatMap(({ id, strokes, thread, picked }) => {
      const strong = thread !== null || picked;
      const color = thread ? THREAD_COLORS[thread] : strong ? THREAD_COLORS.madder : INK;
      return strokes.map((stroke, i) => (
        <PathLine key={`${id} ${i}`} id={id} stroke={stroke} color={color} strong={strong} />
      ));
    });
  },
  (before, after) =>
    before.lines.length === after.lines.length && before.lines.every((line, i) => same(line, after.lines[i])),
);

/** Moves the line a little towards the eye, so that one that lies on a surface is not cut up by it. */
function pullForward(shader: { vertexShader: string }): void {
  shader.vertexShader = shader.vertexShader.replace(
    'vec4 end = modelViewMatrix * vec4( instanceEnd, 1.0 );',
    `vec4 end = modelViewMatrix * vec4( instanceEnd, 1.0 );
    if ( projectionMatrix[ 2 ][ 3 ] == - 1.0 ) { start.xyz *= 0.996; end.xyz *= 0.996; }
    else { start.z += 0.08; end.z += 0.08; }`,
  );
}

const PathLine = memo(function PathLine({
  id,
  stroke,
  color,
  strong,
}: {
  id: string;
  stroke: DrawnStroke;
  color: string;
  strong: boolean;
}) {
  const invalidate = useThree((s) => s.invalidate);
  const size = useThree((s) => s.size);
  const lines = useMemo(() => {
    const geometry = new LineGeometry();
    geometry.setPositions(Float32Array.from(stroke.position));
    const line = (options: ConstructorParameters<typeof LineMaterial>[0]) => {
      const material = new LineMaterial({ ...options, transparent: true, depthWrite: false });
      material.onBeforeCompile = pullForward;
      const made = new Line2(geometry, material);
      made.raycast = () => {};
      // It stands where its points say, and of a thousand none need be moved with each frame.
      made.matrixAutoUpdate = made.matrixWorldAutoUpdate = false;
      return made;
    };
    // What lies behind something shows through a little; what lies on a surface wins over it.
    const through = line({
      linewidth: strong ? 2 : 1.2,
      color,
      opacity: strong ? 0.3 : 0.12,
      depthTest: false,
    });
    const front = line({ linewidth: strong ? 2.6 : 1.6, color, opacity: strong ? 1 : 0.45 });
    front.userData.path = id;
    through.userData.faint = true;
    through.renderOrder = 1;
    front.renderOrder = 2;
    return { geometry, through, front };
  }, [id, stroke, color, strong]);
  useEffect(() => {
    for (const l of [lines.through, lines.front]) l.material.resolution.set(size.width, size.height);
    invalidate();
  }, [lines, size, invalidate]);
  useEffect(
    () => () => {
      lines.geometry.dispose();
      lines.through.material.dispose();
      lines.front.material.dispose();
      invalidate();
    },
    [lines, invalidate],
  );
  return (
    <>
      <primitive object={lines.through} dispose={null} />
      <primitive object={lines.front} dispose={null} />
    </>
  );
});
