import Dexie, { type Table } from 'dexie';
import type { Scene } from '@/core/scene/schema';
import type { HistoryEntry } from '../command';

/** A saved scene without its body, as the start page lists it. */
export interface SceneCard {
  id: string;
  name: string;
  /** Milliseconds since 1970. */
  savedAt: number;
  /** A small picture as a data URL. */
  picture?: string;
}

export interface SceneBody {
  id: string;
  scene: Scene;
  past: HistoryEntry[];
  future: HistoryEntry[];
  /** The tab that may write. Another tab takes the scene over by putting its own name here. */
  holder: string;
}

/** Meshes that were brought in, by content hash: the file's own bytes. */
export interface MeshFile {
  hash: string;
  bytes: Uint8Array;
}

export class KeepingDatabase extends Dexie {
  cards!: Table<SceneCard, string>;
  bodies!: Table<SceneBody, string>;
  meshes!: Table<MeshFile, string>;

  constructor(name = 'clothesline') {
    super(name);
    this.version(1).stores({ cards: 'id, savedAt', bodies: 'id', meshes: 'hash' });
  }
}

let opened: KeepingDatabase | undefined;
export const database = (): KeepingDatabase => (opened ??= new KeepingDatabase());
