import type { Held, Refusal } from '@/core/scene/guard';
import type { Mend } from '@/core/scene/mend';
import { plural, whole } from '@/words/numbers';

/** What is said where a number or a change met its bounds, and where a scene was mended. */

/** "rows.count" and "turnDeg" as people read them. */
const wordsOf = (path: readonly PropertyKey[]): string => {
  const names = path.filter((k): k is string => typeof k === 'string');
  return (names.at(-1) ?? 'it')
    .replace(/Deg$/, '')
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase();
};

const amount = (v: number) => v.toLocaleString('en', { maximumSignificantDigits: 6 });

export function heldText([first]: Held[]): string {
  const { path, given, held } = first;
  return `${capital(wordsOf(path))} ${given > held ? 'goes up' : 'goes down'} to ${amount(held)}: it was held there.`;
}

export function refusalText({ kind, path, most }: Refusal): string {
  if (kind === 'ids-used-up')
    return 'Nothing more can be added: the numbers that tell things apart are used up. Copy the arrangements into a new scene.';
  if (kind === 'too-many')
    return `That would be too much: ${wordsOf(path)} may be ${whole(most ?? 0)} at the most. Nothing was changed.`;
  return `That cannot be kept: ${wordsOf(path)} would not be a value that a scene can have. Nothing was changed.`;
}

/** One sentence about everything that was mended so that a scene could be opened; none where nothing was. */
export function mendsText(mends: readonly Mend[]): string {
  if (mends.length === 0) return '';
  const some = mends
    .slice(0, 4)
    .map(({ where, how, given, held }) =>
      how === 'held'
        ? `${where} was held to ${held} (it was ${given})`
        : how === 'aside'
          ? `${where} was set aside`
          : `${where} took its default`,
    );
  const more = mends.length > 4 ? `, and ${plural(mends.length - 4, 'place')} more` : '';
  return `Mended so that it opens: ${some.join('; ')}${more}.`;
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);
