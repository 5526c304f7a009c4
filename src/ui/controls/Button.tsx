'use client';

import clsx from 'clsx';
import { memo, type ButtonHTMLAttributes, type ReactNode } from 'react';
import { sameProps } from './sameProps';
import { useLatest } from './useLatest';

interface ButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  look?: 'plain' | 'ink' | 'bordered';
  /** What it does, in one plain line on hover. */
  title: string;
  children: ReactNode;
}

export function Button({ look = 'plain', className, ...rest }: ButtonProps) {
  return (
    <button
      type="button"
      {...rest}
      className={clsx(
        'inline-flex items-center justify-center gap-1.5 whitespace-nowrap rounded-md px-3 py-1.5 text-sm disabled:opacity-45',
        look === 'ink' && 'bg-text font-medium text-paper hover:opacity-90',
        look === 'bordered' && 'border border-edge bg-card hover:bg-well',
        look === 'plain' && 'hover:bg-well',
        className,
      )}
    />
  );
}

interface IconButtonProps extends ButtonHTMLAttributes<HTMLButtonElement> {
  /** Its name for everyone: a title on hover, and for screen readers. */
  name: string;
  keys?: string;
  children: ReactNode;
}

/** A button of an icon; what it does may be given anew each time without its being made anew. */
export function IconButton({ onClick, ...rest }: IconButtonProps) {
  return <Face {...rest} onClick={useLatest(onClick ?? nothing)} />;
}

const nothing = () => {};

const Face = memo(function Face({ name, keys, className, ...rest }: IconButtonProps) {
  return (
    <button
      type="button"
      aria-label={name}
      title={keys ? `${name} (${keys})` : name}
      {...rest}
      className={clsx(
        'inline-flex size-7 shrink-0 items-center justify-center rounded-md text-soft hover:bg-groove/70 hover:text-text disabled:opacity-35 disabled:hover:bg-transparent',
        className,
      )}
    />
  );
}, sameProps);
