'use client';

import { Search } from 'lucide-react';
import { useState } from 'react';
import type { OnTop } from '@/core/arrange/base';
import { settingsOf, type Setting } from '@/core/scene/settings';
import { setOnTop } from '@/store/commands/onTop';
import { dispatch, useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { Modal } from '../controls/Modal';
import { Toggle } from '../controls/Toggle';
import { openDialog } from '../uiState';
import { settingName, stepOf } from '../words/settingWords';

const same = (t: OnTop, s: Setting) => t.field.join() === s.field.join();

/** Which numbers and ranges of the selected arrangement are shown on top of its recipe, and how they are called there. */
export function SettingsOnTop() {
  const id = useSelection((s) => (s.node?.kind === 'arrangement' ? s.node.id : null));
  const a = useDocument((s) => s.scene.arrangements.find((x) => x.id === id));
  const [search, setSearch] = useState('');
  const close = () => openDialog(null);
  if (!a)
    return (
      <Modal title="Settings on top" onClose={close}>
        <p className="text-sm text-soft">Select one arrangement first: its recipe is what shows them.</p>
      </Modal>
    );
  const onTop = a.onTop ?? [];
  const set = (next: OnTop[]) => dispatch(setOnTop, { id: a.id, onTop: next });
  const wanted = search.trim().toLowerCase();
  const list = settingsOf(a).filter((s) =>
    `${stepOf(s)} ${settingName(s)} ${s.said}`.toLowerCase().includes(wanted),
  );
  return (
    <Modal title={`On top of “${a.name}”`} onClose={close}>
      <p className="mb-2 text-[13px] text-soft">
        What is chosen here shows above the steps of the recipe, by the name that you give it.
        {a.recipe !== undefined && ' All that share the recipe show it.'}
      </p>
      <label className="mb-2 flex items-center gap-2 rounded-md border border-edge bg-card px-2">
        <Search size={14} className="text-soft" aria-hidden />
        <input
          autoFocus
          aria-label="Search settings"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
          className="h-8 w-full bg-transparent text-sm outline-none"
        />
      </label>
      <ul className="thin-scroll max-h-[46vh] overflow-y-auto pr-1">
        {list.map((s, i) => {
          const shown = onTop.find((t) => same(t, s));
          return (
            <li key={s.field.join('.')}>
              {stepOf(s) !== (i > 0 ? stepOf(list[i - 1]) : '') && (
                <h3 className="pt-2 text-[12.5px] font-semibold text-soft">{stepOf(s)}</h3>
              )}
              <div className="grid grid-cols-2 items-center gap-3">
                <Toggle
                  label={settingName(s)}
                  hint={s.said || settingName(s)}
                  value={shown !== undefined}
                  onChange={(on) =>
                    set(
                      on
                        ? [...onTop, { field: [...s.field], name: settingName(s) }]
                        : onTop.filter((t) => t !== shown),
                    )
                  }
                />
                {shown && (
                  <NameBox
                    of={settingName(s)}
                    name={shown.name}
                    onName={(name) => set(onTop.map((t) => (t === shown ? { ...t, name } : t)))}
                  />
                )}
              </div>
            </li>
          );
        })}
        {list.length === 0 && (
          <li className="py-3 text-sm text-soft">No number or range of it is called so.</li>
        )}
      </ul>
    </Modal>
  );
}

/** The name of a setting on top, taken when it is left. */
function NameBox({ of, name, onName }: { of: string; name: string; onName: (name: string) => void }) {
  const [text, setText] = useState<string | null>(null);
  const commit = () => {
    if (text?.trim() && text.trim() !== name) onName(text.trim().slice(0, 200));
    setText(null);
  };
  return (
    <input
      aria-label={`${of} is called`}
      value={text ?? name}
      onChange={(e) => setText(e.target.value)}
      onBlur={commit}
      onKeyDown={(e) => e.key === 'Enter' && commit()}
      className="h-7 w-full min-w-0 rounded-md border border-edge bg-card px-2 text-sm"
    />
  );
}
