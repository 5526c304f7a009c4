/** What something is called, taken with Enter or when it is left. */
export function NameField({ name, onRename }: { name: string; onRename: (name: string) => void }) {
  return (
    <label className="flex min-h-8 items-center justify-between gap-3 text-sm">
      Name
      <input
        defaultValue={name}
        key={name}
        maxLength={200}
        title="What it is called"
        onBlur={(e) => e.target.value !== name && onRename(e.target.value)}
        onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
        className="w-[150px] rounded-md border border-edge bg-card px-2 py-1"
      />
    </label>
  );
}
