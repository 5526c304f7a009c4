import { useRouter } from 'next/navigation';
import { useState } from 'react';
import { neededFiles } from '@/core/formats/sceneZip';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { describeFailure } from '@/store/keeping/keeper';
import { createScene, putMesh } from '@/store/keeping/scenes';
import { TAB } from '@/store/keeping/tabs';
import { Button } from '../controls/Button';
import { say } from '../uiState';
import { Standstill } from './Standstill';

/** Puts the open document into the store anew, with its undo list and all that it needs. @returns its key */
async function keepCopy(): Promise<string> {
  const { scene, past, future } = useDocument.getState();
  for (const { hash } of neededFiles(scene)) {
    const bytes = engine().bytesOf(hash);
    if (bytes) await putMesh(hash, bytes);
  }
  return createScene(scene, TAB, { past, future });
}

/** Says that the scene was deleted in another tab, and offers to keep it all the same. */
export function DeletedElsewhere() {
  const router = useRouter();
  const [busy, setBusy] = useState(false);
  const keep = async () => {
    setBusy(true);
    try {
      router.replace(`/scene/${await keepCopy()}`);
    } catch (error) {
      setBusy(false);
      say(describeFailure(error), 'problem');
    }
  };
  return (
    <Standstill
      title="This scene was deleted in another tab"
      text="It is still whole here, with its meshes and its undo list. Keep it as a copy to go on; otherwise it is gone when you leave."
    >
      <Button
        look="ink"
        title="As a scene of its own, to go on with"
        disabled={busy}
        onClick={() => void keep()}
      >
        Keep a copy
      </Button>
      <Button look="bordered" title="Leaves it deleted" onClick={() => router.push('/')}>
        Back to the scenes
      </Button>
    </Standstill>
  );
}
