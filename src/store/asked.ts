import { create } from 'zustand';
import type { Asked } from '@/engine/service';

/** The place that was asked about last; null: none. */
export const useAsked = create<{ asked: Asked | null }>(() => ({ asked: null }));

export const ask = (asked: Asked | null): void => useAsked.setState({ asked });
