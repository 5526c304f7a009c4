'use client';

import { Canvas, useFrame, useThree } from '@react-three/fiber';
import { memo, useEffect, useLayoutEffect, useRef, type ReactNode } from 'react';
import { NeutralToneMapping, PCFShadowMap, WebGLRenderer } from 'three';
import { engine, useEngine } from '@/store/engine';
import { Develop } from './develop/Develop';
import { MeasureLines } from './overlay/MeasureLines';
import { DrawPreview } from './overlay/DrawPreview';
import { PathHover, ToolMarks } from './overlay/PathHover';
import { FrameMarks } from './overlay/FrameMarks';
import { LampHandles } from './overlay/LampHandles';
import { fullDpr } from './coarse';
import { FindingMarks } from './overlay/FindingMarks';
import { HoldMarks } from './overlay/HoldMarks';
import { SurfaceHandles } from './overlay/SurfaceHandles';
import { BrushMark } from './masks/BrushMark';
import { StrandsLayer } from './StrandsLayer';
import { ShadesLayer } from './masks/ShadesLayer';
import { PegMark } from './overlay/PegMark';
import { PointHandles } from './overlay/PointHandles';
import { Ground } from './Ground';
import { Lamps } from './lamps/Lamps';
import { Lights } from './Lights';
import { PathsLayer } from './PathsLayer';
import { PegGhost } from './PegGhost';
import { PropsLayer } from './PropsLayer';
import { Rig } from './Rig';
import { SettledMark } from './Settled';
import { castDepthsOnly } from './shadows';
import { SOFTWARE } from './software';
import { Sky } from './surround/Sky';
import { SurfacesLayer } from './SurfacesLayer';
import { UNDRAWN, undrawnRenderer } from './undrawn';
import { useKeyCursor } from './keyCursor';
import { KeyCursor } from './overlay/KeyCursor';
import { usePointer } from './usePointer';
import { useView } from './viewState';

/** A scene that opens is drawn once it is there, and after this many milliseconds in any case. */
const OPENING_MS = 600;

/** Draws, and counts frames, so that others know when the picture is up to date. */
function Frames() {
  const frame = useRef(0);
  const opened = useRef(false);
  const invalidate = useThree((s) => s.invalidate);
  // With a place in the order of frames the drawing is ours.
  useFrame(({ gl, scene, camera }) => {
    opened.current ||= engine().state.scene !== null && useView.getState().loading === 0;
    if (opened.current) gl.render(scene, camera);
    else scene.updateMatrixWorld();
    frame.current++;
    useView.setState({ frames: frame.current });
  }, 1);
  const gl = useThree((s) => s.gl);
  useLayoutEffect(() => {
    gl.toneMapping = NeutralToneMapping;
  }, [gl]);
  useEffect(() => {
    const canvas = gl.domElement;
    const lost = () => useView.setState({ picture: 'lost' });
    // What was on the card is put there again by the next frame.
    const back = () => {
      useView.setState({ picture: 'drawn' });
      castDepthsOnly(gl);
      gl.shadowMap.needsUpdate = true;
      invalidate();
    };
    canvas.addEventListener('webglcontextlost', lost);
    canvas.addEventListener('webglcontextrestored', back);
    return () => {
      canvas.removeEventListener('webglcontextlost', lost);
      canvas.removeEventListener('webglcontextrestored', back);
    };
  }, [gl, invalidate]);
  const result = useEngine((s) => s.result);
  const loading = useView((s) => s.loading > 0);
  useEffect(() => invalidate(), [result, loading, invalidate]);
  useEffect(() => {
    const timer = setTimeout(() => {
      if (opened.current) return;
      opened.current = true;
      invalidate();
    }, OPENING_MS);
    return () => clearTimeout(timer);
  }, [invalidate]);
  return null;
}

/** The layers never change by themselves from outside; what they show they read from the stores. */
const Layers = memo(function Layers() {
  return (
    <Canvas frameloop="demand" shadows={SHADOWS} dpr={fullDpr()} gl={renderer} events={noEvents}>
      <Rig />
      <Lights />
      <Lamps />
      <group userData={BACKGROUND}>
        <Sky />
        <Ground />
      </group>
      <SurfacesLayer />
      <StrandsLayer />
      <PropsLayer />
      <group userData={AID}>
        <ShadesLayer />
        <PegGhost />
        <PathsLayer />
      </group>
      <Frames />
      <Develop />
    </Canvas>
  );
});

/** What a still picture leaves out: always, and where it is to have no background. */
const AID = { aid: true };
const BACKGROUND = { background: true };
const SHADOWS = { type: PCFShadowMap };
/** Where the browser has no WebGL all goes on but the drawing itself. */
function renderer(props: object & { canvas: unknown }): WebGLRenderer {
  const canvas = props.canvas as HTMLCanvasElement;
  if (UNDRAWN) return undrawnRenderer(canvas);
  try {
    const made = new WebGLRenderer({
      ...props,
      canvas,
      antialias: !SOFTWARE,
      alpha: true,
      preserveDrawingBuffer: true,
    });
    // To ask whether a shader is right waits until it is made, each for itself.
    made.debug.checkShaderErrors = false;
    castDepthsOnly(made);
    return made;
  } catch {
    useView.setState({ picture: 'none' });
    return undrawnRenderer(canvas);
  }
}

/** Picking is our own (pick.ts): on demand and throttled, not on every pointer event for every object. */
const noEvents = () => ({ enabled: false, priority: 0 });

/** The 3D view. Draws on demand; what lies over it (handles, panels) are its children. */
export function SceneCanvas({ children }: { children?: ReactNode }) {
  const frame = useRef<HTMLDivElement>(null);
  const tool = useView((s) => s.tool);
  usePointer(frame);
  useKeyCursor(frame);
  return (
    <div
      ref={frame}
      role="application"
      aria-label="Scene"
      aria-describedby="scene-keys"
      tabIndex={0}
      className="absolute inset-0 overflow-hidden -outline-offset-2"
      style={{
        background: 'linear-gradient(var(--sky-1), var(--sky-2) 55%, var(--sky-3))',
        cursor: tool === 'pick' ? 'default' : 'crosshair',
      }}
    >
      <Layers />
      <SettledMark frame={frame} />
      <p id="scene-keys" className="sr-only">
        Arrow keys move a cursor over the view, Enter does what a click does there.
      </p>
      <PathHover />
      <KeyCursor />
      <ToolMarks />
      <DrawPreview />
      <MeasureLines />
      <SurfaceHandles />
      <HoldMarks />
      <FindingMarks />
      <LampHandles />
      <FrameMarks />
      <PointHandles />
      <PegMark />
      <BrushMark />
      {children}
    </div>
  );
}
