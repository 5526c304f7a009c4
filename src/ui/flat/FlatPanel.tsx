'use client';

import { useDocument } from '@/store/document';
import { selectSlots, useSelection } from '@/store/selection';
import { ContextMenu } from '../controls/ContextMenu';
import { uiOf } from '../kinds/registry';
import { selectionEntries } from '../menus/entries';
import { profiledShape } from '../profile/profile';
import { ProfileFlat } from '../profile/ProfileFlat';

/** The bottom: the selected arrangement, laid flat; the profile of a selected surface that is made from one. */
export function FlatPanel() {
  const id = useSelection((s) => s.arrangement);
  const arrangement = useDocument((s) => s.scene.arrangements.find((a) => a.id === id));
  const surface = useSelection((s) => (s.node?.kind === 'surface' ? s.node.id : null));
  const profiled = useDocument((s) => {
    const found = s.scene.surfaces.find((x) => x.id === surface);
    return profiledShape(found) ? found : undefined;
  });
  if (profiled) return <ProfileFlat key={profiled.id} surface={profiled} />;
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
  return (
    <ContextMenu
      name={`What can be done with ${arrangement.name} here`}
      entries={selectionEntries}
      onOpen={() => takeHovered(arrangement.id)}
    >
      <div className="h-full">
        <Flat key={arrangement.id} arrangement={arrangement} />
      </div>
    </ContextMenu>
  );
}

/** Takes the slot under the pointer or the focus in hand, unless it is one of several that are; else the whole. */
function takeHovered(id: string): void {
  const { hover, slots } = useSelection.getState();
  const slot = hover?.arrangement === id ? hover.slot : null;
  if (slot === null) selectSlots(id, []);
  else if (slots?.arrangement !== id || !slots.ids.includes(slot)) selectSlots(id, [slot]);
}
