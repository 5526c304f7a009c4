'use client';

import {
  Combobox,
  ComboboxInput,
  ComboboxOption,
  ComboboxOptions,
  Dialog,
  DialogBackdrop,
  DialogPanel,
} from '@headlessui/react';
import { useState } from 'react';
import type { Action } from '../shell/action';
import { foundActions } from '../shell/foundActions';
import { openDialog } from '../uiState';

const isDisabled = (action: Action | null) => !!action?.enabled && !action.enabled();

/** All commands by name, with their keys; those in sight only, since every letter typed would register each of them anew. */
export function CommandList() {
  const [search, setSearch] = useState('');
  const shown = foundActions(search);
  const run = (action: Action | null) => {
    if (!action) return;
    openDialog(null);
    if (!isDisabled(action)) action.run();
  };
  return (
    <Dialog open aria-label="All commands" onClose={() => openDialog(null)} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink-900/25" />
      <div className="fixed inset-x-0 top-[14vh] flex justify-center px-6">
        <DialogPanel className="w-full max-w-md overflow-hidden rounded-xl border border-edge bg-paper shadow-2xl">
          <Combobox<Action> onChange={run} immediate virtual={{ options: shown, disabled: isDisabled }}>
            <ComboboxInput
              autoFocus
              aria-label="Search the commands"
              placeholder="What to do?"
              onChange={(e) => setSearch(e.target.value)}
              // The list stands open all the time: the first Escape closes the dialog, not the list.
              onKeyDown={(e) => e.key === 'Escape' && openDialog(null)}
              className="w-full border-b border-edge bg-transparent px-4 py-3 text-[15px] outline-none"
            />
            <ComboboxOptions static className="thin-scroll max-h-80 overflow-y-auto p-1.5 text-sm">
              {({ option }: { option: Action }) => (
                <ComboboxOption
                  value={option}
                  className="flex w-full cursor-pointer items-center justify-between rounded-md px-3 py-1.5 data-disabled:opacity-45 data-focus:bg-groove"
                >
                  {option.title}
                  {option.keys && <kbd className="num text-xs text-soft">{option.keys}</kbd>}
                </ComboboxOption>
              )}
            </ComboboxOptions>
            {shown.length === 0 && (
              <p className="px-4.5 py-4 text-sm text-soft">No command is called that.</p>
            )}
          </Combobox>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
