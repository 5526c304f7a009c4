'use client';

import { Dialog, DialogBackdrop, DialogPanel, DialogTitle } from '@headlessui/react';
import { X } from 'lucide-react';
import type { ReactNode } from 'react';
import { IconButton } from './Button';

/** A dialog in the middle of the screen. Escape and a click beside it close it. */
export function Modal(props: { title: string; onClose: () => void; children: ReactNode; width?: string }) {
  return (
    <Dialog open onClose={props.onClose} className="relative z-50">
      <DialogBackdrop className="fixed inset-0 bg-ink-900/35" />
      <div className="fixed inset-0 flex items-start justify-center overflow-y-auto p-6 pt-[10vh]">
        <DialogPanel
          className={`w-full ${props.width ?? 'max-w-lg'} rounded-xl border border-edge bg-paper shadow-2xl`}
        >
          <div className="flex items-center justify-between border-b border-edge px-5 py-3">
            <DialogTitle className="font-display text-lg font-semibold">{props.title}</DialogTitle>
            <IconButton name="Close" keys="Esc" onClick={props.onClose}>
              <X size={17} />
            </IconButton>
          </div>
          <div className="px-5 py-4">{props.children}</div>
        </DialogPanel>
      </div>
    </Dialog>
  );
}
