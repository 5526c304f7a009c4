'use client';

import { ArrowLeftRight } from 'lucide-react';
import { useDocument } from '@/store/document';
import { PropPicture } from '../basket/PropPicture';
import { PlainMenu } from '../controls/PlainMenu';
import { LIGHT } from './slotPanelLook';

/** Another prop of the basket in a place. @param asBefore what it is called to swap it back; that calls with null */
export function SwapMenu({ asBefore, onSwap }: { asBefore: string; onSwap: (prop: string | null) => void }) {
  const props = useDocument((s) => s.scene.props);
  return (
    <PlainMenu
      name="Swap the prop"
      className={LIGHT}
      entries={[
        ...props.map((x) => ({
          text: x.name,
          icon: <PropPicture prop={x} size={22} />,
          run: () => onSwap(x.id),
        })),
        { text: asBefore, run: () => onSwap(null) },
      ]}
    >
      <ArrowLeftRight size={14} />
    </PlainMenu>
  );
}
