import { useView } from '../viewState';

/** Where the keys' cursor is over the view. */
export function KeyCursor() {
  const at = useView((s) => s.keyCursor);
  if (!at) return null;
  return (
    <svg
      aria-hidden
      className="pointer-events-none absolute"
      style={{ left: at.x - 14, top: at.y - 14 }}
      width={28}
      height={28}
    >
      <path d="M14 1v9M14 18v9M1 14h9M18 14h9" stroke="#FBF8F1" strokeWidth={4} />
      <path d="M14 1v9M14 18v9M1 14h9M18 14h9" stroke="#1E2A36" strokeWidth={1.6} />
    </svg>
  );
}
