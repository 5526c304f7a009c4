/** The volume that a mesh's faces enclose, positive where they run counter-clockwise outside. */
export function volumeOf(p: ArrayLike<number>, indices: ArrayLike<number>): number {
  let sum = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [0, 1, 2].map((r) => p[indices[i + k] * 3 + r]));
    sum +=
      a[0] * (b[1] * c[2] - b[2] * c[1]) +
      a[1] * (b[2] * c[0] - b[0] * c[2]) +
      a[2] * (b[0] * c[1] - b[1] * c[0]);
  }
  return sum / 6;
}
