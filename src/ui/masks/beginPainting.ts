import { chooseTool, setBrush, setShades } from '@/view/viewState';

/** Takes the brush for a painted layer, its mask in shades. */
export function beginPainting(mask: string, layer: string): void {
  chooseTool('paint');
  setBrush({ layer: { mask, layer } });
  setShades(mask);
}
