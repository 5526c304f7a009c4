import { dequal } from 'dequal/lite';
import { differing } from '../arrange/differing';
import type { Arrangement } from '../arrange/registry';

/**
 * Keys of arrangements' settings. They may be a hundred thousand pegs: states are told apart by the objects that they
 * are made of, without being read, and numbered.
 */
export class SettingsKeys {
  private known = new Map<string, { a: Arrangement; key: string }>();
  private states = 0;

  /** The same key for as long as nothing changes that the arrangement is worked out from. */
  of(a: Arrangement): string {
    const have = this.known.get(a.id);
    if (have && (have.a === a || sameSettings(a, have.a))) {
      have.a = a;
      return have.key;
    }
    const key = `settings ${++this.states}`;
    this.known.set(a.id, { a, key });
    return key;
  }

  /** Forgets all but those that are still there. */
  keepOnly(stays: (id: string) => boolean): void {
    for (const id of this.known.keys()) if (!stays(id)) this.known.delete(id);
  }
}

/** How an arrangement is called and drawn, and what is minded of it, is no setting that it is worked out from. */
const LOOKS = new Set([
  'name',
  'group',
  'visible',
  'thread',
  'shownAs',
  'material',
  'meant',
  'onTop',
  'asWanted',
]);

/** Whether two states of an arrangement have the same settings. Parts that are the same object are not looked into. */
function sameSettings(a: Arrangement, b: Arrangement): boolean {
  const [now, was] = [a, b] as unknown as Record<string, unknown>[];
  const settings = (of: object) => Object.keys(of).filter((f) => !LOOKS.has(f));
  const fields = settings(now);
  return (
    fields.length === settings(was).length &&
    fields.every((f) => now[f] === was[f] || sameValue(now[f], was[f]))
  );
}

/** Of lists, which may be long, only entries that are other objects are looked into. */
const sameValue = (now: unknown, was: unknown): boolean =>
  Array.isArray(now) && Array.isArray(was) && now.length === was.length
    ? differing(now, was).every((i) => dequal(now[i], was[i]))
    : dequal(now, was);
