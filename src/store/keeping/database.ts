import Dexie, { type Table } from 'dexie';
import type { Clipping } from '@/core/scene/clipping';
import type { Kept, Step } from '../steps';

/** A saved scene without its body, as the start page lists it. */
export interface SceneCard {
  id: string;
  name: string;
  /** Milliseconds since 1970. */
  savedAt: number;
  /** A small picture as a data URL. */
  picture?: string;
}

/** A scene whole, as it was after some record of its log. */
export interface Snapshot extends Kept {
  id: string;
  /** The last record of the log that is in it; 0 where none is. */
  at: number;
}

/** What was changed since the snapshot, in order. Its records have the numbers after the snapshot's, without a gap. */
export interface LogRecord {
  scene: string;
  at: number;
  steps: Step[];
}

/** The tab that may write a scene. Another tab takes the scene over by putting its own name here. */
export interface Holder {
  id: string;
  tab: string;
}

/** Meshes that were brought in, by content hash: the file's own bytes. */
export interface MeshFile {
  hash: string;
  bytes: Uint8Array;
}

/** What was copied last, in any tab. */
export interface KeptClipping {
  id: 'last';
  clipping: Clipping;
}

export class KeepingDatabase extends Dexie {
  cards!: Table<SceneCard, string>;
  bodies!: Table<Snapshot, string>;
  log!: Table<LogRecord, [string, number]>;
  holders!: Table<Holder, string>;
  meshes!: Table<MeshFile, string>;
  clippings!: Table<KeptClipping, string>;

  constructor(
    name = 'clothesline',
    parts: { indexedDB?: IDBFactory; IDBKeyRange?: typeof IDBKeyRange } = {},
  ) {
    super(name, parts);
    this.version(1).stores({ cards: 'id, savedAt', bodies: 'id', meshes: 'hash' });
    this.version(2)
      .stores({ log: '[scene+at]', holders: 'id' })
      .upgrade(async (all) => {
        // The holder's name was kept in the body, which had to be written whole with every change.
        const holders: Holder[] = [];
        await all
          .table('bodies')
          .toCollection()
          .modify((body: Snapshot & { holder?: string }) => {
            holders.push({ id: body.id, tab: body.holder ?? '' });
            delete body.holder;
            body.at = 0;
          });
        await all.table('holders').bulkAdd(holders);
      });
    this.version(3).stores({ clippings: 'id' });
  }
}

let opened: Promise<KeepingDatabase> | undefined;
let forgetful = false;

/** Whether this browser keeps nothing: what is saved is gone with the page. */
export const keepsNothing = (): boolean => forgetful;

/** The browser's store; one in memory where the browser has none, or lets no page have it. */
export const database = (): Promise<KeepingDatabase> => (opened ??= open());

async function open(): Promise<KeepingDatabase> {
  const db = new KeepingDatabase();
  try {
    return (await db.open()) as KeepingDatabase;
  } catch (error) {
    if ((error as { name?: string })?.name === 'VersionError')
      throw new Error('they were kept by a newer Clothesline: update this one', { cause: error });
    if (!isBlocked(error)) throw error;
    forgetful = true;
    const { indexedDB, IDBKeyRange } = await import('fake-indexeddb');
    return new KeepingDatabase('clothesline', { indexedDB, IDBKeyRange });
  }
}

/** Errors of a browser that has no store for this page, unlike those of a store that is full or newer than this code. */
function isBlocked(error: unknown): boolean {
  const e = error as { name?: string; inner?: { name?: string } };
  const names = [e?.name, e?.inner?.name];
  return ['MissingAPIError', 'SecurityError', 'InvalidStateError', 'UnknownError'].some((n) =>
    names.includes(n),
  );
}
