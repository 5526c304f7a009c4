import { MEASURES, referencesIn, type Measure } from '@/core/evaluate/links/expression';
import type { Scene } from '@/core/scene/schema';

/** How numbers are said that follow what other things measure: "= length of Quay edge / 12". */

const SAID: Record<Measure, string> = {
  length: 'length of',
  count: 'count of',
  wide: 'width of',
  long: 'length of',
  high: 'height of',
};
/** Which things have which measures. */
const OF: Record<Measure, 'paths' | 'arrangements' | 'props'> = {
  length: 'paths',
  count: 'arrangements',
  wide: 'props',
  long: 'props',
  high: 'props',
};
const METRES: Record<string, number> = { mm: 0.001, cm: 0.01, m: 1, in: 0.0254, ft: 0.3048 };

/** Something that a number can be taken from. */
export interface Measurable {
  text: string;
  expression: string;
}

/** All that there is to take a number from, by its words. */
export const measurables = (scene: Pick<Scene, 'paths' | 'arrangements' | 'props'>): Measurable[] =>
  MEASURES.flatMap((measure) =>
    scene[OF[measure]].map(({ id, name }) => ({
      text: `${SAID[measure]} ${name}`,
      expression: `[${id}.${measure}]`,
    })),
  );

/** An expression in words. */
export const showLink = (expression: string, scene: Scene): string =>
  referencesIn(expression).reduce((text, { id, measure }) => {
    const name = scene[OF[measure]].find((n) => n.id === id)?.name ?? 'what is gone';
    return text.replace(`[${id}.${measure}]`, `${SAID[measure]} ${name}`);
  }, expression);

/**
 * The expression that words mean: names of things as they are called, longest first, in quotation marks or not; lengths
 * in metres, or with their unit. @returns null where it names nothing that there is
 */
export function readLink(text: string, scene: Scene): string | null {
  const known = measurables(scene).toSorted((a, b) => b.text.length - a.text.length);
  let out = text
    .trim()
    .replace(/^=/, '')
    .replace(/[“”"]/g, '')
    .replace(/[−–]/g, '-')
    .replace(/×/g, '*')
    .replace(/÷/g, '/');
  const taken: string[] = [];
  for (const { text: said, expression } of known) {
    for (;;) {
      const at = out.toLowerCase().indexOf(said.toLowerCase());
      if (at < 0) break;
      taken.push(expression);
      out = `${out.slice(0, at)}\u0000${taken.length - 1};${out.slice(at + said.length)}`;
    }
  }
  if (taken.length === 0) return null;
  out = out.replace(/(\d+(?:\.\d+)?)\s*(mm|cm|m|in|ft)\b/gi, (_, n: string, unit: string) =>
    String(Number((Number(n) * METRES[unit.toLowerCase()]).toPrecision(12))),
  );
  if (!/^[\d\s.+\-*/()\u0000;]*$/.test(out)) return null;
  return out
    .replace(/\u0000(\d+);/g, (_, n: string) => taken[Number(n)])
    .replace(/\s+/g, ' ')
    .trim();
}
