'use client';

import Link from 'next/link';
import { useEffect, useRef, useState } from 'react';
import { neededFiles } from '@/core/formats/sceneZip';
import { openDocument, setReadOnly, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { saveNow, startAutosave } from '@/store/keeping/autosave';
import { claimScene, getMesh, loadScene } from '@/store/keeping/scenes';
import { TAB, TabTalk } from '@/store/keeping/tabs';
import { clearSelection, pruneSelection, selectArrangement } from '@/store/selection';
import { chooseTool, setMode } from '@/view/viewState';
import { say } from '../uiState';
import { mendsText } from '../words/bounds';
import { Workspace } from './Workspace';

type Phase = { state: 'opening' | 'ready' } | { state: 'failed'; text: string };

/**
 * Gives the engine the meshes and pictures that the scene brought along, and has it worked out with them. A missing
 * one is a finding, not a failure.
 */
async function handOverMeshes(): Promise<void> {
  const needed = neededFiles(useDocument.getState().scene);
  for (const ref of needed) {
    const bytes = await getMesh(ref.hash);
    if (bytes)
      await (
        ref.format === 'png'
          ? engine().bringInPicture(bytes, ref.fileName)
          : engine().bringIn(bytes, ref.fileName)
      ).catch(() => undefined);
  }
  if (needed.length) engine().evaluate(useDocument.getState().scene);
}

/** Opens a saved scene in this tab: reads it, takes care of other tabs that hold it, keeps it saved. */
export function OpenScene({ id }: { id: string }) {
  const [phase, setPhase] = useState<Phase>({ state: 'opening' });
  const talk = useRef<TabTalk | null>(null);
  useEffect(() => {
    let current = true;
    let stopSaving = () => {};
    const tabs = new TabTalk(async () => {
      await saveNow();
      setReadOnly('another-tab');
    });
    talk.current = tabs;
    const open = async () => {
      // The worker starts while the scene is read.
      engine();
      const kept = await loadScene(id);
      if (!current) return;
      if (!kept)
        return setPhase({
          state: 'failed',
          text: 'This scene is not in this browser. It may have been deleted.',
        });
      // What this tab itself put there a moment ago is held by nobody else.
      const elsewhere = kept.holder !== TAB && (await tabs.heldElsewhere(id));
      if (!current) return;
      openDocument(id, kept.scene, kept);
      clearSelection();
      chooseTool('pick');
      setMode('free');
      if (kept.scene.arrangements[0]) selectArrangement(kept.scene.arrangements[0].id);
      if (elsewhere) setReadOnly('another-tab');
      else {
        await claimScene(id, TAB);
        tabs.hold(id);
      }
      await handOverMeshes();
      if (!current) return;
      stopSaving = startAutosave();
      const gone = kept.historyLost ? 'The undo list does not fit the scene any more and is gone.' : '';
      if (kept.mends.length || gone) say(`${mendsText(kept.mends)} ${gone}`.trim(), 'problem');
      setPhase({ state: 'ready' });
    };
    const prune = useDocument.subscribe(
      (now, before) => now.scene !== before.scene && pruneSelection(now.scene),
    );
    open().catch((error: Error) => current && setPhase({ state: 'failed', text: error.message }));
    return () => {
      current = false;
      stopSaving();
      prune();
      tabs.close();
    };
  }, [id]);

  const takeOver = async () => {
    await talk.current?.takeOver(id);
    await claimScene(id, TAB);
    const kept = await loadScene(id);
    if (!kept) return setPhase({ state: 'failed', text: 'This scene was deleted in the other tab.' });
    openDocument(id, kept.scene, kept);
    await handOverMeshes();
    talk.current?.hold(id);
  };

  if (phase.state === 'failed') {
    return (
      <main className="mx-auto mt-32 max-w-md px-6">
        <h1 className="font-display text-2xl font-semibold">The scene cannot be opened</h1>
        <p role="alert" className="my-3">
          {phase.text}
        </p>
        <Link href="/" className="text-woad underline">
          Back to the scenes
        </Link>
      </main>
    );
  }
  if (phase.state === 'opening') return <p className="p-8 text-soft">Opening the scene…</p>;
  return <Workspace onTakeOver={() => void takeOver()} />;
}
