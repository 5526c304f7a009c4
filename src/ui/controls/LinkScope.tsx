'use client';

import { createContext, useContext, type ReactNode } from 'react';
import { Clock3, Link2 } from 'lucide-react';
import type { LinkResult } from '@/core/evaluate/links/linked';
import type { Link } from '@/core/scene/linkSchema';
import { linkField, linkOf, unlinkField, type LinkedField } from '@/store/commands/links';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { measurables, readLink, showLink } from '@/words/links';
import { PlainMenu, type MenuEntry } from './PlainMenu';
import { timedEntries, useTimedNumber, type TimedNumber } from './timedNumber';

/** Where the numbers of a part of the interface stand in the document, so that they may follow what things measure. */
const Scope = createContext<LinkedField | null>(null);

/** Numbers inside may be taken from other things. @param at where in the node they stand, dots between */
export function LinkScope({ node, at, children }: { node: string; at: string; children: ReactNode }) {
  return <Scope.Provider value={{ node, field: at === '' ? [] : at.split('.') }}>{children}</Scope.Provider>;
}

/** A number that may follow other things. */
export interface LinkedNumber {
  at: LinkedField;
  link: Link | undefined;
  result: LinkResult | undefined;
  /** "= length of Quay edge / 12"; undefined where it is its own. */
  said: string | undefined;
  /** As it is at the moment that is shown; null where it does not change with time. */
  timed: TimedNumber | null;
}

/** What a number of this part of the interface follows. @param field its name; absent: it cannot follow anything */
export function useLinked(field: string | undefined): LinkedNumber | null {
  const scope = useContext(Scope);
  const at = scope && field ? { node: scope.node, field: [...scope.field, ...field.split('.')] } : null;
  const link = useDocument((s) => (at ? linkOf(s.scene, at) : undefined));
  const said = useDocument((s) => (link ? `= ${showLink(link.expression, s.scene)}` : undefined));
  const result = useEngine((s) => (link ? s.result.links.find((l) => l.id === link.id) : undefined));
  const timed = useTimedNumber(at);
  return at && { at, link, result, said, timed };
}

/** Takes what was typed as "= length of …". @returns whether it names something */
export function takeLink(at: LinkedField, text: string): boolean {
  const expression = readLink(text, useDocument.getState().scene);
  if (expression === null) return false;
  dispatch(linkField, { ...at, expression, value: null });
  return true;
}

/** The menu beside a number: what it can be taken from, and how it becomes its own again. */
export function LinkMenu({ label, linked, value }: { label: string; linked: LinkedNumber; value: number }) {
  const { timed } = linked;
  const entries = (): MenuEntry[] => [
    ...(linked.link ? [] : timedEntries(linked.at, timed, value)),
    ...(timed ? [] : follows()),
  ];
  const follows = (): MenuEntry[] => [
    ...(linked.link
      ? [{ text: 'Its own number again', run: () => void dispatch(unlinkField, { ...linked.at, value }) }]
      : []),
    ...measurables(useDocument.getState().scene).map(({ text, expression }, i) => ({
      text: `= ${text}`,
      ...(i === 0 && { under: 'Follows' }),
      run: () => void dispatch(linkField, { ...linked.at, expression, value: null }),
    })),
  ];
  return (
    <PlainMenu
      small
      // By keys it is typed: = length of …, or 2.4 @ 3 s.
      passedBy={!linked.link && !timed}
      name={
        linked.said
          ? `${label} ${linked.said}`
          : timed
            ? `${label} changes with time`
            : `Take ${label} from something`
      }
      entries={entries}
      className={
        timed
          ? '!text-text'
          : linked.link
            ? linked.result?.problem
              ? '!text-danger'
              : '!text-text'
            : 'opacity-0 focus-visible:opacity-100 group-hover/number:opacity-100 data-[open]:opacity-100'
      }
    >
      {timed ? <Clock3 size={13} /> : <Link2 size={13} />}
    </PlainMenu>
  );
}
