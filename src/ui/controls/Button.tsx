'use client';

import clsx from 'clsx';
import type { ButtonHTMLAttributes, ReactNode } from 'react';
import { steady } from './steady';

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

export const IconButton = steady(function IconButton({ name, keys, className, ...rest }: IconButtonProps) {
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
});
