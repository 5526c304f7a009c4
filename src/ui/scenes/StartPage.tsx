'use client';

import { Copy, FolderOpen, Plus, Trash2 } from 'lucide-react';
import { useRouter } from 'next/navigation';
import { useEffect, useRef, useState } from 'react';
import { emptyScene } from '@/core/scene/defaults';
import { database, keepsNothing, type SceneCard } from '@/store/keeping/database';
import { createScene, deleteScene, duplicateScene, listScenes, putMesh } from '@/store/keeping/scenes';
import { describeFailure } from '@/store/keeping/keeper';
import { TAB, TabTalk } from '@/store/keeping/tabs';
import { engine } from '@/store/engine';
import { Button, IconButton } from '../controls/Button';
import { Mark } from '../shell/Mark';
import { readTheme } from '../uiState';
import { mendsText } from '../words/bounds';
import { NOTHING_KEPT } from '../words/keeping';
import { plural } from '@/words/numbers';

/** The example scenes that ship with the application. */
const EXAMPLES = [
  {
    name: 'tern-quay',
    title: 'Tern Quay by day',
    text: 'Bollards along a curved quay, pennants on strands, a life ring with its grab line',
  },
  {
    name: 'lantern-evening',
    title: 'The lantern evening',
    text: 'The same quay at nightfall, lit by its lanterns and by a hundred and fifty bulbs on cords',
  },
  {
    name: 'rope-fence',
    title: 'Rope fence over the sands',
    text: 'Posts, rails and boards that land on the dunes, and a gap for the footpath',
  },
  {
    name: 'ferry-loop',
    title: 'Ferry loop',
    text: 'Cars drawn round a closed line by the pulley, past pylons and lane marks',
  },
  {
    name: 'sailcloth',
    title: 'Sailcloth',
    text: 'A sail in the wind: stitches, rings and cleats stay on their cloth',
  },
  {
    name: 'beacon-tiles',
    title: 'Tiles of the beacon',
    text: 'Scallop tiles round a waisted tower, keeping their shape and bent, a lattice, shingles, an emblem on a hull',
  },
  {
    name: 'beacon-print',
    title: 'The beacon, to be printed',
    text: 'The tower as one closed solid: its tiles joined, its lattice pierced, what a printer asks of it',
  },
  {
    name: 'rigging-board',
    title: 'The rigging board',
    text: 'Ropes strung from eye to eye, taut, slack and stiff, crossing; a line with floats that sways',
  },
  {
    name: 'chandlery',
    title: 'The chandlery',
    text: 'Racks of three depths stocked in groups and shopped from, each by itself; a counter, crates of jars',
  },
  {
    name: 'headland',
    title: 'The headland',
    text: 'A hundred thousand tufts by slope, path, picture and brush; gorse, sea pinks, boulders, a plot in rows, gulls',
  },
];

