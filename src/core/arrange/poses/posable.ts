/** A pose of a prop: its mesh in its own space, its vertices elsewhere. All else is the mesh's own. */
export interface PosedMesh {
  /** The same for the same pose of the same prop. */
  key: string;
  /** Which of how many over the whole animation. */
  k: number;
  of: number;
  positions: Float32Array;
  normals: Float32Array;
}

/** What of a prop can be posed. */
export interface Posable {
  /** Those with a stride go by the way that is made: metres for once through. */
  clips: { name: string; duration: number; stride?: number }[];
  /** Whether a clip changes anything of it at all. */
  moves(clip: string): boolean;
  /** Pose `k` of so many over the whole of a clip; made when it is first asked for. */
  pose(clip: string, k: number, steps: number): PosedMesh;
}
