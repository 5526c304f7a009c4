/** Formats that hold whole meshes, and what each calls a metre. */
export const MERGED = {
  stl: { unit: 'millimetres', perMetre: 1000 },
  '3mf': { unit: 'millimetres', perMetre: 1000 },
  obj: { unit: 'metres', perMetre: 1 },
} as const;

export type MergedFormat = keyof typeof MERGED;
