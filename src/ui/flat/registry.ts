import type { ComponentType } from 'react';
import type { Arrangement } from '@/core/scene/schema';
import { PegsFlat } from './pegs/PegsFlat';
import { RidersFlat } from './riders/RidersFlat';
import { RunFlat } from './run/RunFlat';
import { SheetFlat } from './sheet/SheetFlat';
import { SpansFlat } from './spans/SpansFlat';

/** The flat view of each kind of arrangement. A new kind is a folder here and a line in this list. */
export const FLATS: {
  [K in Arrangement['kind']]: ComponentType<{ arrangement: Extract<Arrangement, { kind: K }> }>;
} = {
  run: RunFlat,
  pegs: PegsFlat,
  riders: RidersFlat,
  spans: SpansFlat,
  sheet: SheetFlat,
};
