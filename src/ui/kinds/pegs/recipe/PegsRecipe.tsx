'use client';

import { allPegs } from '@/core/arrange/pegs/blocks';
import { Trash2 } from 'lucide-react';
import { useMemo } from 'react';
import { pegNumber, type Pegs } from '@/core/arrange/pegs/schema';
import { setSlotsRemoved } from '@/store/commands/arrangements';
import { setPeg } from '@/store/commands/pegs';
import { dispatch, useDocument } from '@/store/document';
import { selectSlots, useSelection } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { PropPicture } from '../../../basket/PropPicture';
import { IconButton } from '../../../controls/Button';
import { VirtualList } from '../../../controls/VirtualList';
import { PlainMenu } from '../../../controls/PlainMenu';
import { plural } from '@/words/numbers';
import { groundPhrase } from '../../../words/phrases';
import { GroundStep } from '../../../recipe/steps/GroundStep';
import { VariationOf, GapsOf } from '../../../recipe/steps/CommonSteps';
import { Step } from '../../../recipe/Step';
import { PegActions } from './PegActions';
import { PegFields } from './PegFields';
import { SitsOn } from './SitsOn';

/** Pegs: how many of which prop, and each by its numbers. */
export function PegsRecipe({ arrangement: a }: { arrangement: Pegs }) {
  const scene = useDocument((s) => s.scene);
  const chosen = useSelection((s) => (s.slots?.arrangement === a.id ? s.slots.ids : null));
  const color = THREAD_COLORS[a.thread];
  const all = allPegs(a.pegs);
  const { counts, free } = useMemo(() => {
    const counts = new Map<string, number>();
    for (const peg of all) counts.set(peg.prop, (counts.get(peg.prop) ?? 0) + 1);
    return { counts, free: all.filter((p) => !p.pin && !p.sits).length };
  }, [all]);
  const pegs = useMemo(() => {
    if (!chosen) return all;
    const those = new Set(chosen);
    return all.filter((p) => those.has(pegNumber(p.id)));
  }, [all, chosen]);
  const nameOf = (id: string) => scene.props.find((p) => p.id === id)?.name ?? 'missing';
  return (
    <>
      <Step
        name="props"
        title="Props"
        color={color}
        phrase={
          [...counts]
            .slice(0, 2)
            .map(([id, n]) => `${nameOf(id)} ×${n}`)
            .join(', ') || 'None yet'
        }
      >
        <ul className="text-[13px]">
          {[...counts].map(([id, n]) => (
            <li key={id} className="flex items-center gap-2 py-0.5">
              <PropPicture prop={scene.props.find((p) => p.id === id)} size={26} />
              <span className="min-w-0 flex-1 truncate">{nameOf(id)}</span>
              <span className="num">{n}</span>
            </li>
          ))}
        </ul>
      </Step>
      <Step
        name="spacing"
        title="Places"
        color={color}
        phrase={chosen ? `${chosen.length} selected` : plural(all.length, 'peg')}
      >
        <VirtualList
          as="ul"
          space="li"
          label="Pegs"
          count={pegs.length}
          height={all.some((p) => p.pin || p.sits) ? 177 : 97}
        >
          {(i) => {
            const peg = pegs[i];
            return (
              <li key={peg.id} className="mb-1.5 rounded-md border border-edge bg-paper p-1.5">
                <div className="flex items-center gap-1">
                  <button
                    type="button"
                    title="Takes it in hand"
                    className="num min-w-0 flex-1 truncate text-left text-[12.5px]"
                    onClick={() => selectSlots(a.id, [pegNumber(peg.id)])}
                  >
                    #{pegNumber(peg.id)} · {nameOf(peg.prop)}
                  </button>
                  <PlainMenu
                    small
                    name={`Swap peg ${pegNumber(peg.id)}`}
                    entries={scene.props.map((p) => ({
                      text: p.name,
                      icon: <PropPicture prop={p} size={22} />,
                      run: () => dispatch(setPeg, { id: a.id, peg: peg.id, values: { prop: p.id } }),
                    }))}
                  />
                  <IconButton
                    name={`Remove peg ${pegNumber(peg.id)}`}
                    className="!size-5"
                    onClick={() =>
                      dispatch(setSlotsRemoved, { id: a.id, slots: [pegNumber(peg.id)], removed: true })
                    }
                  >
                    <Trash2 size={13} />
                  </IconButton>
                </div>
                <PegFields arrangement={a.id} peg={peg} />
              </li>
            );
          }}
        </VirtualList>
        {chosen && pegs.length === 1 && <SitsOn arrangement={a} peg={pegs[0]} />}
      </Step>
      <Step
        name="ground"
        title="Ground"
        color={color}
        phrase={free > 0 ? groundPhrase(a.ground, scene) : 'All held'}
      >
        {free > 0 ? (
          <GroundStep arrangement={a} />
        ) : (
          <p className="text-[12.5px] text-soft">
            Every peg is pinned or sits on a snap point. Free ones can land here.
          </p>
        )}
      </Step>
      <VariationOf arrangement={a} />
      <GapsOf arrangement={a} />
      <Step
        name="hand"
        title="Arrange"
        color={color}
        phrase={chosen ? plural(pegs.length, 'selected peg') : 'All pegs'}
      >
        <PegActions arrangement={a} pegs={pegs} />
      </Step>
    </>
  );
}
