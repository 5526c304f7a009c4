'use client';

import { Check, LoaderCircle, Redo2, TriangleAlert, Undo2, Upload } from 'lucide-react';
import Link from 'next/link';
import { useState } from 'react';
import { setScene } from '@/store/commands/scene';
import { dispatch, redo, undo, useDocument } from '@/store/document';
import { useSaved } from '@/store/keeping/keeper';
import { Button, IconButton } from '../controls/Button';
import { openDialog, sendOnly } from '../uiState';
import { Mark } from './Mark';

export function TopBar() {
  const past = useDocument((s) => s.past.at(-1)?.name);
  const next = useDocument((s) => s.future[0]?.name);
  return (
    <header className="h-[46px] shrink-0 flex items-center gap-3 border-b border-edge px-3">
      <Link href="/" className="flex items-center gap-2.5" aria-label="Clothesline, all scenes">
        <Mark />
        <span className="font-display text-[19px] font-bold tracking-tight">Clothesline</span>
      </Link>
      <span className="h-5 w-px bg-edge" />
      <SceneHeading />
      <SceneName />
      <SavedMark />
      <span className="flex-1" />
      <IconButton name={past ? `Undo ${past}` : 'Undo'} keys="Mod+Z" disabled={!past} onClick={undo}>
        <Undo2 size={17} />
      </IconButton>
      <IconButton name={next ? `Redo ${next}` : 'Redo'} keys="Shift+Mod+Z" disabled={!next} onClick={redo}>
        <Redo2 size={17} />
      </IconButton>
      <span className="h-5 w-px bg-edge" />
      <Link href="/" className="rounded-md px-3 py-1.5 text-sm hover:bg-well">
        Scenes
      </Link>
      <Button
        title="A file as props, a surface, paths, places or a picture"
        onClick={() => openDialog('bring-in')}
      >
        Bring in
      </Button>
      <Button look="ink" title="The scene as a file that others read" onClick={() => sendOnly(false)}>
        <Upload size={15} />
        Send out
      </Button>
    </header>
  );
}

/** The name that is edited is no heading to a screen reader; this one is. */
function SceneHeading() {
  return <h1 className="sr-only">{useDocument((s) => s.scene.name)}</h1>;
}

function SceneName() {
  const name = useDocument((s) => s.scene.name);
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text !== null && text.trim() && text.trim() !== name)
      dispatch(setScene, { name: text.trim().slice(0, 200) });
    setText(null);
  };
  return (
    <input
      aria-label="Scene name"
      title="What the scene and its files are called"
      value={text ?? name}
      size={Math.min(44, Math.max(8, (text ?? name).length))}
      onChange={(e) => setText(e.target.value)}
      onFocus={(e) => e.currentTarget.select()}
      onBlur={commit}
      onKeyDown={(e) => {
        if (e.key === 'Enter') e.currentTarget.blur();
        if (e.key === 'Escape') {
          setText(null);
          e.currentTarget.value = name;
          e.currentTarget.blur();
        }
      }}
      className="rounded-md border border-transparent bg-transparent px-1.5 py-1 text-[14.5px] font-medium hover:border-edge focus:border-edge focus:bg-card focus:outline-none"
    />
  );
}

function SavedMark() {
  const { state, problem } = useSaved();
  if (state === 'failed') {
    return (
      <span className="flex items-center gap-1 text-sm text-danger" title={problem}>
        <TriangleAlert size={14} /> Not saved
      </span>
    );
  }
  return state === 'saved' ? (
    <span className="flex items-center gap-1 text-sm text-good">
      <Check size={14} /> Saved
    </span>
  ) : (
    <span className="flex items-center gap-1 text-sm text-soft">
      <LoaderCircle size={14} /> Saving
    </span>
  );
}
