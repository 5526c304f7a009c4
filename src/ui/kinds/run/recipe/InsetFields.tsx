'use client';

import type { Spacing } from '@/core/arrange/steps/schema';
import { parseMeasure } from '@/words/measure';
import { NumberPair, type PairedField } from '../../../controls/NumberPair';

/** "2 props": so many lengths of the longest prop. */
const IN_PROPS = /^(.+?)\s*(?:props?|lengths?|x|×)$/i;
/** A number with a unit of length behind it. */
const HAS_UNIT = /[a-z"']\s*$/i;

/** The insets at both ends, in metres or in lengths of the prop: whichever was typed. */
export function InsetFields({
  spacing,
  unit,
  set,
}: {
  spacing: Spacing;
  unit: string;
  set: (values: Partial<Spacing>, key?: string) => void;
}) {
  const field = (short: string, label: string, name: 'insetStart' | 'insetEnd'): PairedField => {
    const inProps = spacing[`${name}Lengths`];
    const metres = (v: number, key?: string) =>
      set({ [name]: Math.max(0, v), [`${name}Lengths`]: 0 } as Partial<Spacing>, key);
    const props = (v: number, key?: string) =>
      set({ [name]: 0, [`${name}Lengths`]: Math.max(0, v) } as Partial<Spacing>, key);
    const hint = `${label}: left free there. A length, or “2 props” for so many lengths of the longest prop`;
    const onText = (text: string): boolean => {
      const typed = IN_PROPS.exec(text.trim())?.[1] ?? (inProps > 0 && !HAS_UNIT.test(text) ? text : null);
      const count = typed === null ? null : parseMeasure(typed);
      const length = count === null && inProps > 0 ? parseMeasure(text, 'length', unit) : null;
      if (count !== null) props(count);
      else if (length !== null) metres(length);
      return count !== null || length !== null;
    };
    const shared = { short, label, hint, min: 0, reset: 0, onText };
    return inProps > 0
      ? { ...shared, value: inProps, suffix: '×', step: 0.5, onChange: (v, key) => props(v ?? 0, key) }
      : {
          ...shared,
          value: spacing[name],
          dimension: 'length',
          unit,
          step: 0.1,
          onChange: (v, key) => metres(v ?? 0, key),
        };
  };
  return (
    <NumberPair
      label="Insets"
      fields={[field('start', 'Inset at start', 'insetStart'), field('end', 'Inset at end', 'insetEnd')]}
    />
  );
}
