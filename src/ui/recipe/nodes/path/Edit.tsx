import { Ruler } from 'lucide-react';
import type { ReactNode } from 'react';
import { Button } from '../../../controls/Button';
import { NumberBox } from '../../../controls/NumberField';

/** A button of one edit. */
export function Edit({
  icon,
  text,
  hint,
  run,
  disabled,
}: {
  icon: ReactNode;
  text: string;
  hint: string;
  run: () => void;
  disabled?: boolean;
}) {
  return (
    <Button
      look="bordered"
      className="!gap-1 !px-0.5 !text-[12.5px]"
      title={hint}
      disabled={disabled}
      onClick={run}
    >
      {icon} {text}
    </Button>
  );
}

/** An edit by a measure: typing or the button does it. */
export function Measured(props: {
  text: string;
  hint: string;
  value: number;
  unit: 'm' | 'cm';
  onValue: (v: number) => void;
  run: () => void;
}) {
  return (
    <div className="mt-1.5 flex items-center gap-1.5" title={props.hint}>
      <Button
        look="bordered"
        title={props.hint}
        className="flex-1 !justify-start !px-2 !text-[12.5px]"
        onClick={props.run}
      >
        <Ruler size={13} /> {props.text}
      </Button>
      <NumberBox
        label={`${props.text} by`}
        dimension="length"
        unit={props.unit}
        step={0.05}
        min={0}
        value={props.value}
        className="w-[106px]"
        onChange={(v) => v !== null && props.onValue(v)}
      />
    </div>
  );
}
