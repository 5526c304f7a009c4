'use client';

import type { Peg, Pegs } from '@/core/arrange/pegs/schema';
import { poseOnSnap, sitsOn } from '@/core/arrange/pegs/sits';
import type { Tie } from '@/core/curve/hang/schema';
import { setPegs } from '@/store/commands/pegs';
import { dispatch } from '@/store/document';
import { tiedNow } from '@/view/snap/snapPoints';
import { Connected } from '../../../controls/Connected';
import { freePegs, standingNow } from './pegMoves';

/** What a peg is connected to, chosen without a drag. */
export function SitsOn({ arrangement: a, peg }: { arrangement: Pegs; peg: Peg }) {
  const put = (on: Tie | null): void => {
    const [now] = standingNow(a, [peg]);
    if (!on) return void freePegs(a, [now]);
    const place = tiedNow(on, now.position);
    if (!place) return;
    const { lift = 0, turnDeg = 0 } = peg.sits ?? {};
    const sits = { ...sitsOn(on, place), lift, turnDeg };
    const values = { pin: null, sits, ...poseOnSnap(place, sits) };
    dispatch(setPegs, { id: a.id, title: 'connect', values: { [peg.id]: values } });
  };
  return <Connected tie={peg.sits?.on} what="peg" put={put} />;
}
