'use client';

import clsx from 'clsx';
import { useEffect, useId, useRef, useState, type KeyboardEvent, type ReactNode } from 'react';
import { unlinkField } from '@/store/commands/links';
import { dispatch, restGesture } from '@/store/document';
import { parseMeasure, showMeasure, unitInMetres, type Dimension } from '@/words/measure';
import { LinkMenu, takeLink, useLinked, type LinkedNumber } from './LinkScope';
import { keepMoment, takeMoment } from './timedNumber';
import { steady } from './steady';
import { useScrub } from './useScrub';

export interface NumberSettings {
  dimension?: Dimension;
  /** For lengths: the unit shown. */
  unit?: string;
  /** One arrow key or eight pixels of drag, in the field's own measure (metres, degrees, a fraction). */
  step?: number;
  min?: number;
  max?: number;
  /** Whole numbers only. */
  whole?: boolean;
}

export interface NumberFieldProps extends NumberSettings {
  label: string;
  value: number;
  /** Shown instead of the number while the value is not set by hand, e.g. "auto". */
  auto?: string;
  /** Double click on the label puts this back; null is "auto". */
  reset?: number | null;
  onChange: (value: number | null, key?: string) => void;
  /** Takes a text that is more than a number. @returns whether it was */
  onText?: (text: string) => boolean;
  prefix?: ReactNode;
  /** Stands behind the number instead of its unit. */
  suffix?: string;
  className?: string;
  /** What it does, in plain words: the line on hover. */
  hint: string;
  /** Only the box, with the label for screen readers. */
  bare?: boolean;
  /** Its name in the settings around it: there it may follow what other things measure. */
  field?: string;
}

const SUFFIX: Record<Dimension, string> = { length: '', angle: '°', percent: '%', plain: '' };

/** Holds a value to the settings' range and grain. */
function held(v: number, s: NumberSettings): number {
  const whole = s.whole ? Math.round(v) : v;
  return Math.min(s.max ?? Infinity, Math.max(s.min ?? -Infinity, whole));
}

/** What to type instead. */
const wrong = (text: string | null): string =>
  text?.trim().startsWith('=')
    ? 'Name something that is there, e.g. = length of Path / 12'
    : 'Type a number, e.g. 1.8, 40 cm, 2.4/3';

type NumberBoxProps = Omit<NumberFieldProps, 'bare' | 'className' | 'hint'> & {
  id?: string;
  className?: string;
  hint?: string;
};

/** The text box of a number: typing, expressions, units, arrow keys (Shift ×10, Alt ÷10). */
export const NumberBox = steady(function NumberBox(props: NumberBoxProps) {
  const { value, dimension = 'plain', unit = 'm', step = 1, onChange } = props;
  const shown = props.auto ?? showMeasure(value, dimension, unit, props.whole ? 0 : undefined);
  const [text, setText] = useState<string | null>(null);
  const [bad, setBad] = useState(false);
  const key = useId();
  const input = useRef<HTMLInputElement>(null);
  const skipBlur = useRef(false);
  useEffect(() => setBad(false), [value]);
  /** What was typed last, until it is seen what came of it. */
  const asked = useRef<number | null>(null);
  const [heldAt, setHeldAt] = useState<string | null>(null);
  useEffect(() => {
    if (asked.current === null) return;
    const off = Math.abs(asked.current - value) > 1e-9 * Math.max(1, Math.abs(value));
    setHeldAt(off && !props.auto ? shown : null);
    asked.current = null;
    // With the text taken, what came of it is there.
  }, [text, value, shown, props.auto]);
  const take = (raw: string): boolean => {
    if (props.reset === null && raw.trim() === '') {
      onChange(null);
      return true;
    }
    if (props.onText?.(raw)) return true;
    const parsed = parseMeasure(raw, dimension, unit);
    if (parsed === null) return false;
    asked.current = parsed;
    onChange(held(parsed, props));
    return true;
  };
  const commit = () => {
    if (text === null) return;
    if (text === shown || take(text)) {
      setText(null);
      setBad(false);
    } else setBad(true);
  };
  const onKeyDown = (e: KeyboardEvent<HTMLInputElement>) => {
    if (e.key === 'Enter') {
      e.preventDefault();
      commit();
      requestAnimationFrame(() => input.current === document.activeElement && input.current?.select());
    } else if (e.key === 'Escape') {
      e.stopPropagation();
      setText(null);
      setBad(false);
      skipBlur.current = true;
      input.current?.blur();
    } else if (e.key === 'ArrowUp' || e.key === 'ArrowDown') {
      e.preventDefault();
      const by =
        step * (e.shiftKey ? 10 : e.altKey && !props.whole ? 0.1 : 1) * (e.key === 'ArrowUp' ? 1 : -1);
      const from = text !== null ? (parseMeasure(text, dimension, unit) ?? value) : value;
      // Steps land on whole steps of the shown unit, without the noise of sums.
      onChange(held(Number((from + by).toPrecision(12)), props), key);
      setText(null);
    }
  };
  return (
    <span
      title={props.hint ?? (props.id ? undefined : props.label)}
      className={clsx(
        'relative flex items-center rounded-md border bg-card px-2 focus-within:ring-2 focus-within:ring-woad/40',
        bad ? 'border-danger' : 'border-edge',
        props.className,
      )}
    >
      {props.prefix !== undefined && <span className="num pr-1 text-sm text-soft">{props.prefix}</span>}
      <input
        ref={input}
        id={props.id}
        aria-label={props.id ? undefined : props.label}
        aria-invalid={bad || undefined}
        data-clean={text === null}
        className="num h-7 w-full min-w-0 bg-transparent text-sm outline-none"
        inputMode="text"
        autoComplete="off"
        value={text ?? shown}
        onFocus={(e) => {
          skipBlur.current = false;
          e.currentTarget.select();
        }}
        onChange={(e) => {
          setText(e.target.value);
          setHeldAt(null);
          setBad(false);
        }}
        onKeyDown={onKeyDown}
        onKeyUp={(e) => (e.key === 'ArrowUp' || e.key === 'ArrowDown') && restGesture()}
        onBlur={() => {
          setHeldAt(null);
          if (skipBlur.current) return;
          commit();
          if (bad) {
            setText(null);
            setBad(false);
          }
        }}
      />
      <span className="num pl-1 text-xs text-faint">
        {props.suffix ?? (dimension === 'length' ? unit : SUFFIX[dimension])}
      </span>
      {(bad || heldAt !== null) && (
        <span
          role="status"
          className="absolute right-0 top-full z-20 mt-1 whitespace-nowrap rounded-md bg-ink-900 px-2 py-1 text-xs text-linen-50 shadow-lg"
        >
          {bad ? wrong(text) : `Held to ${heldAt}`}
        </span>
      )}
    </span>
  );
});

