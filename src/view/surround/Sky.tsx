import { useThree } from '@react-three/fiber';
import { useEffect, useMemo } from 'react';
import { BufferAttribute, BufferGeometry, Matrix4, ShaderMaterial, type Camera } from 'three';
import { onLight } from '../light';
import { showAround, SKY_GLSL, SKY_UNIFORMS } from './sky';

const VERTEX = `
  uniform mat4 unproject; varying vec3 way;
  void main() {
    // Where the view's edges are in the scene, as directions; between them they go over evenly.
    vec4 far = unproject * vec4(position.xy, 1.0, 1.0);
    vec4 near = unproject * vec4(position.xy, -1.0, 1.0);
    way = far.xyz / far.w - near.xyz / near.w;
    // A plan, seen square on, has no sky: the triangle lies beside the view.
    gl_Position = isOrthographic ? vec4(2.0, 2.0, 2.0, 1.0) : vec4(position.xy, 1.0, 1.0);
  }`;

const FRAGMENT = `
  varying vec3 way; ${SKY_GLSL}
  void main() {
    gl_FragColor = vec4(seenAt(normalize(way)), 1.0);
    #include <tonemapping_fragment>
    #include <colorspace_fragment>
  }`;

/** The sky behind everything, with its horizon where it is. */
export function Sky() {
  const invalidate = useThree((s) => s.invalidate);
  const { geometry, material, turn } = useMemo(() => make(), []);
  useEffect(() => onLight(invalidate), [invalidate]);
  return (
    <mesh
      geometry={geometry}
      material={material}
      frustumCulled={false}
      // After what is solid: only what is left of the view is coloured.
      renderOrder={-3}
      raycast={() => null}
      onBeforeRender={(_gl, _scene, camera) => turn(camera)}
    />
  );
}

function make() {
  const geometry = new BufferGeometry();
  // One triangle that covers the view.
  geometry.setAttribute(
    'position',
    new BufferAttribute(new Float32Array([-1, -1, 0, 3, -1, 0, -1, 3, 0]), 3),
  );
  const unproject = new Matrix4();
  const material = new ShaderMaterial({
    vertexShader: VERTEX,
    fragmentShader: FRAGMENT,
    uniforms: { ...SKY_UNIFORMS, unproject: { value: unproject } },
    // Among what is see-through, of which it is the first.
    transparent: true,
    depthWrite: false,
  });
  showAround(material);
  const turn = (camera: Camera) => {
    unproject.multiplyMatrices(camera.matrixWorld, camera.projectionMatrixInverse);
    material.uniformsNeedUpdate = true;
  };
  return { geometry, material, turn };
}
