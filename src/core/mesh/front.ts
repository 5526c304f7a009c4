/** A heap of numbers (vertices, faces) by distance: who takes them passes over those that came nearer meanwhile. */
export class Front {
  private distance: number[] = [];
  private vertex: number[] = [];

  push(d: number, v: number): void {
    let i = this.distance.length;
    this.distance.push(d);
    this.vertex.push(v);
    while (i > 0) {
      const up = (i - 1) >> 1;
      if (this.distance[up] <= d) break;
      this.distance[i] = this.distance[up];
      this.vertex[i] = this.vertex[up];
      i = up;
    }
    this.distance[i] = d;
    this.vertex[i] = v;
  }

  pop(): { d: number; v: number } | null {
    const n = this.distance.length;
    if (n === 0) return null;
    const out = { d: this.distance[0], v: this.vertex[0] };
    const d = this.distance.pop()!;
    const v = this.vertex.pop()!;
    if (n > 1) {
      let i = 0;
      for (;;) {
        let k = 2 * i + 1;
        if (k >= n - 1) break;
        if (k + 1 < n - 1 && this.distance[k + 1] < this.distance[k]) k++;
        if (this.distance[k] >= d) break;
        this.distance[i] = this.distance[k];
        this.vertex[i] = this.vertex[k];
        i = k;
      }
      this.distance[i] = d;
      this.vertex[i] = v;
    }
    return out;
  }
}
