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

/** All commands by name, with their keys. */
export function CommandList() {
  const [search, setSearch] = useState('');
  const shown = foundActions(search);
  const run = (action: Action | null) => {
    if (!action) return;
    openDialog(null);
    if (!action.enabled || action.enabled()) action.run();
  };
  return (
    <Dialog open aria-label="All commands" onClose={() => openDialog(null)} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink-900/25" />
      <div className="fixed inset-x-0 top-[14vh] flex justify-center px-6">
        <DialogPanel className="w-full max-w-md overflow-hidden rounded-xl border border-edge bg-paper shadow-2xl">
          <Combobox<Action> onChange={run} immediate>
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
              {shown.map((a) => (
                <ComboboxOption
                  key={a.id}
                  value={a}
                  disabled={a.enabled ? !a.enabled() : false}
                  className="flex cursor-pointer items-center justify-between rounded-md px-3 py-1.5 data-disabled:opacity-45 data-focus:bg-groove"
                >
                  {a.title}
                  {a.keys && <kbd className="num text-xs text-soft">{a.keys}</kbd>}
                </ComboboxOption>
              ))}
              {shown.length === 0 && <p className="px-3 py-4 text-soft">No command is called that.</p>}
            </ComboboxOptions>
          </Combobox>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
