/** How placed props are written as glTF, and what goes along. */
export interface GlbOptions {
  /** "instanced": one node a prop and arrangement (EXT_mesh_gpu_instancing); "nodes": one node a prop placed. */
  props: 'instanced' | 'nodes';
  /** Whether the surfaces go along. */
  surfaces: boolean;
  /** Whether the props' snap points do, as nodes without a mesh. */
  snaps?: boolean;
  /** Whether the lights put in by hand and the viewpoints do, as lights and cameras. */
  lights?: boolean;
}
