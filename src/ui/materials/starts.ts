import type { Material } from '@/core/mesh/materialSchema';

/** Materials to begin with. */
export const MATERIAL_STARTS: { values: Partial<Omit<Material, 'id'>> & { name: string }; hint: string }[] = [
  { values: { name: 'Paint', color: '#B4472F', roughness: 0.55 }, hint: 'Of one colour, hardly shiny' },
  {
    values: { name: 'Gloss', color: '#2C5F86', roughness: 0.12 },
    hint: 'Of one colour, mirrors what is around',
  },
  { values: { name: 'Chalk', color: '#E8DFCE', roughness: 1 }, hint: 'Quite dull' },
  { values: { name: 'Brass', color: '#D9AE5B', roughness: 0.25, metal: 1 }, hint: 'A warm metal' },
  { values: { name: 'Steel', color: '#C4C8CC', roughness: 0.18, metal: 1 }, hint: 'A cool metal' },
  { values: { name: 'Mirror', color: '#F2F2F2', roughness: 0, metal: 1 }, hint: 'Shows all that is around' },
  {
    values: {
      name: 'Lit glass',
      color: '#FFE2B0',
      roughness: 0.3,
      glow: { color: '#FFB765', strength: 0.25 },
    },
    hint: 'Glows: whatever wears it lights what is around',
  },
  {
    values: { name: 'Own colours', color: null, roughness: 0.3 },
    hint: 'Keeps the colours, changes how it shines',
  },
];
