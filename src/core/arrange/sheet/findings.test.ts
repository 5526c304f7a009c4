import { Evaluator } from '../../evaluate/scene';
import type { Mesh } from '../../mesh/mesh';
import { emptyScene, newProp, newSurface } from '../../scene/defaults';
import { pathSchema } from '../../curve/schema';
import type { Scene } from '../../scene/schema';
import { ASSETS } from '../../testing/scene';
import { slotName } from '../slotId';
import { sheet, worked } from '../../testing/sheets';

/** What is wrong with a sheet is said. */

describe('what is wrong is said', () => {
  const [sin, cos] = [Math.sin, Math.cos].map((f) => (deg: number) => f((deg * Math.PI) / 180));
  const said = (more: object, wall: object, change?: (s: Scene) => void) =>
    worked(sheet(more), wall, change).findings.map((f) => f.kind);
  const plane = { shape: 'plane', width: 8, depth: 4 };
  test('no surface, no columns, no room, nothing to place, a frame beside the surface', () => {
    expect(said({ surface: 'gone' }, plane)).toEqual(['surface-missing']);
    // A file may name no columns; what is read is held to one. Called directly it is said.
    const none = sheet();
    none.grid.columns = 0;
    expect(worked(none, plane).findings.map((f) => f.kind)).toContain('sheet-no-columns');
    expect(said({ grid: { left: 9 } }, plane)).toContain('sheet-no-room');
    expect(said({ order: {} }, plane)).toContain('no-props');
    const away = { over: { kind: 'frame', position: [50, 1, 0] }, grid: { columns: 2, rows: 2 } };
    expect(said({ ...away, width: 2, height: 2 }, plane)).toContain('sheet-missed');
  });
  test('a surface without texture coordinates; items larger than it; items across sharp corners', () => {
    const bare = (s: Scene) => (s.surfaces[0].mesh = { source: 'built', name: 'floor' });
    expect(said({}, plane, bare)).toEqual(['sheet-no-uv']);
    expect(said({ facing: { size: 30 }, grid: { columns: 1, rows: 1 } }, plane)).toContain('sheet-larger');
    const box = { shape: 'box', width: 3, height: 3, depth: 3, fillet: 0 };
    expect(said({ grid: { columns: 9, rows: 9 } }, box)).toContain('uv-overlap');
  });

  /** Two panels of a square metre side by side, apart on the texture: the second one as it is, or mirrored. */
  const onPanels = (mirrored: boolean, items: object) => {
    const panels: Mesh = {
      positions: Float32Array.from([0, 1].flatMap((x) => [x, 0, 1, x + 1, 0, 1, x + 1, 0, 0, x, 0, 0])),
      normals: Float32Array.from({ length: 24 }, (_, i) => (i % 3 === 1 ? 1 : 0)),
      uvs: Float32Array.from(
        [0, 1].flatMap((x) => {
          const [left, right] = x === 1 && mirrored ? [1, 0.55] : [x * 0.55, x * 0.55 + 0.45];
          return [left, 0, right, 0, right, 1, left, 1];
        }),
      ),
      indices: Uint32Array.from([0, 4].flatMap((o) => [0, 1, 2, 0, 2, 3].map((k) => k + o))),
      groups: [{ start: 0, count: 12, material: 0 }],
      materials: (ASSETS.mesh({ source: 'built', name: 'box' }) as Mesh).materials,
    };
    const mesh: typeof ASSETS.mesh = (ref) =>
      ref.source === 'built' && ref.name === 'panels' ? panels : ASSETS.mesh(ref);
    const scene = { ...emptyScene('Panels'), props: [newProp('p', 'P', { source: 'built', name: 'box' })] };
    scene.surfaces = [newSurface('wall', 'Wall', { source: 'built', name: 'panels' })];
    scene.arrangements = [sheet({ match: { guess: false }, ...items })];
    return new Evaluator({ ...ASSETS, mesh }).evaluate(scene).arrangements[0];
  };
  test('texture coordinates of which one island is turned over', () => {
    const grid = { columns: 2, rows: 1 };
    expect(onPanels(false, { grid }).findings.map((f) => f.kind)).not.toContain('uv-turned');
    const told = onPanels(true, { grid }).findings.find((f) => f.kind === 'uv-turned')!;
    expect(told.detail).toMatchObject({ surface: 'wall', island: 2, count: 2 });
  });
  test('items that straddle: over the gap between two patches, over the border, and none beside them', () => {
    // 2 m of panels and 0.22 m between them on the texture; the box is 0.4 m wide and 0.5 m long, its origin in the middle.
    const at = (id: string, x: number, y: number) => ({ id, prop: 'p', at: [x, y], size: 0.9 });
    const items = [
      at('item1', 0.5, 0.5),
      at('item2', 0.95, 0.5),
      at('item3', 1.5, 0.1),
      at('item4', 1.5, 0.5),
    ];
    const { findings, placements } = onPanels(false, { grid: { on: false }, items });
    // Lengths are those of the panels, and the gap has none.
    expect([...placements.position.subarray(9)]).toEqual([1.5, 0, 0.5].map((x) => expect.closeTo(x, 5)));
    // 0.76 m wide and 0.95 m long, a little left of the middle of a metre: it only lies over the border when it is turned.
    const long = (turnDeg: number) => {
      const turned = { ...at('item1', 0.45, 0.5), turnDeg, size: 1.9 };
      return onPanels(false, { grid: { on: false }, items: [turned] }).findings.some(
        (f) => f.kind === 'sheet-straddles',
      );
    };
    expect([0, 90, 180].map(long)).toEqual([false, true, false]);
    const told = findings.filter((f) => f.kind === 'sheet-straddles');
    expect(told.map((f) => f.slots!.map(slotName))).toEqual([['k1.2', 'k1.3']]);
  });
  test('items that straddle a sharp edge, live as its angle grows', () => {
    // A lip: a cylinder of 2 m that goes over into a cone as long, its faces meeting there.
    const lip = (turnDeg: number) =>
      worked(
        sheet({ grid: { columns: 12, rows: 3 } }),
        { radius: 2, columns: 48 },
        (s) =>
          (s.paths[0] = pathSchema.parse({
            id: 'profile',
            name: 'Profile',
            source: {
              kind: 'points',
              points: [
                { id: 'a', kind: 'corner', position: [2, 0, 0] },
                { id: 'b', kind: 'corner', position: [2, 2, 0] },
                { id: 'c', kind: 'corner', position: [2 + 2 * sin(turnDeg), 2 + 2 * cos(turnDeg), 0] },
              ],
            },
          })),
      ).findings.find((f) => f.kind === 'sheet-straddles')?.slots;
    expect(lip(30)).toBeUndefined();
    // The middle row of three lies across.
    const over = lip(40)!.map(slotName);
    expect(over).toHaveLength(12);
    expect(over.every((name) => name.startsWith('r1.'))).toBe(true);
  });
});
