import { readFileSync } from 'node:fs';
import { STATE } from '@/core/arrange/result';
import { slotName } from '@/core/arrange/slotId';
import { wayTo } from '@/core/formats/wayTo';
import { EngineService } from '@/engine/service';

/** The chandlery as it is on disk: racks stocked each by itself, one board all but sold out, crates of jars. */

const service = new EngineService();

async function opened(name: string) {
  const bytes = new Uint8Array(readFileSync(`examples/${name}.clothesline`));
  const { scene, mends, missing } = await service.open(bytes, name);
  expect([mends, missing]).toEqual([[], []]);
  const result = service.evaluateAll(scene);
  expect(result.arrangements.flatMap((n) => n.findings)).toEqual([]);
  return (title: string) => result.arrangements[scene.arrangements.findIndex((a) => a.name === title)];
}

test('three copies of one rack hold different goods, all on their boards; the last tins are few', async () => {
  const of = await opened('chandlery');
  const { placements, inside } = of('Racks along the wall');
  const held = [1, 2, 3].map((copy) => {
    const ways: string[] = [];
    for (let i = 0; i < inside!.count; i++) {
      const way = wayTo(placements, inside!, i);
      if (!way.startsWith(`${copy}/`)) continue;
      ways.push(`${way.slice(2)} ${inside!.props[inside!.prop[i]]}`);
      // Within the rack: two metres wide about its middle, less than half a metre deep, on one of five boards or above.
      const [x, y, z] = inside!.position.subarray(i * 3, i * 3 + 3);
      expect(Math.abs(x)).toBeLessThan(1);
      expect(Math.abs(z)).toBeLessThan(0.23);
      expect(y).toBeGreaterThan(-1e-9);
    }
    return ways.sort();
  });
  for (const ways of held) expect(ways.length).toBeGreaterThan(120);
  expect(new Set(held.map((ways) => ways.join())).size).toBe(3);
  const last = of('The last tins').placements;
  const left = [...last.state].filter((s) => s === STATE.placed).length;
  expect(left).toBeGreaterThan(0);
  expect(left / last.count).toBeLessThan(0.3);
});

test('on the quay crates of jars stand on each other, six jars in each, every jar turned by itself', async () => {
  const of = await opened('tern-quay');
  const { placements: p, inside } = of('Crates of jars');
  const turns = new Map<string, Set<string>>();
  let jars = 0;
  for (let i = 0; i < inside!.count; i++) {
    const way = wayTo(p, inside!, i);
    if (inside!.of[inside!.member[i]] !== inside!.of[1]) continue;
    jars++;
    const name = way.split('/')[1];
    const list = turns.get(name) ?? new Set();
    turns.set(name, list.add([...inside!.rotation.subarray(i * 4, i * 4 + 4)].join()));
  }
  expect(jars).toBe(p.count * 6);
  for (const list of turns.values()) expect(list.size).toBe(p.count);
  const height = (name: string) => p.position[[...p.slot].map(slotName).indexOf(name) * 3 + 1];
  // The lids of the jars carry the next crate: they stand a floor of 12 mm and a jar of 165 above its own.
  expect(height('1.1.2') - height('1.1.1')).toBeCloseTo(0.177, 4);
});
