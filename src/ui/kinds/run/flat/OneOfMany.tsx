import { whole } from '@/words/numbers';
import { NumberBox } from '../../../controls/NumberField';
import { Segmented } from '../../../controls/Segmented';

/** So many stand side by side. */
const FEW = 6;

/** One of several: side by side while they are few, by its number where they are many. */
export function OneOfMany({
  label,
  count,
  value,
  nameOf,
  onChange,
}: {
  label: string;
  count: number;
  /** From 0. */
  value: number;
  nameOf: (i: number) => string;
  onChange: (i: number) => void;
}) {
  const now = Math.min(value, count - 1);
  if (count <= FEW)
    return (
      <Segmented
        label={label}
        hint="Which of them is shown"
        value={String(now)}
        options={Array.from({ length: count }, (_, i) => ({ value: String(i), text: nameOf(i) }))}
        onChange={(v) => onChange(Number(v))}
      />
    );
  return (
    <span className="flex items-center gap-1.5 text-[12.5px]">
      <NumberBox
        label={label}
        whole
        min={1}
        max={count}
        value={now + 1}
        className="w-[76px]"
        onChange={(v) => v !== null && onChange(Math.min(count, Math.max(1, v)) - 1)}
      />
      <span className="max-w-[160px] truncate">
        of {whole(count)}: {nameOf(now)}
      </span>
    </span>
  );
}
