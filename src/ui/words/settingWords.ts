import type { Setting } from '@/core/scene/settings';

/** How numbers of a recipe are called where they stand away from their step. */

const CALLED: Record<string, string> = {
  sizeX: 'Width',
  sizeY: 'Height',
  sizeZ: 'Length',
  every: 'Every n-th',
};

/** "looseBy" as people read it: "Loose by". */
export const plainName = (key: string): string => {
  if (CALLED[key]) return CALLED[key];
  const words = key
    .replace(/Deg$/, '')
    .replace(/([A-Z])/g, ' $1')
    .toLowerCase();
  return words.charAt(0).toUpperCase() + words.slice(1);
};

/** The step that a setting is in: "Spacing". */
export const stepOf = ({ field }: Pick<Setting, 'field'>): string =>
  field.length > 1 ? plainName(field[0]) : 'Itself';

/** "Rows: distance", "Pitch". */
export const settingName = ({ field }: Pick<Setting, 'field'>): string =>
  field
    .slice(field.length > 1 ? 1 : 0)
    .map((key, i) => (i === 0 ? plainName(key) : plainName(key).toLowerCase()))
    .join(': ');
