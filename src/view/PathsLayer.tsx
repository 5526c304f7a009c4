import { useThree } from '@react-three/fiber';
import { memo, useEffect, useMemo } from 'react';
import { Line2 } from 'three/examples/jsm/lines/Line2.js';
import { LineGeometry } from 'three/examples/jsm/lines/LineGeometry.js';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import type { Thread } from '@/core/arrange/base';
import { has, type Arrangement } from '@/core/arrange/registry';
import type { DrawnStroke } from '@/core/evaluate/scene';
import type { Scene } from '@/core/scene/schema';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { INK, THREAD_COLORS } from './colors';

/** The paths as lines of even width: in their arrangement's thread where it is selected, in ink otherwise. */
export function PathsLayer() {
  const paths = useDocument((s) => s.scene.paths);
  return paths.map((path) => path.visible && <PathLines key={path.id} id={path.id} />);
}

/** The lines of one path: of a thousand only those that changed, or that the selection comes to or leaves, are new. */
const PathLines = memo(function PathLines({ id }: { id: string }) {
  const result = useEngine((s) => s.result.paths.get(id));
  const active = useSelection((s) => s.arrangement);
  const picked = useSelection((s) => s.node?.kind === 'path' && s.node.id === id);
  const thread = useDocument((s) => threadOn(s.scene, active, id));
  if (!result?.ok) return null;
  const strong = thread !== null || picked;
  const color = thread ? THREAD_COLORS[thread] : strong ? THREAD_COLORS.madder : INK;
  return result.strokes.map((stroke, i) => (
    <PathLine key={i} id={id} stroke={stroke} color={color} strong={strong} />
  ));
});

let looked: { arrangements: unknown; active: unknown; found: Arrangement | undefined } | null = null;

/** The thread of an arrangement if it stands on a path; null if it does not. */
function threadOn({ arrangements }: Scene, active: string | null, path: string): Thread | null {
  // All paths ask for the same arrangement.
  if (looked?.arrangements !== arrangements || looked.active !== active)
    looked = { arrangements, active, found: arrangements.find((a) => a.id === active) };
  const { found } = looked;
  return has(found, 'paths') && found.paths.some((p) => p.path === path) ? found.thread : null;
}

/** Moves the line a little towards the eye, so that one that lies on a surface is not cut up by it. */
function pullForward(shader: { vertexShader: string }): void {
  shader.vertexShader = shader.vertexShader.replace(
    'vec4 end = modelViewMatrix * vec4( instanceEnd, 1.0 );',
    `vec4 end = modelViewMatrix * vec4( instanceEnd, 1.0 );
    if ( projectionMatrix[ 2 ][ 3 ] == - 1.0 ) { start.xyz *= 0.996; end.xyz *= 0.996; }
    else { start.z += 0.08; end.z += 0.08; }`,
  );
}

function PathLine({
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
}
