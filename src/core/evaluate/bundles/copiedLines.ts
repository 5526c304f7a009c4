import type { DrawnLines } from '../../arrange/drawnLines';
import type { Vec3 } from '../../math/vec3';

/** Gathers the bare lines that copies of bundles hang, each carried to where its copy stands. */
export class CopiedLines {
  private list: { slot: number; position: Float32Array }[] = [];

  /**
   * @param m from the space of the copy to the scene @param own from metres about the bundle's origin to that space
   * @param slot of the copy
   */
  put(
    { slot: { length: count }, each, position }: DrawnLines,
    m: ArrayLike<number>,
    own: ArrayLike<number>,
    origin: Vec3,
    slot: number,
  ): void {
    const through = (t: ArrayLike<number>, [x, y, z]: Vec3): Vec3 => [
      t[0] * x + t[4] * y + t[8] * z + t[12],
      t[1] * x + t[5] * y + t[9] * z + t[13],
      t[2] * x + t[6] * y + t[10] * z + t[14],
    ];
    for (let k = 0; k < count; k++) {
      const carried = new Float32Array(each * 3);
      for (let i = 0; i < each; i++) {
        const o = (k * each + i) * 3;
        const from: Vec3 = [
          position[o] - origin[0],
          position[o + 1] - origin[1],
          position[o + 2] - origin[2],
        ];
        carried.set(through(m, through(own, from)), i * 3);
      }
      this.list.push({ slot, position: carried });
    }
  }

  /** All of them with as many places each as the longest has: the last place of a shorter one is said again. */
  done(): DrawnLines | undefined {
    const { list } = this;
    if (list.length === 0) return undefined;
    const each = Math.max(...list.map((l) => l.position.length / 3));
    const position = new Float32Array(list.length * each * 3);
    list.forEach((l, k) => {
      position.set(l.position, k * each * 3);
      const last = l.position.subarray(l.position.length - 3);
      for (let o = k * each * 3 + l.position.length; o < (k + 1) * each * 3; o += 3) position.set(last, o);
    });
    return { slot: Float64Array.from(list, (l) => l.slot), each, position };
  }
}
