import { PerspectiveCamera } from 'three';
import type { Vec3 } from '@/core/math/vec3';
import type { Viewpoint } from '@/core/scene/viewpointSchema';
import { keepViewpoint } from '@/store/commands/viewpoints';
import { dispatch, useDocument } from '@/store/document';
import { focalOf } from '@/view/framing';
import { currentView } from '@/view/handle';
import { useView } from '@/view/viewState';

const tidy = (v: number) => Number(v.toFixed(4));

/** Where the view is looked at from now, and what is in the middle of it. */
export function viewNow(): Pick<Viewpoint, 'eye' | 'aim'> {
  const view = currentView();
  const { x, y, z } = view?.camera.position ?? { x: 9, y: 6.5, z: 13 };
  return { eye: [x, y, z].map(tidy) as Vec3, aim: (view?.target ?? [0, 0, 0]).map(tidy) as Vec3 };
}

/** Goes to a viewpoint, and shows its frame. */
export const lookThrough = ({ id, eye, aim }: Viewpoint): void =>
  useView.setState({ viewpoint: id, goTo: { eye, aim }, mode: 'free' });

/** Keeps the view as it is; it sees as much from bottom to top. @returns its id; null where nothing is kept */
export function keepView(): string | null {
  if (useDocument.getState().readOnly) return null;
  const camera = currentView()?.camera;
  const fov = camera instanceof PerspectiveCamera ? camera.fov : 38;
  const focal = Math.round(Math.min(800, Math.max(8, focalOf(fov))));
  return dispatch(keepViewpoint, { ...viewNow(), focal }) ?? null;
}

/** Goes to the next viewpoint, or the one before. */
export function stepViewpoint(by: 1 | -1): void {
  const { viewpoints } = useDocument.getState().scene;
  if (viewpoints.length === 0) return;
  const at = viewpoints.findIndex((v) => v.id === useView.getState().viewpoint);
  const next = viewpoints[(at + by + viewpoints.length) % viewpoints.length];
  lookThrough(at < 0 && by < 0 ? viewpoints[viewpoints.length - 1] : next);
}
