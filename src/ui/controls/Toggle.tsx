'use client';

import { Field, Label, Switch } from '@headlessui/react';

/** On or off, with its label. */
export function Toggle(props: {
  label: string;
  hint: string;
  value: boolean;
  onChange: (on: boolean) => void;
}) {
  return (
    <Field className="flex min-h-8 items-center justify-between gap-3" title={props.hint}>
      <Label className="cursor-pointer text-sm">{props.label}</Label>
      <Switch
        checked={props.value}
        onChange={props.onChange}
        className="group relative h-[18px] w-[32px] shrink-0 rounded-full bg-edge transition-colors data-checked:bg-on"
      >
        <span className="absolute left-[2px] top-[2px] size-[14px] rounded-full bg-card shadow transition-transform group-data-checked:translate-x-[14px]" />
      </Switch>
    </Field>
  );
}
