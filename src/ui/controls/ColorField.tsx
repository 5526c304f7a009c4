/** A colour, as the browser lets one choose it. @param name what it is the colour of, where its label does not say it */
export function ColorField(props: {
  label?: string;
  name?: string;
  hint: string;
  value: string;
  onChange: (color: string) => void;
}) {
  const { label = 'Colour' } = props;
  return (
    <label className="flex min-h-9 items-center justify-between text-sm">
      {label}
      <input
        type="color"
        aria-label={props.name ?? label}
        title={props.hint}
        value={props.value}
        onChange={(e) => props.onChange(e.target.value)}
        className="h-7 w-12 cursor-pointer rounded border border-edge bg-card p-0.5"
      />
    </label>
  );
}
