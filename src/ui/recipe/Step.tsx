'use client';

import { Disclosure, DisclosureButton, DisclosurePanel } from '@headlessui/react';
import clsx from 'clsx';
import { ChevronDown, ChevronRight, Ellipsis } from 'lucide-react';
import { memo, type ReactNode } from 'react';
import { PlainMenu, type MenuEntry } from '../controls/PlainMenu';
import { sameProps } from '../controls/sameProps';
import { toggleStep, useUi } from '../uiState';

/** One step of a recipe on its thread: a phrase when closed, its controls when open. */
export const Step = memo(function Step(props: {
  name: string;
  title: string;
  phrase: string;
  color: string;
  caution?: boolean;
  /** What can be done with the step as a whole. */
  menu?: MenuEntry[];
  children: ReactNode;
}) {
  const open = useUi((s) => s.openSteps[props.name] ?? false);
  const bead = props.caution ? 'var(--color-weld)' : props.color;
  return (
    <Disclosure
      as="section"
      aria-label={props.title}
      className="group/step relative pl-9 pr-3"
      key={String(open)}
      defaultOpen={open}
    >
      <span
        aria-hidden
        className="absolute left-[15px] top-[8px] size-[11px] rounded-full border-2"
        style={{ borderColor: bead, background: open || props.caution ? bead : 'var(--paper)' }}
      />
      <div className="flex items-center">
        <DisclosureButton
          onClick={() => toggleStep(props.name)}
          title={props.phrase}
          className="flex min-w-0 flex-1 items-center gap-2 rounded-md py-[3px] text-left"
        >
          <span className="text-[14px] font-semibold">{props.title}</span>
          <span
            className={clsx(
              'min-w-0 flex-1 truncate text-right text-[12.5px]',
              props.caution ? 'text-caution' : 'text-soft',
            )}
          >
            {props.phrase}
          </span>
          {open ? (
            <ChevronDown size={14} className="shrink-0 text-soft" />
          ) : (
            <ChevronRight size={14} className="shrink-0 text-soft" />
          )}
        </DisclosureButton>
        {props.menu && (
          <span className={clsx('focus-within:block group-hover/step:block', open ? 'block' : 'hidden')}>
            <PlainMenu name={`More for ${props.title}`} entries={props.menu} small>
              <Ellipsis size={14} />
            </PlainMenu>
          </span>
        )}
      </div>
      <DisclosurePanel className="mb-1 mt-0.5 rounded-lg bg-well px-2.5 py-1.5">
        {props.children}
      </DisclosurePanel>
    </Disclosure>
  );
}, sameProps);
