import { create } from 'zustand';
import { openDialog } from '../uiState';

/** The material whose settings stand open in the panel. */
export const useShownMaterial = create<{ id: string | null }>(() => ({ id: null }));

/** Opens the panel at a material. */
export function showMaterial(id: string | null): void {
  useShownMaterial.setState({ id });
  openDialog('materials');
}
