import { Maximize2, Minimize2, Scan } from 'lucide-react';
import { IconButton } from '../controls/Button';
import { setTallFlat, useUi } from '../uiState';
import type { Look } from './look';

/** All of a flat view that was zoomed, and half of the window for it. @param what it shows: "the sheet" */
export function ZoomButtons({ what, look, onWhole }: { what: string; look: Look; onWhole: () => void }) {
  const tall = useUi((s) => s.tallFlat);
  return (
    <>
      {look.zoom > 1 && (
        <IconButton name={`All of ${what}`} onClick={onWhole}>
          <Scan size={15} />
        </IconButton>
      )}
      <IconButton name={tall ? 'Lower flat view' : 'Taller flat view'} onClick={() => setTallFlat(!tall)}>
        {tall ? <Minimize2 size={15} /> : <Maximize2 size={15} />}
      </IconButton>
    </>
  );
}
