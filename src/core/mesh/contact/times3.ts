/** The product of two 3 × 3 matrices, by rows. */
export function times3(a: ArrayLike<number>, b: ArrayLike<number>, out: Float64Array): void {
  for (let r = 0; r < 9; r += 3)
    for (let c = 0; c < 3; c++) out[r + c] = a[r] * b[c] + a[r + 1] * b[c + 3] + a[r + 2] * b[c + 6];
}
