'use client';

import { useRef } from 'react';
import type { Vec3 } from '@/core/math/vec3';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { THREAD_COLORS } from '../colors';
import { useEditedPoints } from '../edited';
import { shownPoints } from '../onSurface';
import { metresPerPixel, toScreen } from '../project';
import { useView } from '../viewState';
import { FreeHandles } from './FreeHandles';
import { plus } from './followPointer';
import { Arm } from './knobs';
import { PointDials } from './PointDials';
import { pointDrags } from './pointDrags';
import { PointMarks } from './PointMarks';
import { SelectionHandles } from './SelectionHandles';
import { SnapMark } from './SnapMark';
import { useFrames } from './useFrames';

/** How far out the arms of the selected point reach, pixels. */
const ARM = 46;
const AXES: { name: string; axis: Vec3; color: string }[] = [
  { name: 'X', axis: [1, 0, 0], color: THREAD_COLORS.plum },
  { name: 'Y', axis: [0, 1, 0], color: THREAD_COLORS.moss },
  { name: 'Z', axis: [0, 0, 1], color: THREAD_COLORS.woad },
];

/** The points of the edited path over the scene: move, select, and steer by pointer and keyboard. */
export function PointHandles() {
  const view = useFrames();
  const path = useEditedPoints();
  const dragSnap = useView((s) => s.dragSnap);
  const tool = useView((s) => s.tool);
  const selected = useSelection((s) => s.points);
  const active = useSelection((s) => s.arrangement);
  const thread = useDocument((s) => s.scene.arrangements.find((a) => a.id === active)?.thread) ?? 'madder';
  const result = useEngine((s) => (path ? s.result.paths.get(path.id) : undefined));
  const readOnly = useDocument((s) => s.readOnly !== null);
  const start = useRef<Record<string, Vec3>>({});
  if (!view || !path || !path.visible || tool !== 'pick' || readOnly || !result) return null;
  const points = shownPoints(path, result);
  const ids = selected?.path === path.id ? selected.ids : [];
  const color = THREAD_COLORS[thread];
  const only = ids.length === 1 ? points.find((p) => p.id === ids[0]) : undefined;
  const drags = pointDrags(view, path, points, ids, start);
  return (
    <svg
      className="pointer-events-none absolute inset-0 size-full"
      role="group"
      aria-label={`Points of ${path.name}`}
    >
      {only?.kind === 'free' && (
        <FreeHandles view={view} point={only} onPress={(which) => drags.grabHandle(only, which)} />
      )}
      {only &&
        path.source.on === undefined &&
        AXES.map(({ name, axis, color: dye }) => {
          const a = toScreen(view, only.position);
          const reach = metresPerPixel(view, only.position) * ARM;
          const b = toScreen(view, plus(only.position, axis.map((v) => v * reach) as Vec3));
          if (!a.ahead || !b.ahead || Math.hypot(b.x - a.x, b.y - a.y) < 12) return null;
          return (
            <Arm
              key={name}
              label={`Move along ${name}`}
              from={a}
              to={b}
              dye={dye}
              letter={name}
              onPress={drags.grabArm(only, axis)}
            />
          );
        })}
      {only && <PointDials view={view} path={path.id} point={only} color={color} />}
      {ids.length > 1 && <SelectionHandles view={view} path={path} shown={points} ids={ids} color={color} />}
      {dragSnap && <SnapMark view={view} snap={dragSnap} />}
      <PointMarks view={view} points={points} ids={ids} color={color} drags={drags} />
    </svg>
  );
}
