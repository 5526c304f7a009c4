import { useSyncExternalStore } from 'react';
import { EngineClient, type EngineState } from '@/engine/client';
import { NOTHING } from '@/engine/results';
import { onChange, useDocument } from './document';

/** The engine of this page. It follows the open document by itself. */

let client: EngineClient | null = null;

export function engine(): EngineClient {
  if (!client) {
    client = new EngineClient(
      () => new Worker(new URL('../engine/worker.ts', import.meta.url), { type: 'module' }),
    );
    onChange((change) => {
      const { scene } = useDocument.getState();
      if (change.kind === 'opened') client!.takeScene(scene);
      else client!.change(scene, change.patches, change.step.do !== 'view');
    });
  }
  return client;
}

const subscribe = (listener: () => void) => engine().subscribe(listener);
const IDLE: EngineState = {
  result: NOTHING,
  scene: null,
  busy: true,
  checks: new Map(),
  looking: true,
  asked: 0,
  progress: null,
  problem: null,
};

/** A part of the engine's state. `select` must give the same value for the same state. */
export function useEngine<T>(select: (state: EngineState) => T): T {
  return useSyncExternalStore(
    subscribe,
    () => select(engine().state),
    () => select(IDLE),
  );
}
