import { useFrame, useThree } from '@react-three/fiber';
import { useCallback, useEffect, useMemo, useRef } from 'react';
import { Box3, MOUSE, TOUCH, OrthographicCamera, PerspectiveCamera, Vector3, type Object3D } from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Vec3 } from '@/core/math/vec3';
import { setView, useDocument } from '@/store/document';
import { broadened, fitEye, fitStraight, type Insets } from './fit';
import { dprNow, drawCoarser, followDrags, isCoarser, shadowsAnew } from './coarse';
import { publishFrame } from '@/view/handle';
import { viewFov } from './framing';
import { useFramed } from './useFramed';
import { useView, type ViewMode } from './viewState';

const DIRECTIONS: Record<Exclude<ViewMode, 'free'>, Vec3> = {
  top: [0, 1, 0],
  front: [0, 0, 1],
  side: [1, 0, 0],
};

/** Degrees that the view sees from bottom to top, where no viewpoint says otherwise. */
const FOV = 38;

/** Milliseconds after a turn of the wheel in which another one may follow. */
const WHEEL_REST_MS = 250;

/** What "Fit" shows: the props, what was made of them, and paths, where there are any; surfaces otherwise. */
function contentBounds(root: Object3D): Box3 {
  const props = new Box3();
  const all = new Box3();
  const paths = new Box3();
  root.traverseVisible((o) => {
    if (o.userData.pick || o.userData.gathered) props.expandByObject(o);
    else if (o.userData.surface) all.expandByObject(o);
    else if (o.userData.path) paths.expandByObject(o);
  });
  props.union(paths);
  if (!props.isEmpty()) return props;
  return all.isEmpty() ? new Box3(new Vector3(-5, 0, -5), new Vector3(5, 2, 5)) : all;
}

/** Pixels that the tools above and the buttons below take of the view, and a little air beside them. */
const OVER = { top: 76, bottom: 56, left: 32, right: 32 };

/** The same as shares of the view; of a small one no more than a quarter. */
function insetsOf(wide: number, tall: number): Insets {
  const share = (pixels: number, of: number) => Math.min(0.25, pixels / of);
  return {
    top: share(OVER.top, tall),
    bottom: share(OVER.bottom, tall),
    left: share(OVER.left, wide),
    right: share(OVER.right, wide),
  };
}

