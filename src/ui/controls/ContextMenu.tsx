'use client';

import * as Radix from '@radix-ui/react-context-menu';
import { Fragment, useState, type ReactNode } from 'react';
import type { MenuEntry } from './PlainMenu';

/**
 * The menu of the right button, or of Shift+F10, over one element. @param entries asked for when it opens; none: no menu
 * @param onOpen before that, to take in hand what it is about
 */
export function ContextMenu({
  name,
  entries,
  onOpen,
  children,
}: {
  name: string;
  entries: () => MenuEntry[];
  onOpen?: () => void;
  children: ReactNode;
}) {
  const [shown, setShown] = useState<MenuEntry[]>([]);
  return (
    <Radix.Root
      modal={false}
      onOpenChange={(open) => {
        if (!open) return;
        onOpen?.();
        setShown(entries());
      }}
    >
      <Radix.Trigger asChild>{children}</Radix.Trigger>
      {shown.length > 0 && (
        <Radix.Portal>
          <Radix.Content
            aria-label={name}
            collisionPadding={8}
            className="z-50 max-h-[70vh] min-w-44 overflow-y-auto rounded-lg border border-edge bg-paper p-1 text-sm text-text shadow-xl outline-none"
          >
            {shown.map((e) => (
              <Fragment key={e.text}>
                {e.under && (
                  <Radix.Label className="px-2.5 pb-0.5 pt-2 text-[12px] font-medium text-soft">
                    {e.under}
                  </Radix.Label>
                )}
                <Radix.Item
                  title={e.hint}
                  onSelect={e.run}
                  className={`flex cursor-default items-center gap-2 rounded-md px-2.5 py-1.5 outline-none data-highlighted:bg-groove ${e.danger ? 'text-danger' : ''}`}
                >
                  {e.icon}
                  {e.text}
                </Radix.Item>
              </Fragment>
            ))}
          </Radix.Content>
        </Radix.Portal>
      )}
    </Radix.Root>
  );
}
