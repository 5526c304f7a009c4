import Papa from 'papaparse';
import type { Vec3 } from '../math/vec3';
import { FileError } from './limits';

/** One row of a table of places. */
interface PlaceRow {
  at: Vec3;
  /** Name of the prop, where the table has one. */
  prop?: string;
  /** Degrees about up. */
  turnDeg: number;
  size: number;
}

export interface PlaceTable {
  rows: PlaceRow[];
  /** Lines that were left out: their x, y or z is no number. */
  skipped: number[];
}

/** More places than this are refused. */
const MOST = 100_000;

/**
 * Reads a table of places: columns x, y and z in metres, Y up, in any order and case; `prop`, `turn` (degrees) and
 * `size` where they are there. The first line names the columns.
 * @throws FileError for a table without these columns, without rows, or with too many
 */
export function readPlaces(text: string, name: string): PlaceTable {
  const parsed = Papa.parse<Record<string, string>>(text, {
    header: true,
    skipEmptyLines: 'greedy',
    transformHeader: (h) => h.trim().toLowerCase(),
  });
  const fields = parsed.meta.fields ?? [];
  const missing = ['x', 'y', 'z'].filter((f) => !fields.includes(f));
  if (missing.length > 0)
    throw new FileError(
      `“${name}” has no column ${missing.join(' and no column ')}. Name the columns x, y and z in its first line.`,
    );
  if (parsed.data.length > MOST)
    throw new FileError(`“${name}” has more than ${MOST} rows. Split it into several tables.`);
  const number = (value: string | undefined) =>
    value === undefined || value.trim() === '' ? NaN : Number(value.replace(',', '.'));
  const or = (value: number, rest: number) => (Number.isFinite(value) ? value : rest);
  const out: PlaceTable = { rows: [], skipped: [] };
  parsed.data.forEach((row, i) => {
    const at = [number(row.x), number(row.y), number(row.z)] as Vec3;
    if (!at.every(Number.isFinite)) return void out.skipped.push(i + 2);
    const size = or(number(row.size), 1);
    const prop = row.prop?.trim();
    out.rows.push({
      at,
      turnDeg: or(number(row.turn), 0),
      size: size > 0 ? size : 1,
      ...(prop && { prop }),
    });
  });
  if (out.rows.length === 0)
    throw new FileError(`“${name}” has no row with three numbers x, y and z. Choose another table.`);
  return out;
}
