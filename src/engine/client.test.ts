import * as Comlink from 'comlink';
import { exampleScene } from '@/core/testing/scene';
import type { Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { EngineClient } from './client';
import { Mirror } from './mirror';
import { Told } from './served';
import { EngineService } from './service';

/** Workers that are really in this process: they count, and wait until they are let on. */
function workers() {
  const made: {
    evaluated: string[];
    brought: string[];
    wholes: number;
    gate: (() => void)[];
    stopped: boolean;
    unfinished: number;
    mirror: Mirror;
  }[] = [];
  const make = () => {
    const { port1, port2 } = new MessageChannel();
    const log = {
      evaluated: [] as string[],
      brought: [] as string[],
      wholes: 0,
      mirror: new Mirror(),
      gate: [] as (() => void)[],
      stopped: false,
      /** How many more times an evaluation is not done yet. */
      unfinished: 0,
    };
    made.push(log);
    const service = new EngineService();
    const told = new Told();
    const api = {
      listen() {},
      whole(scene: Scene, at: number) {
        log.wholes++;
        log.mirror.whole(scene, at);
      },
      change: (patches: Patch[], from: number, to: number) => log.mirror.change(patches, from, to),
      preview: (patches: Patch[] | null) => log.mirror.preview(patches),
      async evaluate(at: number) {
        const scene = log.mirror.scene(at);
        log.evaluated.push(scene.name);
        await new Promise<void>((on) => log.gate.push(on));
        const served = service.evaluate(scene, told);
        return log.unfinished-- > 0 ? { ...served, unfinished: { name: 'Heap', done: 0.5 } } : served;
      },
      // A file that is never read to its end.
      readPlaces: () => new Promise<never>(() => {}),
      async takeIn(bytes: Uint8Array, name: string) {
        await this.bringIn(bytes, name);
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
const rename = (client: EngineClient, name: string) =>
  client.change(named(name), [{ op: 'replace', path: ['name'], value: name }]);
const until = async (holds: () => boolean) => {
  for (let i = 0; i < 400 && !holds(); i++) await new Promise((r) => setTimeout(r, 5));
  expect(holds()).toBe(true);
};

test('only the latest of many waiting scenes is worked out', async () => {
  const { made, make } = workers();
  const client = new EngineClient(make);
  client.takeScene(named('a'));
  for (const name of ['b', 'c', 'd']) rename(client, name);
  await until(() => made[0].gate.length === 1);
  made[0].gate[0]();
  await until(() => made[0].gate.length === 2);
  made[0].gate[1]();
  await until(() => !client.state.busy);
  expect(made[0].evaluated).toEqual(['a', 'd']);
  // The scene went there once; after that only what changed.
  expect(made[0].wholes).toBe(1);
  expect(client.state.scene!.name).toBe('d');
  expect(client.state.result.arrangements.get('run5')!.findings.map((f) => f.kind)).toContain('mesh-missing');
  client.close();
});

test('while a drag asks for a scene every frame, what is shown is never more than one behind', async () => {
  const { made, make } = workers();
  const client = new EngineClient(make);
  client.takeScene(named('frame 0'));
  for (let frame = 1; frame <= 20; frame++) {
    await until(() => made[0].gate.length === frame);
    const asked = Number(made[0].evaluated.at(-1)!.split(' ')[1]);
    // Each frame lets the evaluation before it end, as one that takes no longer than a frame does.
    rename(client, `frame ${frame}`);
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
  client.takeScene(named('a'));
  await until(() => made[0].gate.length === 1);
  made[0].gate[0]();
  await until(() => !client.state.busy);
  rename(client, 'slow');
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
  rename(client, 'next');
  await until(() => made[1].gate.length === 1);
  expect(made[1].brought).toEqual(['own.glb']);
  made[1].gate[0]();
  await until(() => client.state.scene!.name === 'next');
  expect(client.state.problem).toBeNull();
  client.close();
});

test('what falls is gone on with until it is done; stopped, it stays as far as it has come, and its worker too', async () => {
  const { made, make } = workers();
  const client = new EngineClient(make);
  client.takeScene(named('a'));
  await until(() => made.length > 0);
  const [log] = made;
  const next = async (n: number) => {
    await until(() => log.gate.length === n);
    log.gate[n - 1]();
  };
  log.unfinished = 2;
  for (const n of [1, 2, 3]) await next(n);
  await until(() => !client.state.busy);
  expect(log.evaluated).toEqual(['a', 'a', 'a']);
  log.unfinished = 100;
  rename(client, 'b');
  for (let n = 4; client.state.progress?.name !== 'Heap'; n++) {
    await until(() => log.gate.length === n || client.state.progress?.name === 'Heap');
    log.gate[n - 1]?.();
    await new Promise((r) => setTimeout(r, 60));
  }
  client.cancel();
  for (const go of log.gate) go();
  await until(() => !client.state.busy);
  expect(log.stopped).toBe(false);
  expect(client.state.problem).toContain('as far as it has fallen');
  const asked = log.evaluated.length;
  log.unfinished = 0;
  rename(client, 'c');
  await next(asked + 1);
  await until(() => client.state.scene!.name === 'c' && !client.state.busy);
  expect(client.state.problem).toBeNull();
  client.close();
});

test('a worker that has lost its place gets the whole scene once, and its answer comes all the same', async () => {
  const { made, make } = workers();
  const client = new EngineClient(make);
  client.takeScene(named('a'));
  await until(() => made[0].gate.length === 1);
  made[0].gate[0]();
  await until(() => !client.state.busy);
  made[0].mirror.change([], 99, 100);
  rename(client, 'b');
  await until(() => made[0].gate.length === 2);
  made[0].gate[1]();
  await until(() => !client.state.busy);
  expect([made[0].wholes, client.state.problem, client.state.scene!.name]).toEqual([2, null, 'b']);
  client.close();
});

test('a preview is worked out and goes again; a node that is gone goes from the results, a stopped worker between or not', async () => {
  const { made, make } = workers();
  const client = new EngineClient(make);
  const settle = async (worker: number, n: number) => {
    await until(() => made[worker].gate.length === n);
    made[worker].gate[n - 1]();
    await until(() => !client.state.busy);
  };
  const shown = () => [...client.state.result.arrangements.keys()];
  client.takeScene(named('a'));
  await settle(0, 1);
  const all = shown();
  const none = { ...named('none'), arrangements: [] };
  const patches: Patch[] = [{ op: 'replace', path: ['arrangements'], value: [] }];
  client.preview({ scene: none, patches });
  await settle(0, 2);
  expect(shown()).toEqual([]);
  client.preview(null);
  await settle(0, 3);
  expect(shown()).toEqual(all);
  client.change(none, patches);
  client.cancel();
  client.again();
  await settle(1, 1);
  expect(shown()).toEqual([]);
  client.close();
});

test('a question that is cancelled says so; the new worker has results again for those that come after it', async () => {
  const { made, make } = workers();
  const client = new EngineClient(make);
  client.takeScene(named('a'));
  await until(() => made[0].gate.length === 1);
  made[0].gate[0]();
  await until(() => !client.state.busy);
  const asked = client.readPlaces(new Uint8Array([1]), 'long.csv');
  await until(() => client.state.progress?.cancellable === true);
  expect(client.state.progress!.name).toBe('long.csv');
  client.cancel();
  await expect(asked).rejects.toThrow('Cancelled. Nothing was changed.');
  expect(client.state).toMatchObject({ asked: 0, progress: null, problem: null });
  await until(() => made[1].gate.length === 1);
  made[1].gate[0]();
  await until(() => !client.state.busy);
  expect(made[1].evaluated).toEqual(['a']);
  client.close();
});