/** The start page: saved scenes, example scenes, a new one, a file. */
export function StartPage() {
  const router = useRouter();
  const input = useRef<HTMLInputElement>(null);
  const [cards, setCards] = useState<SceneCard[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const [notes, setNotes] = useState<{ id: string; text: string } | null>(null);
  const [opening, setOpening] = useState<string | null>(null);
  const [forgetful, setForgetful] = useState(false);
  const refresh = () =>
    listScenes().then(
      (found) => {
        setCards(found);
        setForgetful(keepsNothing());
      },
      (e: Error) => setProblem(`The saved scenes cannot be read (${e.message}). Reload the page.`),
    );
  useEffect(() => {
    readTheme();
    void refresh();
    // What any scene needs is fetched while one is chosen: the worker, and the code of the main screen.
    engine();
    router.prefetch('/scene/any');
    void import('../shell/OpenScene');
    void import('@/view/SceneCanvas');
  }, [router]);
  const go = (id: string) => router.push(`/scene/${id}`);
  const guarded = async (what: string, work: () => Promise<void>) => {
    setProblem(null);
    setNotes(null);
    setOpening(what);
    try {
      await work();
    } catch (error) {
      const text = error as Error;
      setProblem(
        text.name?.includes('Quota') || text.message?.includes('Quota')
          ? describeFailure(error)
          : text.message,
      );
      setOpening(null);
    }
  };
  const fresh = () => guarded('new', async () => go(await createScene(emptyScene('Untitled scene'), TAB)));
  const openBytes = async (bytes: Uint8Array, name: string) => {
    const { scene, files, missing, unknown, mends } = await engine().open(bytes, name);
    const db = await database();
    await db.transaction('rw', db.meshes, async () => {
      for (const [hash, file] of files) await putMesh(hash, file, db);
    });
    const id = await createScene(scene, TAB);
    const said = [
      mendsText(mends),
      missing.length &&
        `${plural(missing.length, 'mesh', 'meshes')} did not come along; the props stay, and say so.`,
      unknown.length &&
        `Left out ${plural(unknown.length, 'field')} that this version does not know, the first at ${unknown[0]}.`,
    ].filter(Boolean);
    if (said.length === 0) return go(id);
    setOpening(null);
    setNotes({ id, text: said.join(' ') });
    void refresh();
  };
  const openFile = (file: File) =>
    guarded(file.name, async () => openBytes(new Uint8Array(await file.arrayBuffer()), file.name));
  const openExample = (name: string) =>
    guarded(name, async () => {
      const response = await fetch(`/api/examples/${name}.clothesline`);
      if (!response.ok)
        throw new Error(
          `The example cannot be opened (${await response.text()}). Start the application again.`,
        );
      await openBytes(new Uint8Array(await response.arrayBuffer()), `${name}.clothesline`);
    });
  return (
    <main
      className="mx-auto min-h-dvh max-w-[1080px] px-8 pb-16"
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        if (e.dataTransfer.files[0]) void openFile(e.dataTransfer.files[0]);
      }}
    >
      <header className="flex items-center gap-3 pb-6 pt-9">
        <Mark size={44} />
        <div className="flex-1">
          <h1 className="font-display text-[30px] font-bold leading-tight tracking-tight">Clothesline</h1>
          <p className="text-[14px] text-soft">Hang props along paths, and everything stays live.</p>
        </div>
        <Button
          look="bordered"
          title="A scene that was sent out as .clothesline or .json"
          disabled={opening !== null}
          onClick={() => input.current?.click()}
        >
          <FolderOpen size={16} />
          Open a file
        </Button>
        <Button
          look="ink"
          title="Begins with an empty scene"
          disabled={opening !== null}
          onClick={() => void fresh()}
        >
          <Plus size={16} />
          New scene
        </Button>
        <input
          ref={input}
          type="file"
          accept=".clothesline,.json"
          aria-label="Scene file"
          className="hidden"
          onChange={(e) => {
            if (e.target.files?.[0]) void openFile(e.target.files[0]);
            e.target.value = '';
          }}
        />
      </header>
      {forgetful && (
        <p role="status" className="mb-4 rounded-lg border border-edge bg-card px-4 py-2.5 text-sm">
          {NOTHING_KEPT}
        </p>
      )}
      {problem && (
        <p
          role="alert"
          className="mb-4 rounded-lg border border-danger/40 bg-card px-4 py-2.5 text-sm text-danger"
        >
          {problem}
        </p>
      )}
      {notes && (
        <div
          role="status"
          className="mb-4 flex items-center gap-4 rounded-lg border border-edge bg-card px-4 py-2.5 text-sm"
        >
          <span className="flex-1">{notes.text}</span>
          <Button look="ink" title="Opens it with what could be read" onClick={() => go(notes.id)}>
            Open the scene
          </Button>
        </div>
      )}
      <section aria-label="Your scenes">
        <h2 className="mb-3 font-display text-lg font-semibold">Your scenes</h2>
        {cards?.length === 0 && (
          <p className="mb-8 rounded-lg border border-dashed border-edge px-5 py-7 text-sm text-soft">
            None yet. Begin a new scene, or open an example below: it is copied, so that you can change
            anything in it.
          </p>
        )}
        <ul className="mb-9 grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-5">
          {cards?.map((c) => (
            <SavedCard key={c.id} card={c} onOpen={() => go(c.id)} onChange={() => void refresh()} />
          ))}
        </ul>
      </section>
      <section aria-label="Examples">
        <h2 className="mb-3 font-display text-lg font-semibold">Examples</h2>
        <ul className="grid grid-cols-[repeat(auto-fill,minmax(240px,1fr))] gap-5">
          {EXAMPLES.map((e) => (
            <li key={e.name}>
              <CardButton
                label={`Open the example ${e.title}`}
                title={e.title}
                picture={`/examples/${e.name}.jpg`}
                detail={opening === e.name ? 'Opening…' : e.text}
                onOpen={() => void openExample(e.name)}
              />
            </li>
          ))}
        </ul>
      </section>
    </main>
  );
}

