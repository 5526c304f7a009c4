/** Lines as they are drawn: so many places each, xyz, one line behind the other. */
export interface DrawnLines {
  /** The slot that each leaves. */
  slot: Float64Array;
  each: number;
  position: Float32Array;
}
