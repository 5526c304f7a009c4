'use client';

import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/react';
import { Ellipsis } from 'lucide-react';
import { Fragment, memo, type ReactNode } from 'react';
import { sameProps } from './sameProps';
import { useLatest } from './useLatest';

export interface MenuEntry {
  text: string;
  run: () => void;
  /** What it does, in one plain line on hover, where its words do not say all of it. */
  hint?: string;
  icon?: ReactNode;
  danger?: boolean;
  /** A heading over this entry and those after it. */
  under?: string;
}

interface MenuProps {
  name: string;
  children?: ReactNode;
  small?: boolean;
  className?: string;
  /** Tab goes past it: there is another way by keyboard. */
  passedBy?: boolean;
}

/**
 * A small menu behind one button.
 * @param entries asked for while it is open, where it takes some looking
 */
export function PlainMenu({ entries, ...rest }: MenuProps & { entries: MenuEntry[] | (() => MenuEntry[]) }) {
  const ask = useLatest(() => (typeof entries === 'function' ? entries() : entries));
  return <MenuBehind {...rest} ask={ask} />;
}

/** Closed it costs as much as open: while something is dragged it is left as it is. */
const MenuBehind = memo(function MenuBehind({
  name,
  ask,
  children,
  small,
  className = '',
  passedBy,
}: MenuProps & { ask: () => MenuEntry[] }) {
  return (
    <Menu>
      <MenuButton
        tabIndex={passedBy ? -1 : undefined}
        aria-label={name}
        title={name}
        className={`inline-flex ${small ? 'size-5' : 'size-7'} shrink-0 items-center justify-center rounded-md text-soft hover:bg-groove/70 hover:text-text ${className}`}
      >
        {children ?? <Ellipsis size={17} />}
      </MenuButton>
      <MenuItems
        anchor="bottom end"
        modal={false}
        className="z-50 max-h-[420px] min-w-44 overflow-y-auto rounded-lg border border-edge bg-paper p-1 text-sm shadow-xl outline-none"
      >
        <Entries ask={ask} />
      </MenuItems>
    </Menu>
  );
}, sameProps);

function Entries({ ask }: { ask: () => MenuEntry[] }) {
  return (
    <>
      {ask().map((e) => (
        <Fragment key={e.text}>
          {e.under && (
            <p className="px-2.5 pb-0.5 pt-2 text-[12px] font-medium text-soft" aria-hidden>
              {e.under}
            </p>
          )}
          <MenuItem>
            <button
              type="button"
              title={e.hint}
              onClick={e.run}
              className={`flex w-full items-center gap-2 rounded-md px-2.5 py-1.5 text-left data-focus:bg-groove ${e.danger ? 'text-danger' : ''}`}
            >
              {e.icon}
              {e.text}
            </button>
          </MenuItem>
        </Fragment>
      ))}
    </>
  );
}
