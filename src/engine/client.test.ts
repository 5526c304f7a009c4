import * as Comlink from 'comlink';
import { exampleScene } from '@/core/testing/scene';
import type { Scene } from '@/core/scene/schema';
import { EngineClient } from './client';
import { EngineService } from './service';

/** Workers that are really in this process: they count, and wait until they are let on. */
function workers() {
  const made: { evaluated: string[]; brought: string[]; gate: (() => void)[]; stopped: boolean }[] = [];
  const make = () => {
    const { port1, port2 } = new MessageChannel();
    const log = {
      evaluated: [] as string[],
      brought: [] as string[],
      gate: [] as (() => void)[],
      stopped: false,
    };
    made.push(log);
    const service = new EngineService();
    const api = {
      async evaluate(scene: Scene, known: Record<string, string>) {
        log.evaluated.push(scene.name);
        await new Promise<void>((on) => log.gate.push(on));
        return service.evaluate(scene, known);
      },
      async bringIn(_: Uint8Array, name: string) {
        log.brought.push(name);
        return { hash: name, fileName: name, bounds: {}, triangles: 1, mesh: {} };
      },
    };
    Comlink.expose(api, port1);
    const terminate = () => {
      log.stopped = true;
      port1.close();
      port2.close();
    };
    return Object.assign(port2, { terminate }) as unknown as Worker;
  };
  return { made, make };
}

const named = (name: string): Scene => ({ ...exampleScene(), name });
const until = async (holds: () => boolean) => {
  for (let i = 0; i < 400 && !holds(); i++) await new Promise((r) => setTimeout(r, 5));
  expect(holds()).toBe(true);
};

test('only the latest of many waiting scenes is worked out', async () => {
  const { made, make } = workers();
  const client = new EngineClient(make);
  for (const name of ['a', 'b', 'c', 'd']) client.evaluate(named(name));
  await until(() => made[0].gate.length === 1);
  made[0].gate[0]();
  await until(() => made[0].gate.length === 2);
  made[0].gate[1]();
  await until(() => !client.state.busy);
  expect(made[0].evaluated).toEqual(['a', 'd']);
  expect(client.state.scene!.name).toBe('d');
  expect(client.state.result.arrangements.get('run5')!.findings.map((f) => f.kind)).toContain('mesh-missing');
  client.close();
});

test('while a drag asks for a scene every frame, what is shown is never more than one behind', async () => {
  const { made, make } = workers();
  const client = new EngineClient(make);
  client.evaluate(named('frame 0'));
  for (let frame = 1; frame <= 20; frame++) {
    await until(() => made[0].gate.length === frame);
    const asked = Number(made[0].evaluated.at(-1)!.split(' ')[1]);
    // Each frame lets the evaluation before it end, as one that takes no longer than a frame does.
    client.evaluate(named(`frame ${frame}`));
    made[0].gate[frame - 1]();
    await until(() => client.state.scene?.name === `frame ${asked}`);
    expect(frame - asked).toBeLessThanOrEqual(1);
  }
  await until(() => made[0].gate.length === 21);
  made[0].gate[20]();
  await until(() => !client.state.busy);
  expect(client.state.scene!.name).toBe('frame 20');
  client.close();
});

test('long work shows progress; giving it up keeps the last result, and the next change starts afresh', async () => {
  const { made, make } = workers();
  const client = new EngineClient(make);
  await client.bringIn(new Uint8Array([1]), 'own.glb');
  client.evaluate(named('a'));
  await until(() => made[0].gate.length === 1);
  made[0].gate[0]();
  await until(() => !client.state.busy);
  client.evaluate(named('slow'));
  await until(() => client.state.progress !== null);
  await until(() => client.state.progress?.cancellable === true);
  client.cancel();
  expect(made[0].stopped).toBe(true);
  expect(client.state).toMatchObject({
    busy: false,
    progress: null,
    problem: expect.stringContaining('Stopped'),
  });
  expect(client.state.scene!.name).toBe('a');
  client.evaluate(named('next'));
  await until(() => made[1].gate.length === 1);
  expect(made[1].brought).toEqual(['own.glb']);
  made[1].gate[0]();
  await until(() => client.state.scene!.name === 'next');
  expect(client.state.problem).toBeNull();
  client.close();
});
