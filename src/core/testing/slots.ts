import Papa from 'papaparse';

const NUMBERS = new Set(['x', 'y', 'z', 'qx', 'qy', 'qz', 'qw', 'sx', 'sy', 'sz', 's', 'u', 'v']);
const rows = (text: string) =>
  Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true }).data;

/**
 * Where two tables of slots differ: in what is there, or in numbers by more than 1e-12 of their size, as they may where
 * sums are taken in another order.
 * @returns a sentence for each, and how far any number is off at the most
 */
export function slotsThatDiffer(
  before: string,
  now: string,
): { differ: string[]; worst: number; count: number } {
  const [was, is] = [rows(before), rows(now)];
  const differ = was.length === is.length ? [] : [`${was.length} rows, now ${is.length}`];
  let worst = 0;
  was.slice(0, is.length).forEach((row, i) => {
    for (const [field, value] of Object.entries(row)) {
      const other = is[i][field];
      if (other === value) continue;
      const off = NUMBERS.has(field) && value && other ? Math.abs(Number(other) - Number(value)) : Infinity;
      worst = Math.max(worst, off);
      if (off > 1e-12 * Math.max(1, Math.abs(Number(value))))
        differ.push(`${row.arrangement} #${row.slot} ${field}: ${value}, now ${other}`);
    }
  });
  return { differ, worst, count: is.length };
}