function CardButton(props: {
  label: string;
  title: string;
  picture?: string;
  detail: string;
  onOpen: () => void;
}) {
  return (
    <button
      type="button"
      aria-label={props.label}
      onClick={props.onOpen}
      className="group block w-full text-left"
    >
      <span className="relative block">
        <span
          aria-hidden
          className="absolute -top-2 left-1/2 z-10 h-5 w-2 -translate-x-1/2 rounded-[2px] bg-[#C9A36B] shadow-[inset_-1px_0_0_rgb(90_60_20/0.35)]"
        />
        <span className="block aspect-[16/10] overflow-hidden rounded-lg border border-edge bg-[linear-gradient(#CFDFE4,#E3E9E6_55%,#F4EEE2)] shadow-sm transition-shadow group-hover:shadow-md">
          {props.picture && <img src={props.picture} alt="" className="size-full object-cover" />}
        </span>
      </span>
      <span className="mt-2 block truncate text-[14.5px] font-semibold">{props.title}</span>
      <span className="block text-[12.5px] leading-snug text-soft">{props.detail}</span>
    </button>
  );
}

function SavedCard({
  card,
  onOpen,
  onChange,
}: {
  card: SceneCard;
  onOpen: () => void;
  onChange: () => void;
}) {
  const [sure, setSure] = useState(false);
  const remove = async () => {
    if (!sure) return setSure(true);
    await deleteScene(card.id);
    const tabs = new TabTalk(async () => {});
    tabs.tellDeleted(card.id);
    tabs.close();
    onChange();
  };
  const saved = new Date(card.savedAt).toLocaleString('en-GB', {
    day: 'numeric',
    month: 'short',
    hour: '2-digit',
    minute: '2-digit',
  });
  return (
    <li className="group/card relative" onPointerLeave={() => setSure(false)}>
      <CardButton
        label={`Open ${card.name}`}
        title={card.name}
        picture={card.picture}
        detail={`Saved ${saved}`}
        onOpen={onOpen}
      />
      <div
        className="absolute right-1.5 top-1.5 flex gap-1 rounded-md bg-linen-50/90 opacity-0 group-focus-within/card:opacity-100 group-hover/card:opacity-100"
        data-theme-fixed
      >
        <IconButton
          name={`Duplicate ${card.name}`}
          onClick={() => void duplicateScene(card.id, '').then(onChange)}
        >
          <Copy size={14} />
        </IconButton>
        {sure ? (
          <Button
            title="It cannot be brought back"
            className="!px-2 !py-0.5 text-danger"
            onClick={() => void remove()}
          >
            Delete for good
          </Button>
        ) : (
          <IconButton name={`Delete ${card.name}`} onClick={() => void remove()}>
            <Trash2 size={14} />
          </IconButton>
        )}
      </div>
    </li>
  );
}
