import { readFileSync } from 'node:fs';
import { readScene } from '@/core/scene/migrate';
import { slotsThatDiffer } from '@/core/testing/slots';
import { SCENE_VERSION } from '@/core/scene/version';
import { EngineService } from './service';

/** Scenes of every earlier version, as they were kept then, with what came of them. */

const fixture = (name: string) => readFileSync(`src/core/testing/fixtures/${name}`, 'utf8');

test.each([
  [1, 'slots.csv'],
  [2, 'slots.csv'],
  // With a sheet whose places are left empty by chance, and riders.
  [3, 'slots-3.csv'],
  // With a member of spans left out, and pegs.
  [4, 'slots-4.csv'],
  // With a banking run that leaves out what collides, and pegs that vary.
  [5, 'slots-5.csv'],
  // With pegs that lie in one list, some of them drawn.
  [6, 'slots-6.csv'],
  // With what an order leaves empty on purpose, by its name of then.
  [7, 'slots-7.csv'],
  // With a scatter, from before there were masks.
  [8, 'slots-8.csv'],
  // With a mask and strokes of the brush, from before anything could be connected.
  [9, 'slots-9.csv'],
  // With strands and connected points, from before anything was bundled.
  [10, 'slots-10.csv'],
  // Lamps, glow and viewpoints came: nothing of it is placed otherwise.
  [11, 'slots-11.csv'],
])('a scene of version %d gives the slots that it gave then', async (version, slots) => {
  const { scene, mends, unknown } = readScene(JSON.parse(fixture(`version-${version}.json`)));
  expect(scene.version).toBe(SCENE_VERSION);
  expect([mends, unknown]).toEqual([[], []]);
  const bytes = await new EngineService().sendOut(scene, { kind: 'csv', gaps: true });
  expect(slotsThatDiffer(fixture(slots), new TextDecoder().decode(bytes)).differ).toEqual([]);
});
