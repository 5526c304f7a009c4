import type { ReactNode } from 'react';

/** Says over the scene why nothing can be changed in it, with what can be done about that. */
export function Standstill({ title, text, children }: { title: string; text: string; children: ReactNode }) {
  return (
    <div
      role="alert"
      className="absolute inset-x-0 top-20 z-20 mx-auto w-[430px] rounded-lg border border-edge bg-paper p-4 shadow-xl"
    >
      <p className="font-display text-base font-semibold">{title}</p>
      <p className="mb-3 mt-1 text-sm text-soft">{text}</p>
      <div className="flex gap-2">{children}</div>
    </div>
  );
}
