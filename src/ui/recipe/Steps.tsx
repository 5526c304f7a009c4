import type { ReactNode } from 'react';

/** The steps of a recipe, one below the other on their thread. */
export function Steps(props: { color: string; readOnly: boolean; children: ReactNode }) {
  const { color, readOnly, children } = props;
  return (
    <fieldset
      disabled={readOnly}
      className="thin-scroll relative min-h-0 min-w-0 flex-1 overflow-y-auto py-3"
    >
      <div className="relative">
        <span
          aria-hidden
          className="absolute bottom-0 left-[20px] top-3 w-px opacity-70"
          style={{ background: color }}
        />
        {children}
      </div>
    </fieldset>
  );
}
