import type { Vec3 } from '../../math/vec3';
import type { StockLayout } from '../result';
import type { Rows } from './facing';
import type { LaidBoard } from './lay';

/** What the flat view shows of boards that are laid. */
export function layoutOf(boards: readonly LaidBoard[], rows: Rows): StockLayout {
  const box = new Float32Array(rows.count * 6);
  const facings: StockLayout['facings'] = [];
  boards.forEach(({ facings: list }, shelf) => {
    for (const f of list) {
      facings.push({
        name: f.name,
        shelf,
        prop: f.prop,
        x0: f.from,
        x1: f.to,
        start: f.start,
        end: f.end,
        deep: f.deep,
        high: f.high,
      });
      for (let i = f.start; i < f.end; i++) {
        const b = i * 6;
        const x = f.from - f.x0;
        box[b] = x + rows.box[b];
        box[b + 1] = x + rows.box[b + 1];
        box[b + 2] = rows.y[i] + rows.box[b + 2];
        box[b + 3] = rows.y[i] + rows.box[b + 3];
        box[b + 4] = rows.z[i] + rows.box[b + 4];
        box[b + 5] = rows.z[i] + rows.box[b + 5];
      }
    }
  });
  return {
    shelves: boards.map(({ shelf }) => {
      const { edge } = shelf;
      const { origin, up } = edge.frame(edge.length / 2, edge.length / 2);
      return {
        part: shelf.part,
        board: shelf.board,
        length: edge.length,
        depth: shelf.depth,
        height: shelf.height,
        at: origin.map((v, a) => v + up[a] * shelf.raised) as Vec3,
        closed: edge.closed,
      };
    }),
    facings,
    box,
  };
}
