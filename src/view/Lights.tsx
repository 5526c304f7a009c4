import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef, useSyncExternalStore } from 'react';
import { Box3, LightProbe, Sphere, Vector3, type DirectionalLight, type WebGLCapabilities } from 'three';
import { useEngine } from '@/store/engine';
import { shadowsAnew } from './coarse';
import { onLight, sceneLight } from './light';
import { SOFTWARE } from './software';
import { light } from './surround/lighting';
import { wantPanorama } from './surround/panoramas';
import { EXPOSURE } from './tones';
import { useOwnLight } from './useOwnLight';
import { useView, waitFor } from './viewState';

/** Most pixels across a panorama that is drawn. */
const MOST = 8192;

/** The sun from one side with its shadow fitted to what is there, and the sky's from above. */
export function Lights() {
  const sun = useRef<DirectionalLight>(null);
  const { scene, gl, invalidate } = useThree();
  const result = useEngine((s) => s.result);
  const now = useSyncExternalStore(onLight, sceneLight, sceneLight);
  const { sun: disc, sky, exposure, metered, surround } = now;
  const probe = useMemo(() => new LightProbe(), []);
  useOwnLight();
  const measured = useView((s) => (metered ? s.measured : 1));
  useEffect(() => {
    gl.toneMappingExposure = EXPOSURE * exposure * measured;
    invalidate();
  }, [gl, exposure, measured, invalidate]);
  useEffect(() => {
    const wanted = surround.by === 'panorama' ? surround.panorama : null;
    // Where nothing is drawn nothing is known of what could be.
    const { maxTextureSize = MOST } = (gl.capabilities as WebGLCapabilities | undefined) ?? {};
    const most = SOFTWARE ? MOST / 4 : Math.min(maxTextureSize, MOST);
    const coming = wantPanorama(wanted, most);
    if (coming) void waitFor(coming);
    // Its file comes with a result, or before it.
  }, [gl, surround, result]);
  const isLit = light(probe);
  useEffect(() => invalidate(), [now, invalidate]);
  useEffect(() => {
    gl.shadowMap.autoUpdate = false;
  }, [gl]);
  useEffect(() => {
    shadowsAnew(gl);
    invalidate();
  }, [result, disc, gl, invalidate]);
  // Before the frame is drawn, when everything is where it belongs.
  useFrame(() => {
    const light = sun.current;
    if (!light || !gl.shadowMap.needsUpdate) return;
    const box = new Box3();
    scene.traverseVisible((o) => {
      if (o.userData.pick) box.expandByObject(o);
    });
    const sphere = box.isEmpty()
      ? new Sphere(light.target.position, 14)
      : box.getBoundingSphere(new Sphere());
    const r = Math.min(60, Math.max(4, sphere.radius * 1.05));
    light.target.position.copy(sphere.center);
    light.position.copy(sphere.center).addScaledVector(new Vector3(...disc.towards), r);
    Object.assign(light.shadow.camera, { left: -r, right: r, top: r, bottom: -r, near: 0.1, far: r * 4 });
    light.shadow.camera.updateProjectionMatrix();
    light.shadow.normalBias = (r / 1024) * (SOFTWARE ? 2.4 : 1.6);
    light.target.updateMatrixWorld();
  });
  return (
    <>
      <hemisphereLight color={sky.color} groundColor={sky.ground} intensity={isLit ? 0 : sky.intensity} />
      {isLit && <primitive object={probe} />}
      <directionalLight
        ref={sun}
        color={disc.color}
        intensity={disc.intensity}
        castShadow
        shadow-mapSize={SOFTWARE ? [1024, 1024] : [2048, 2048]}
      />
    </>
  );
}
