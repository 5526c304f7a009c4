/** A quiet button of a line. */
export function Small({ label, hint, onClick }: { label: string; hint: string; onClick: () => void }) {
  return (
    <button
      type="button"
      title={hint}
      onClick={onClick}
      className="shrink-0 rounded-md px-1.5 py-0.5 text-[12px] text-soft underline-offset-2 hover:bg-groove hover:underline"
    >
      {label}
    </button>
  );
}
