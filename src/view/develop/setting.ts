/** Whether the picture develops: the browser keeps it; whoever wants less motion gets none of it unasked. */

const KEY = 'develops';

/** Tests and benches say whether they want it. */
export function developsAtFirst(): boolean {
  if (typeof window === 'undefined') return false;
  if (window.clothesline) return window.clothesline.develops === true;
  try {
    const kept = localStorage.getItem(KEY);
    if (kept !== null) return kept === 'yes';
  } catch {
    // Where the browser keeps nothing it is as at first.
  }
  return !matchMedia('(prefers-reduced-motion: reduce)').matches;
}

export function keepDevelops(develops: boolean): void {
  try {
    localStorage.setItem(KEY, develops ? 'yes' : 'no');
  } catch {
    // It lasts as long as the page.
  }
}
