'use client';

import { useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import { uiOf } from '../kinds/registry';

/** The bottom: always the selected arrangement, laid flat. */
export function FlatPanel() {
  const id = useSelection((s) => s.arrangement);
  const arrangement = useDocument((s) => s.scene.arrangements.find((a) => a.id === id));
  if (!arrangement) {
    return (
      <div className="flex h-full flex-col px-4 py-2.5">
        <h2 className="font-display text-base font-semibold">Line</h2>
        <p className="mt-2 text-sm text-soft">
          The selected run hangs here, unrolled: its slots, gaps, insets and keep-outs along a ruler.
        </p>
      </div>
    );
  }
  const { Flat } = uiOf(arrangement);
  return <Flat key={arrangement.id} arrangement={arrangement} />;
}