/** Dragging what names a number changes it by its own steps. */
export function useNumberScrub(props: Omit<NumberFieldProps, 'bare' | 'className' | 'hint'>) {
  const start = useRef(props.value);
  return useScrub(
    () => (start.current = props.value),
    (pixels, key) => {
      const steps = props.whole ? Math.round(pixels / 8) : Math.round(pixels / 4) / 2;
      const grain = props.dimension === 'length' ? unitInMetres(props.unit ?? 'm') : 1;
      const next = start.current + steps * (props.step ?? 1);
      props.onChange(held(Number((next / grain).toPrecision(10)) * grain, props), key);
    },
  );
}

/** A number that follows other things shows what they come to, and typing another makes it its own again. */
function withLink(props: NumberFieldProps, linked: LinkedNumber | null): NumberFieldProps {
  if (!linked) return props;
  const { at, link, result, timed } = linked;
  const onText = (text: string) =>
    (text.trim().startsWith('=') && takeLink(at, text)) ||
    takeMoment(at, text, props.dimension ?? 'plain', props.unit ?? 'm') ||
    (props.onText?.(text) ?? false);
  if (timed)
    return {
      ...props,
      onText,
      value: timed.value,
      auto: undefined,
      onChange: (value, key) => value !== null && keepMoment(at, value, key),
    };
  if (!link) return { ...props, onText };
  return {
    ...props,
    onText,
    value: result?.value ?? props.value,
    auto: result?.value === undefined || result.value === null ? props.auto : undefined,
    onChange: (value, key) => value !== null && dispatch(unlinkField, { ...at, value }, key),
  };
}

/** A number with its label; dragging the label changes it, a double click puts it back. */
export function NumberField(given: NumberFieldProps) {
  const id = useId();
  const linked = useLinked(given.field);
  const props = withLink(given, linked);
  const scrub = useNumberScrub(props);
  if (props.bare) return <NumberBox {...props} />;
  return (
    <div
      className={clsx('group/number flex min-h-8 items-center justify-between gap-3', props.className)}
      title={linked?.said ?? props.hint}
    >
      <label
        htmlFor={id}
        className="cursor-ew-resize touch-none select-none text-sm"
        onPointerDown={scrub.onPointerDown}
        onClick={(e) => e.preventDefault()}
        onDoubleClick={() => props.reset !== undefined && props.onChange(props.reset)}
      >
        {props.label}
      </label>
      {linked && (
        <span className="-mr-2 ml-auto flex">
          <LinkMenu label={props.label} linked={linked} value={props.value} />
        </span>
      )}
      <NumberBox {...props} id={id} className="w-[106px] shrink-0" />
    </div>
  );
}
