'use client';

import { Check } from 'lucide-react';
import { useState } from 'react';
import { BUILT } from '@/demo/library';
import { useDocument } from '@/store/document';
import { PropPicture } from '../basket/PropPicture';
import { takeBuilt } from '../basket/hang';
import { libraryProp } from '../basket/libraryProp';
import { Button } from '../controls/Button';
import { Modal } from '../controls/Modal';
import { openDialog } from '../uiState';

const SHELF = BUILT.filter((b) => b.use === 'prop').map(({ name, title }) => ({
  name,
  title,
  prop: libraryProp(name),
}));

/** The props that ship with the application. A click puts one in the basket. */
export function Library() {
  const props = useDocument((s) => s.scene.props);
  const [search, setSearch] = useState('');
  const have = new Set(props.map((p) => (p.mesh.source === 'built' ? p.mesh.name : '')));
  const shown = SHELF.filter((b) => b.title.toLowerCase().includes(search.trim().toLowerCase()));
  return (
    <Modal title="Library" onClose={() => openDialog(null)} width="max-w-2xl">
      <div className="mb-3 flex gap-2">
        <input
          aria-label="Search the library"
          data-autofocus
          placeholder="Search"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
          className="min-w-0 flex-1 rounded-md border border-edge bg-card px-2.5 py-1.5 text-sm"
        />
        <Button look="bordered" title="A file of your own, as a prop" onClick={() => openDialog('bring-in')}>
          Bring in your own
        </Button>
      </div>
      <ul className="thin-scroll grid max-h-[52vh] grid-cols-6 gap-2 overflow-y-auto p-0.5">
        {shown.map((b) => (
          <li key={b.name}>
            <button
              type="button"
              aria-label={`Add ${b.title}`}
              onClick={() => takeBuilt(b.name)}
              className="relative flex w-full flex-col items-center rounded-lg bg-well px-1 pb-1.5 pt-2 text-center text-[12px] hover:bg-groove"
            >
              <PropPicture prop={b.prop} size={58} />
              <span className="mt-1 line-clamp-2 min-h-[2.4em] leading-tight">{b.title}</span>
              {have.has(b.name) && (
                <Check
                  size={14}
                  className="absolute right-1.5 top-1.5 text-good"
                  aria-label="in the basket"
                />
              )}
            </button>
          </li>
        ))}
      </ul>
      {shown.length === 0 && (
        <p className="py-6 text-center text-sm text-soft">
          No prop is called that. Bring in your own instead.
        </p>
      )}
    </Modal>
  );
}