/** Cameras and their controls: free with perspective, straight from three sides without. */
export function Rig() {
  const { gl, scene, size, get, set, invalidate, setDpr } = useThree();
  const mode = useView((s) => s.mode);
  const tool = useView((s) => s.tool);
  const fitAsked = useView((s) => s.fitAsked);
  const sceneId = useDocument((s) => s.sceneId);
  const cameras = useMemo(() => {
    const free = new PerspectiveCamera(FOV, 1, 0.1, 1200);
    free.position.set(9, 6.5, 13);
    const straight = new OrthographicCamera(-10, 10, 10, -10, -1000, 3000);
    // The library would put pixels into the straight camera's sides at every change of size.
    Object.assign(straight, { manual: true });
    Object.assign(free, { manual: true });
    return { free, straight };
  }, []);
  const controls = useRef<OrbitControls | null>(null);
  const target = useRef(new Vector3());
  const camera = mode === 'free' ? cameras.free : cameras.straight;
  /** As many pixels and lines as what goes on asks for. */
  const coarsen = useCallback(() => {
    setDpr(dprNow());
    drawCoarser(scene, isCoarser());
  }, [scene, setDpr]);

  useEffect(() => {
    set({ camera });
    const made = new OrbitControls(camera, gl.domElement);
    made.enableDamping = false;
    made.target.copy(target.current);
    made.screenSpacePanning = true;
    made.enableRotate = mode === 'free';
    made.mouseButtons = {
      LEFT: mode === 'free' ? MOUSE.ROTATE : MOUSE.PAN,
      MIDDLE: MOUSE.PAN,
      RIGHT: MOUSE.PAN,
    };
    // One finger works, as the left button does; two turn, move and zoom.
    made.touches = { ONE: null, TWO: mode === 'free' ? TOUCH.DOLLY_ROTATE : TOUCH.DOLLY_PAN };
    if (mode !== 'free') {
      const d = new Vector3(...DIRECTIONS[mode]);
      camera.up.set(0, mode === 'top' ? 0 : 1, mode === 'top' ? -1 : 0);
      camera.position.copy(target.current).addScaledVector(d, 500);
      camera.lookAt(target.current);
    }
    made.update();
    let settle: ReturnType<typeof setTimeout> | undefined;
    let held = false;
    let wheeled = false;
    const keepView = () => {
      const eye = cameras.free.position;
      if (mode === 'free')
        setView({ eye: [eye.x, eye.y, eye.z], target: [made.target.x, made.target.y, made.target.z] });
    };
    const settled = () => {
      useView.setState({ moving: false });
      coarsen();
      invalidate();
      keepView();
    };
    const soon = () => {
      clearTimeout(settle);
      // Another turn of the wheel may follow; a button that was let go is done.
      if (!held && useView.getState().moving) settle = setTimeout(settled, wheeled ? WHEEL_REST_MS : 0);
    };
    const hold = (on: boolean) => () => {
      held = on;
      soon();
    };
    const [grabbed, released] = [hold(true), hold(false)];
    const stop = new AbortController();
    for (const event of ['wheel', 'pointerdown'])
      gl.domElement.addEventListener(event, () => (wheeled = event === 'wheel'), {
        capture: true,
        passive: true,
        signal: stop.signal,
      });
    const changed = () => {
      target.current.copy(made.target);
      invalidate();
      // A view that was asked for is there at once; only what a hand goes on moving is drawn coarser.
      if (!held) return keepView();
      if (!useView.getState().moving) {
        useView.setState({ moving: true });
        coarsen();
      }
      soon();
    };
    made.addEventListener('start', grabbed);
    made.addEventListener('end', released);
    made.addEventListener('change', changed);
    controls.current = made;
    invalidate();
    return () => {
      clearTimeout(settle);
      stop.abort();
      if (useView.getState().moving) {
        useView.setState({ moving: false });
        coarsen();
      }
      made.dispose();
    };
  }, [camera, cameras, coarsen, gl, invalidate, mode, set]);

  useEffect(
    () =>
      followDrags(() => {
        coarsen();
        shadowsAnew(gl);
        invalidate();
      }),
    [gl, coarsen, invalidate],
  );

  // While a path is drawn the left button sets points; turning stays on the right one.
  useEffect(() => {
    if (!controls.current) return;
    const turning = mode === 'free' ? MOUSE.ROTATE : MOUSE.PAN;
    controls.current.mouseButtons =
      tool === 'draw'
        ? { LEFT: null as never, MIDDLE: MOUSE.PAN, RIGHT: turning }
        : { LEFT: turning, MIDDLE: MOUSE.PAN, RIGHT: MOUSE.PAN };
  }, [tool, mode]);

  const goTo = useView((s) => s.goTo);
  useEffect(() => {
    if (!goTo) return;
    cameras.free.position.set(...goTo.eye);
    target.current.set(...goTo.aim);
    cameras.free.lookAt(target.current);
    if (controls.current && camera === cameras.free) {
      controls.current.target.copy(target.current);
      controls.current.update();
    }
    invalidate();
    // Gone to once; the camera is then anybody's.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [goTo]);

  const framed = useFramed();
  useEffect(() => {
    const view = { width: Math.max(1, size.width), height: Math.max(1, size.height) };
    cameras.free.fov = framed ? viewFov(view, framed.aspect, framed.focal) : FOV;
    const aspect = view.width / view.height;
    cameras.free.aspect = aspect;
    cameras.free.updateProjectionMatrix();
    const half = cameras.straight.top;
    cameras.straight.left = -half * aspect;
    cameras.straight.right = half * aspect;
    cameras.straight.updateProjectionMatrix();
    invalidate();
  }, [size, cameras, framed, invalidate]);

  // The view that the scene was left in.
  useEffect(() => {
    const { view } = useDocument.getState().scene;
    if (view) {
      cameras.free.position.set(...view.eye);
      target.current.set(...view.target);
    } else {
      cameras.free.position.set(9, 6.5, 13);
      target.current.set(0, 0.5, 0);
    }
    cameras.free.lookAt(target.current);
    if (controls.current) {
      controls.current.target.copy(target.current);
      controls.current.update();
    }
    invalidate();
  }, [sceneId, cameras, invalidate]);

  useEffect(() => {
    if (fitAsked === 0 || !controls.current) return;
    const { lookAt } = useView.getState();
    const box = lookAt
      ? new Box3(new Vector3(...lookAt.min), new Vector3(...lookAt.max))
      : contentBounds(scene);
    // Of one place alone there is something to see too.
    if (box.getSize(new Vector3()).length() < 0.4) box.expandByScalar(0.2);
    const around = { min: box.min.toArray(), max: box.max.toArray() };
    const [wide, tall] = [Math.max(1, size.width), Math.max(1, size.height)];
    const frame = { aspect: wide / tall, insets: insetsOf(wide, tall) };
    if (mode === 'free') {
      const way = cameras.free.position.clone().sub(controls.current.target).normalize().toArray();
      const half = Math.tan((cameras.free.fov * Math.PI) / 360);
      const { eye, target: middle } = fitEye(around, way, { half, ...frame });
      cameras.free.position.set(...eye);
      target.current.set(...middle);
    } else {
      cameras.straight.zoom = 1;
      const up: Vec3 = mode === 'top' ? [0, 0, -1] : [0, 1, 0];
      const { target: middle, half } = fitStraight(broadened(around), DIRECTIONS[mode], { ...frame, up });
      Object.assign(cameras.straight, {
        top: half,
        bottom: -half,
        left: -half * frame.aspect,
        right: half * frame.aspect,
      });
      target.current.set(...middle);
      cameras.straight.position.copy(target.current).addScaledVector(new Vector3(...DIRECTIONS[mode]), 500);
      cameras.straight.updateProjectionMatrix();
    }
    controls.current.target.copy(target.current);
    controls.current.update();
    invalidate();
    // Asked for by its own counter alone.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [fitAsked]);

  useFrame((state) => {
    publishFrame({
      camera: state.camera,
      gl: state.gl,
      scene: state.scene,
      size: { width: state.size.width, height: state.size.height },
      target: [target.current.x, target.current.y, target.current.z],
      invalidate,
      pending: () => get().internal.frames > 0,
    });
  });
  useEffect(() => () => publishFrame(null), []);
  return null;
}
