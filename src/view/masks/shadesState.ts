import { create } from 'zustand';
import type { MaskShades } from '@/core/mesh/mask/shades';

/** The shades that are shown: the scene has them worked out, flat views draw them too. */
export const useShades = create<{ list: readonly MaskShades[] }>(() => ({ list: [] }));
