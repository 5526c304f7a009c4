'use client';

import type { PointerEvent } from 'react';
import type { Vec3 } from '@/core/math/vec3';
import { placeMatrix, through, throughInverse } from '@/core/mesh/surface';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setDeformer, setSurface } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { LINEN, THREAD_COLORS } from '../colors';
import { dragGesture } from '../dragGesture';
import { onPlane, toScreen, viewNormal } from '../project';
import { currentView, type ViewHandle } from '@/view/handle';
import { useView } from '../viewState';
import { Arms, sceneBox, tidy } from './Arms';
import { Arm, Knob } from './knobs';
import { useFrames } from './useFrames';

const RING = 84;

/** The selected surface: arms that move it, a ring that turns it, and a pull for every bulge. */
export function SurfaceHandles() {
  const view = useFrames();
  const tool = useView((s) => s.tool);
  const node = useSelection((s) => s.node);
  const surface = useDocument((s) =>
    s.scene.surfaces.find((x) => node?.kind === 'surface' && x.id === node.id),
  );
  const readOnly = useDocument((s) => s.readOnly !== null);
  if (!view || !surface || tool !== 'pick' || readOnly || surface.locked || !surface.visible) return null;
  const at = toScreen(view, surface.position);
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full"
      role="group"
      aria-label={`Handles of ${surface.name}`}
    >
      {at.ahead && <Placing view={view} surface={surface} at={at} />}
      {surface.deformers.map(
        (d) =>
          d.on &&
          d.kind === 'bulge' && (
            <Bulge key={d.id} view={view} surface={surface} id={d.id} middle={d.at} by={d.by} />
          ),
      )}
    </svg>
  );
}

function Placing({
  view,
  surface,
  at,
}: {
  view: ViewHandle;
  surface: Surface;
  at: { x: number; y: number };
}) {
  const { id, position } = surface;
  const angle = (surface.turnDeg * Math.PI) / 180;
  const turn = `surface ${id} turn`;
  const setTurn = (deg: number) =>
    dispatch(setSurface, { id, values: { turnDeg: Math.round(((deg + 540) % 360) - 180) } }, turn);
  return (
    <>
      <Arms
        view={view}
        what="the surface"
        at={position}
        gesture={`surface ${id}`}
        onMove={(to, key) => dispatch(setSurface, { id, values: { position: to } }, key)}
      />
      <Knob
        label="Turn the surface"
        title={`Turn ${surface.turnDeg}° (Shift: steps of 15°)`}
        now={surface.turnDeg}
        text={`${surface.turnDeg}°`}
        centre={at}
        gesture={turn}
        onDrag={(dx, dy, m) => {
          const deg = (-Math.atan2(dx, -dy) * 180) / Math.PI;
          setTurn(m.shiftKey ? Math.round(deg / 15) * 15 : deg);
        }}
        onStep={(n) => setTurn(surface.turnDeg + n * 5)}
      >
        <circle
          cx={at.x - Math.sin(angle) * RING}
          cy={at.y - Math.cos(angle) * RING}
          r={7}
          fill={LINEN}
          stroke={THREAD_COLORS.madder}
          strokeWidth={2}
        />
      </Knob>
    </>
  );
}

/** A soft pull: from its middle to where that is moved, dragged in the plane of the view. */
function Bulge({
  view,
  surface,
  id,
  middle,
  by,
}: {
  view: ViewHandle;
  surface: Surface;
  id: string;
  middle: Vec3;
  by: Vec3;
}) {
  const place = placeMatrix(surface);
  const tip = through(place, middle.map((v, k) => v + by[k]) as Vec3);
  const [from, to] = [toScreen(view, through(place, middle)), toScreen(view, tip)];
  if (!from.ahead || !to.ahead) return null;
  const press = (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    const box = sceneBox(e);
    const key = `bulge ${id}`;
    dragGesture(e, key, (m) => {
      const now = currentView();
      const at = now && onPlane(now, m.clientX - box.left, m.clientY - box.top, viewNormal(now.camera), tip);
      if (!at) return;
      const own = throughInverse(place, at);
      const values = { by: own.map((v, k) => tidy(v - middle[k])) as Vec3 };
      dispatch(setDeformer, { id: surface.id, deformer: id, values }, key);
    });
  };
  return <Arm label="Pull the bulge" from={from} to={to} dye={THREAD_COLORS.weld} onPress={press} />;
}
