'use client';

import { parseSlotName, slotName } from '@/core/arrange/slotId';
import { STATE } from '@/core/arrange/result';
import type { Tie } from '@/core/curve/hang/schema';
import { hasPoints } from '@/core/curve/schema';
import type { Scene } from '@/core/scene/schema';
import { useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { selectArrangement, selectNode, selectSlots } from '@/store/selection';
import { Button } from './Button';
import { Choice } from './Choice';

/** What something is connected to, by words and by choices; let go of, or connected without a drag. */
export function Connected({
  tie,
  own,
  what,
  put,
}: {
  tie: Tie | undefined;
  /** A path that is no choice: its own. */
  own?: string;
  /** What is connected: "point", "peg". */
  what: string;
  put: (tie: Tie | null) => void;
}) {
  const scene = useDocument((s) => s.scene);
  const on = tie?.to === 'slot' ? tie.arrangement : undefined;
  const placements = useEngine((s) => (on ? s.result.arrangements.get(on)?.placements : undefined));
  const others = scene.paths.filter((p) => p.id !== own && hasPoints(p));
  const chosen = tie ? (tie.to === 'slot' ? tie.arrangement : tie.path) : '';
  const choose = (id: string) => {
    if (id === '') return put(null);
    const other = others.find((p) => p.id === id);
    if (hasPoints(other)) return put({ to: 'point', path: id, point: other.source.points[0].id });
    const p = engine().state.result.arrangements.get(id)?.placements;
    const row = p ? p.state.indexOf(STATE.placed) : -1;
    if (!p || row < 0) return undefined;
    return put({
      to: 'slot',
      arrangement: id,
      slot: slotName(p.slot[row]),
      snap: snapsOf(scene, p.props)[0] ?? null,
    });
  };
  const slots = placements
    ? [...placements.slot.keys()].filter((i) => placements.state[i] === STATE.placed).slice(0, 2000)
    : [];
  const target = scene.paths.find((p) => tie?.to === 'point' && p.id === tie.path);
  return (
    <div role="group" aria-label="Connected" className="mt-1.5">
      <Choice
        label="Connected to"
        hint={`The ${what} goes with it from then on`}
        value={chosen}
        options={[
          { value: '', text: 'Nothing' },
          ...scene.arrangements.map((a) => ({ value: a.id, text: a.name })),
          ...others.map((p) => ({ value: p.id, text: p.name })),
        ]}
        none="Missing"
        onChange={choose}
      />
      {tie?.to === 'slot' && (
        <>
          <Choice
            label="Which of them"
            hint="By the number of its slot"
            value={tie.slot}
            options={slots.map((i) => {
              const name = slotName(placements!.slot[i]);
              return { value: name, text: `#${name}` };
            })}
            none={`#${tie.slot}, missing`}
            onChange={(slot) => put({ ...tie, slot })}
          />
          <Choice
            label="At its"
            hint="The snap point of the prop, or its foot"
            value={tie.snap ?? ''}
            options={[
              { value: '', text: 'foot' },
              ...snapsOf(scene, placements?.props ?? []).map((name) => ({ value: name, text: name })),
            ]}
            none={`${tie.snap}, missing`}
            onChange={(snap) => put({ ...tie, snap: snap === '' ? null : snap })}
          />
        </>
      )}
      {tie?.to === 'point' && hasPoints(target) && (
        <Choice
          label="At its point"
          hint="By its number along the path"
          value={tie.point}
          options={target.source.points.slice(0, 2000).map((p, i) => ({ value: p.id, text: `${i + 1}` }))}
          none="Missing"
          onChange={(id) => put({ ...tie, point: id })}
        />
      )}
      {tie && (
        <div className="mt-1 flex gap-1.5">
          <Button
            look="bordered"
            title={`The ${what} stays where it is, and goes with nothing any more`}
            onClick={() => put(null)}
          >
            Let go
          </Button>
          <Button title="Takes in hand what it is connected to" onClick={() => goTo(tie)}>
            Show it
          </Button>
        </div>
      )}
    </div>
  );
}

function goTo(tie: Tie): void {
  if (tie.to === 'point') return selectNode('path', tie.path);
  selectArrangement(tie.arrangement);
  selectSlots(tie.arrangement, [parseSlotName(tie.slot)]);
}

/** Names of the snap points of some props. */
const snapsOf = (scene: Scene, props: readonly string[]): string[] => [
  ...new Set(
    props.flatMap((id) => scene.props.find((p) => p.id === id)?.snapPoints.map((s) => s.name) ?? []),
  ),
];
