/**
 * Reads what people type into number fields: numbers, fractions, sums, and units of length.
 * "40 cm", "6in", "1/3", "2.4/3", "1 m + 20 cm", "1,5". A bare number has the field's own unit.
 */

const METRES: Record<string, number> = {
  mm: 0.001,
  cm: 0.01,
  dm: 0.1,
  m: 1,
  km: 1000,
  in: 0.0254,
  '"': 0.0254,
  ft: 0.3048,
  "'": 0.3048,
  yd: 0.9144,
};

/** What a field's numbers are. For lengths the result is in metres, whatever unit is shown. */
export type Dimension = 'length' | 'angle' | 'percent' | 'plain';

/** Metres a shown unit. */
export const unitInMetres = (unit: string): number => METRES[unit] ?? 1;

interface Token {
  kind: 'number' | 'unit' | 'op';
  text: string;
}

function tokens(text: string): Token[] | null {
  const out: Token[] = [];
  let rest = text.trim().toLowerCase().replace(/[−–]/g, '-').replace(/×/g, '*').replace(/÷/g, '/');
  while (rest) {
    const m =
      /^(\d+(?:[.,]\d+)?(?:e[+-]?\d+)?|[.,]\d+)|^([+\-*/()])|^(mm|cm|dm|km|m|in|ft|yd|deg|turns?|°|%|"|')/.exec(
        rest,
      );
    if (!m) return null;
    if (m[1]) out.push({ kind: 'number', text: m[1].replace(',', '.') });
    else if (m[2]) out.push({ kind: 'op', text: m[2] });
    else out.push({ kind: 'unit', text: m[3] });
    rest = rest.slice(m[0].length).trimStart();
  }
  return out;
}

/**
 * @param shownUnit for lengths: the unit of a number that has none, e.g. "m" or "cm"
 * @returns the value (metres for lengths, degrees, a fraction for percent), or null where it cannot be read
 */
export function parseMeasure(text: string, dimension: Dimension = 'plain', shownUnit = 'm'): number | null {
  const list = tokens(text);
  if (!list || list.length === 0) return null;
  let at = 0;
  let unitSeen = false;
  const scaleOf = (unit: string): number => {
    if (dimension === 'length' && unit in METRES) return METRES[unit];
    if (dimension === 'angle' && (unit === '°' || unit === 'deg')) return 1;
    if (dimension === 'angle' && unit.startsWith('turn')) return 360;
    if (dimension === 'percent' && unit === '%') return 0.01;
    return NaN;
  };
  const atom = (): number => {
    const t = list[at++];
    if (!t) return NaN;
    if (t.kind === 'op' && t.text === '-') return -atom();
    if (t.kind === 'op' && t.text === '+') return atom();
    if (t.kind === 'op' && t.text === '(') {
      const v = sum();
      return list[at++]?.text === ')' ? v : NaN;
    }
    return t.kind === 'number' ? Number(t.text) : NaN;
  };
  /** A unit belongs to all of the product before it: "1/4 ft" is a quarter of a foot. */
  const withUnit = (v: number): number => {
    if (list[at]?.kind !== 'unit') return v;
    unitSeen = true;
    return v * scaleOf(list[at++].text);
  };
  const product = (): number => {
    let v = withUnit(atom());
    while (list[at]?.text === '*' || list[at]?.text === '/')
      v = withUnit(list[at++].text === '*' ? v * atom() : v / atom());
    return v;
  };
  const sum = (): number => {
    let v = product();
    while (list[at]?.text === '+' || list[at]?.text === '-')
      v = list[at++].text === '+' ? v + product() : v - product();
    return v;
  };
  const value = sum();
  if (at !== list.length || !Number.isFinite(value)) return null;
  if (unitSeen) return value;
  if (dimension === 'length') return value * unitInMetres(shownUnit);
  if (dimension === 'percent') return value / 100;
  return value;
}

/** What is less than this is what sums of rounded numbers leave of nothing. */
const NOTHING = 1e-9 * (1 - 1e-6);

/** A value as it is shown, without its unit: at most `digits` after the point, no trailing noise. */
export function showMeasure(value: number, dimension: Dimension, shownUnit = 'm', digits?: number): string {
  const shown =
    dimension === 'length' ? value / unitInMetres(shownUnit) : dimension === 'percent' ? value * 100 : value;
  const places =
    digits ?? (dimension === 'length' ? (shownUnit === 'm' ? 3 : 1) : dimension === 'angle' ? 2 : 3);
  const text = (Math.abs(shown) > NOTHING ? shown : 0).toFixed(places);
  // A value that the places would hide is shown in full rather than as nothing.
  if (Number(text) === 0 && Math.abs(shown) > NOTHING) return String(Number(shown.toPrecision(3)));
  const bare = text.includes('.') ? text.replace(/0+$/, '').replace(/\.$/, '') : text;
  if (dimension !== 'length' || shownUnit !== 'm') return bare;
  const [whole, fraction = ''] = bare.split('.');
  return `${whole}.${fraction.padEnd(2, '0')}`;
}
