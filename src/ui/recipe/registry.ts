import type { ComponentType } from 'react';
import type { Arrangement } from '@/core/scene/schema';
import { PegsRecipe } from './pegs/PegsRecipe';
import { RidersRecipe } from './riders/RidersRecipe';
import { RunRecipe } from './run/RunRecipe';
import { SheetRecipe } from './sheet/SheetRecipe';
import { SpansRecipe } from './spans/SpansRecipe';

/** The recipe of each kind of arrangement. A new kind is a folder here and a line in this list. */
export const RECIPES: {
  [K in Arrangement['kind']]: ComponentType<{ arrangement: Extract<Arrangement, { kind: K }> }>;
} = {
  run: RunRecipe,
  pegs: PegsRecipe,
  riders: RidersRecipe,
  spans: SpansRecipe,
  sheet: SheetRecipe,
};
