'use client';

import { Modal } from '../controls/Modal';
import { ACTIONS } from '../shell/actions';
import { openDialog } from '../uiState';
import { TASKS } from '../words/tasks';

/** What one can do here now, by its keys, and what a newcomer does first. */
export function Help() {
  const now = ACTIONS.filter((a) => a.keys && a.id !== 'help' && (!a.enabled || a.enabled()));
  return (
    <Modal title="What you can do" onClose={() => openDialog(null)} width="max-w-3xl">
      <div
        className="thin-scroll -mx-3 max-h-[64vh] overflow-y-auto rounded-md px-3 py-1 -outline-offset-2"
        tabIndex={0}
        data-autofocus
      >
        <h3 className="mb-1.5 font-display text-[15px] font-semibold">Here, now</h3>
        <ul className="grid grid-cols-2 gap-x-6 text-[13px]">
          {now.map((a) => (
            <li key={a.id} className="flex items-baseline justify-between gap-3 border-b border-edge/60 py-1">
              {a.title}
              <kbd className="num shrink-0 text-xs text-soft">{a.keys}</kbd>
            </li>
          ))}
        </ul>
        <p className="mt-2 text-[13px] text-soft">
          In every number: units and sums (40 cm, 6in, 2.4/3), arrow keys, and dragging on its label; a double
          click on the label puts it back. With the scene in focus, arrow keys move a cursor over it (with
          Shift by a pixel) and Enter does what a click does there; Shift+F10 opens the menu of the right
          button.
        </p>
        <h3 className="mb-1.5 mt-4 font-display text-[15px] font-semibold">What to do first</h3>
        <ol className="grid grid-cols-2 gap-x-6 gap-y-3 text-[13px]">
          {TASKS.map(({ title, todo, see }, i) => (
            <li key={title}>
              <h4 className="font-medium">
                <span className="num text-soft">{i + 1}</span> {title}
              </h4>
              <ol className="list-inside list-decimal text-soft">
                {todo.map((t) => (
                  <li key={t}>{t}</li>
                ))}
              </ol>
              <p>{see}</p>
            </li>
          ))}
        </ol>
      </div>
    </Modal>
  );
}
