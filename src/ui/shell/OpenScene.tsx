'use client';

import Link from 'next/link';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { openDocument, setReadOnly, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { keepsNothing } from '@/store/keeping/database';
import { keepOpen, saveNow, withUnkept } from '@/store/keeping/keeper';
import { loadScene, type FoundScene } from '@/store/keeping/load';
import { claimScene, holderOf } from '@/store/keeping/scenes';
import { TAB, TabTalk } from '@/store/keeping/tabs';
import { pruneSelection, selectArrangement } from '@/store/selection';
import { say } from '../uiState';
import { mendsText } from '../words/bounds';
import { NOTHING_KEPT, tornText } from '../words/keeping';
import { beginScene } from './beginScene';
import { handOverMeshes } from './handOverMeshes';
import { Workspace } from './Workspace';

type Phase = { state: 'opening' | 'ready' } | { state: 'failed'; text: string };

/** What is to be said of a scene that is not as it was left. */
function foundText({ mends, torn, historyLost }: FoundScene): string {
  const gone = historyLost ? 'The undo list does not fit the scene any more and is gone.' : '';
  return [tornText(torn), mendsText(mends), gone].filter(Boolean).join(' ');
}

/** Shows what was found and keeps it from that moment on. */
function show(id: string, found: FoundScene, stopKeeping: RefObject<() => void>): void {
  stopKeeping.current();
  openDocument(id, found.scene, found);
  stopKeeping.current = keepOpen(id, found);
}

let saidNothingKept = false;

/** Opens a saved scene in this tab: reads it, takes care of other tabs that hold it, keeps it saved. */
export function OpenScene({ id }: { id: string }) {
  const [phase, setPhase] = useState<Phase>({ state: 'opening' });
  const talk = useRef<TabTalk | null>(null);
  const stopKeeping = useRef(() => {});
  useEffect(() => {
    let current = true;
    const tabs = new TabTalk(
      async () => {
        await saveNow();
        setReadOnly('another-tab');
      },
      (gone) => gone === id && setReadOnly('deleted'),
    );
    talk.current = tabs;
    const open = async () => {
      // The worker starts while the scene is read.
      engine();
      const holder = await holderOf(id);
      // What this tab itself put there a moment ago is held by nobody else.
      const elsewhere = holder !== undefined && holder !== TAB && (await tabs.heldElsewhere(id));
      if (holder !== undefined && holder !== TAB && !elsewhere) await claimScene(id, TAB);
      const found = await loadScene(id);
      if (!current) return;
      if (!found)
        return setPhase({
          state: 'failed',
          text: 'This scene is not in this browser. It may have been deleted.',
        });
      const kept = withUnkept(id, found);
      beginScene();
      show(id, kept, stopKeeping);
      if (elsewhere) setReadOnly('another-tab');
      else tabs.hold(id);
      if (kept.scene.arrangements[0]) selectArrangement(kept.scene.arrangements[0].id);
      await handOverMeshes(useDocument.getState().scene);
      if (!current) return;
      const said = foundText(kept);
      if (said) say(said, 'problem');
      else if (keepsNothing() && !saidNothingKept) say(NOTHING_KEPT, 'problem');
      saidNothingKept = keepsNothing();
      setPhase({ state: 'ready' });
    };
    const prune = useDocument.subscribe(
      (now, before) => now.scene !== before.scene && pruneSelection(now.scene),
    );
    open().catch((error: Error) => current && setPhase({ state: 'failed', text: error.message }));
    return () => {
      current = false;
      stopKeeping.current();
      stopKeeping.current = () => {};
      prune();
      tabs.close();
    };
  }, [id]);

  const takeOver = async () => {
    await talk.current?.takeOver(id);
    await claimScene(id, TAB);
    const found = await loadScene(id);
    if (!found) return setReadOnly('deleted');
    show(id, found, stopKeeping);
    await handOverMeshes(useDocument.getState().scene);
    talk.current?.hold(id);
  };

  if (phase.state === 'failed') {
    return (
      <main className="mx-auto mt-32 max-w-md px-6">
        <h1 className="font-display text-2xl font-semibold">The scene cannot be opened</h1>
        <p role="alert" className="my-3">
          {phase.text}
        </p>
        <Link href="/" className="underline underline-offset-2">
          Back to the scenes
        </Link>
      </main>
    );
  }
  if (phase.state === 'opening') return <p className="p-8 text-soft">Opening the scene…</p>;
  return <Workspace onTakeOver={() => void takeOver()} />;
}
