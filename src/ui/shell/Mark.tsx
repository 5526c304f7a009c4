/** The mark: two pennants on a line. */
export function Mark({ size = 30 }: { size?: number }) {
  return (
    <svg width={size} height={size * 0.72} viewBox="0 0 30 22" aria-hidden>
      <path d="M1 4Q15 11 29 4" fill="none" stroke="currentColor" strokeWidth={1.4} />
      <path d="M4.2 5.6l7.6 2.2-4.6 9z" fill="#B4472F" />
      <path d="M16.5 8l8-2.2-1.8 9.8z" fill="#D6A02B" />
    </svg>
  );
}
