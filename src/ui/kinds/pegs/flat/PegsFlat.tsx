'use client';

import { allPegs } from '@/core/arrange/pegs/blocks';
import { useState, type PointerEvent } from 'react';
import { pegNumber, type Peg, type Pegs } from '@/core/arrange/pegs/schema';
import { movePegs, setPeg } from '@/store/commands/pegs';
import { dispatch, useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { quatRotate } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { selectSlots, setHover, useSelection } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { dragGesture } from '@/view/dragGesture';
import { standingNow } from '../recipe/pegMoves';
import { useSize } from '../../../flat/useSize';
import { FlatHead, HeadWords } from '../../../flat/FlatHead';

/** So many pegs can all be taken hold of; of more only those about the pointer, in pixels. */
const ALL_LIVE = 1000;
const REACH = 24;

/** Pegs from above, with the paths for bearings; each is dragged in the plan. */
export function PegsFlat({ arrangement: a }: { arrangement: Pegs }) {
  const [frame, size] = useSize();
  const readOnly = useDocument((s) => s.readOnly !== null);
  const paths = useEngine((s) => s.result.paths);
  const chosen = useSelection((s) => (s.slots?.arrangement === a.id ? s.slots.ids : null));
  const hover = useSelection((s) => (s.hover?.arrangement === a.id ? s.hover.slot : null));
  const [pointer, setPointer] = useState<[number, number] | null>(null);
  const [held, setHeld] = useState<[number, number, number, number] | null>(null);
  // The result moves with the surfaces; what is drawn follows it.
  useEngine((s) => s.result.arrangements.get(a.id));
  const standing = standingNow(a, allPegs(a.pegs));
  const own: [number, number, number, number] = standing.reduce(
    (b, { position: [x, , z] }) => [
      Math.min(b[0], x),
      Math.max(b[1], x),
      Math.min(b[2], z),
      Math.max(b[3], z),
    ],
    [Infinity, -Infinity, Infinity, -Infinity] as [number, number, number, number],
  );
  // While one is dragged the plan stays as it was.
  const [x0, x1, z0, z1] = held ?? own;
  const k = Math.min(
    60,
    (size.width - 60) / Math.max(0.5, x1 - x0),
    (size.height - 40) / Math.max(0.5, z1 - z0),
  );
  const at = (x: number, z: number) => [
    size.width / 2 + (x - (x0 + x1) / 2) * k,
    size.height / 2 + (z - (z0 + z1) / 2) * k,
  ];
  const color = THREAD_COLORS[a.thread];
  const those = new Set(chosen);
  const many = standing.length > ALL_LIVE;
  // Of many, all are dots; those about the pointer, and what is chosen, can be taken hold of.
  const dots = many
    ? `M${standing
        .map(
          ({ position: [x, , z] }) =>
            `${at(x, z)
              .map((v) => v.toFixed(1))
              .join(' ')}h0`,
        )
        .join('M')}`
    : '';
  // As wide as leaves air between them where they are spread evenly.
  const wide = Math.min(5, Math.max(1, 0.6 * k * Math.sqrt(((x1 - x0) * (z1 - z0)) / standing.length)));
  const away = ({ position: [x, , z] }: (typeof standing)[number]) => {
    const [px, py] = at(x, z);
    return pointer ? Math.hypot(px - pointer[0], py - pointer[1]) : Infinity;
  };
  // The nearest lies on top.
  const live = many
    ? standing
        .filter((s) => those.has(pegNumber(s.peg.id)) || pegNumber(s.peg.id) === hover || away(s) < REACH)
        .slice(0, ALL_LIVE)
        .sort((a, b) => away(b) - away(a))
    : standing;
  const grab =
    (peg: Peg, [px, py, pz]: [number, number, number]) =>
    (e: PointerEvent<SVGElement>) => {
      if (e.button !== 0 || readOnly) return;
      e.preventDefault();
      const { id } = peg;
      selectSlots(a.id, [pegNumber(id)]);
      setHeld(own);
      const key = `peg ${id}`;
      let over = false;
      const move = (m: globalThis.PointerEvent) => {
        const to: Vec3 = [
          Number((px + (m.clientX - e.clientX) / k).toFixed(4)),
          py,
          Number((pz + (m.clientY - e.clientY) / k).toFixed(4)),
        ];
        if (!peg.pin) return void dispatch(movePegs, { id: a.id, to: { [id]: to } }, key);
        // A pinned one keeps to its surface: it is pinned to what lies under the place.
        const [{ rotation }] = standingNow(a, [peg]);
        const { lift, lean } = peg.pin;
        void engine()
          .pinPlaces([{ at: to, front: quatRotate(rotation, [0, 0, 1]), lift, lean }], 'down')
          .then(([pin]) => {
            if (pin && !over) dispatch(setPeg, { id: a.id, peg: id, values: { pin, position: to } }, key);
          });
      };
      dragGesture(e, key, move, () => {
        over = true;
        setHeld(null);
      });
    };
  return (
    <div className="flex h-full flex-col">
      <FlatHead title="Plan">
        <HeadWords words={`${a.name}, from above. Drag a peg to move it.`} />
      </FlatHead>
      <div ref={frame} className="relative min-h-0 flex-1 overflow-hidden" data-testid="plan">
        {standing.length > 0 && size.width > 0 && k > 0 && (
          <svg
            width={size.width}
            height={size.height}
            className="absolute inset-0 block"
            onPointerMove={(e) => {
              if (!many || e.buttons > 0) return;
              const { left, top } = e.currentTarget.getBoundingClientRect();
              setPointer([e.clientX - left, e.clientY - top]);
            }}
          >
            {[...paths.values()].flatMap((p) =>
              p.strokes.map((s, i) => {
                const d = Array.from({ length: s.s.length }, (_, n) =>
                  at(s.position[n * 3], s.position[n * 3 + 2])
                    .map((v) => v.toFixed(1))
                    .join(' '),
                );
                return <path key={`${p.id} ${i}`} d={`M${d.join('L')}`} fill="none" stroke="var(--edge)" />;
              }),
            )}
            {many && <path d={dots} fill="none" stroke={color} strokeWidth={wide} strokeLinecap="round" />}
            {live.map(({ peg, position }) => {
              const [x, y] = at(position[0], position[2]);
              const slot = pegNumber(peg.id);
              const lit = those.has(slot) || hover === slot;
              return (
                <circle
                  key={peg.id}
                  role="button"
                  tabIndex={0}
                  aria-label={`Peg ${slot}`}
                  cx={x}
                  cy={y}
                  r={lit ? 7 : many ? wide / 2 : 5}
                  fill={lit ? 'var(--text)' : color}
                  // Among many a clear rim is what the pointer takes hold of.
                  stroke={many && !lit ? 'transparent' : 'var(--paper)'}
                  strokeWidth={many && !lit ? 6 : 1.5}
                  className="cursor-move touch-none"
                  onPointerDown={grab(peg, position)}
                  onPointerEnter={() => setHover({ arrangement: a.id, slot })}
                  onPointerLeave={() => setHover(null)}
                />
              );
            })}
          </svg>
        )}
      </div>
    </div>
  );
}
