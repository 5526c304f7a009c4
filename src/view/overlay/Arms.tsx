'use client';

import type { PointerEvent } from 'react';
import type { Vec3 } from '@/core/math/vec3';
import { currentView, type ViewHandle } from '@/view/handle';
import { THREAD_COLORS } from '../colors';
import { dragGesture } from '../dragGesture';
import { alongAxis, metresPerPixel, toScreen } from '../project';
import { Arm } from './knobs';

const ARM = 64;
const AXES: { name: 'X' | 'Y' | 'Z'; axis: Vec3; dye: string }[] = [
  { name: 'X', axis: [1, 0, 0], dye: THREAD_COLORS.plum },
  { name: 'Y', axis: [0, 1, 0], dye: THREAD_COLORS.moss },
  { name: 'Z', axis: [0, 0, 1], dye: THREAD_COLORS.woad },
];
/** A coordinate to the millimetre. */
export const tidy = (v: number) => Number(v.toFixed(3));

/** The scene's frame on the page, around something that lies over it. */
export const sceneBox = (e: PointerEvent<Element>) =>
  (e.currentTarget.closest('[aria-label="Scene"]') as HTMLElement).getBoundingClientRect();

/** Three arms that move something along the axes of the scene. @param gesture key of it, for the undo list */
export function Arms(p: {
  view: ViewHandle;
  what: string;
  at: Vec3;
  gesture: string;
  onMove: (to: Vec3, key: string) => void;
}) {
  const { view, at } = p;
  const from = toScreen(view, at);
  const reach = metresPerPixel(view, at) * ARM;
  const grab = (name: string, axis: Vec3) => (e: PointerEvent<SVGElement>) => {
    if (e.button !== 0) return;
    e.preventDefault();
    e.stopPropagation();
    const box = sceneBox(e);
    const start = alongAxis(view, e.clientX - box.left, e.clientY - box.top, at, axis) ?? 0;
    const key = `${p.gesture} ${name}`;
    dragGesture(e, key, (m) => {
      const now = currentView();
      const to = now && alongAxis(now, m.clientX - box.left, m.clientY - box.top, at, axis);
      if (to !== null) p.onMove(at.map((v, k) => tidy(v + axis[k] * (to - start))) as Vec3, key);
    });
  };
  return AXES.map(({ name, axis, dye }) => {
    const to = toScreen(
      view,
      at.map((v, k) => v + axis[k] * reach),
    );
    if (!to.ahead || Math.hypot(to.x - from.x, to.y - from.y) < 12) return null;
    return (
      <Arm
        key={name}
        label={`Move ${p.what} along ${name}`}
        from={from}
        to={to}
        dye={dye}
        letter={name}
        onPress={grab(name, axis)}
      />
    );
  });
}
