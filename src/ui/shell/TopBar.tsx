'use client';

import clsx from 'clsx';
import {
  Camera,
  Check,
  CircleCheck,
  LoaderCircle,
  Redo2,
  Sun,
  TriangleAlert,
  Undo2,
  Upload,
} from 'lucide-react';
import Link from 'next/link';
import { useEffect, useState } from 'react';
import { setScene } from '@/store/commands/scene';
import { dispatch, redo, undo, useDocument } from '@/store/document';
import { useSaved } from '@/store/keeping/keeper';
import { Button, IconButton } from '../controls/Button';
import { plural } from '@/words/numbers';
import { useFindings } from '../checks/findings';
import { openDialog, sendOnly, useUi } from '../uiState';
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
      <IconButton
        name="Light of the scene"
        onClick={() => openDialog(useUi.getState().dialog === 'light' ? null : 'light')}
      >
        <Sun size={16} />
      </IconButton>
      <IconButton
        name="Viewpoints"
        onClick={() => openDialog(useUi.getState().dialog === 'viewpoints' ? null : 'viewpoints')}
      >
        <Camera size={16} />
      </IconButton>
      <ChecksButton />
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

/** How many things there are to look at in the scene; a click lists them. */
function ChecksButton() {
  const { told, looking } = useFindings();
  const broken = told.some(({ finding }) => finding.severity === 'error');
  const said = told.length > 0 ? plural(told.length, 'check') : looking ? 'Looking …' : 'All well';
  return (
    <button
      type="button"
      title="Checks of the scene: what there is to look at, and what mends it"
      aria-label={`Checks of the scene: ${said}`}
      onClick={() => openDialog(useUi.getState().dialog === 'checks' ? null : 'checks')}
      className={clsx(
        'flex items-center gap-1.5 rounded-md px-2.5 py-1.5 text-sm hover:bg-well',
        told.length === 0 ? 'text-soft' : broken ? 'text-danger' : 'text-caution',
      )}
    >
      {told.length > 0 ? <TriangleAlert size={15} /> : <CircleCheck size={15} />}
      {told.length > 0 && <span className="num">{told.length}</span>}
    </button>
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

/** It says "Saved" once nothing has come after it for so long: said between two steps of a drag it only flickers. */
const CALM_MS = 250;

function SavedMark() {
  const { state, problem } = useSaved();
  const [calm, setCalm] = useState(true);
  useEffect(() => {
    if (state !== 'saved') return setCalm(false);
    const later = setTimeout(() => setCalm(true), CALM_MS);
    return () => clearTimeout(later);
  }, [state]);
  if (state === 'failed') {
    return (
      <span className="flex items-center gap-1 text-sm text-danger" title={problem}>
        <TriangleAlert size={14} /> Not saved
      </span>
    );
  }
  return state === 'saved' && calm ? (
    <span className="flex items-center gap-1 text-sm text-good">
      <Check size={14} /> Saved
    </span>
  ) : (
    <span className="flex items-center gap-1 text-sm text-soft">
      <LoaderCircle size={14} /> Saving
    </span>
  );
}
