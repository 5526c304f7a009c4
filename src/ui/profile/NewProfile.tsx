import { useEffect, useRef, useState, type PointerEvent } from 'react';
import type { ProfilePoint } from '@/store/commands/profiles';
import type { ProfilePlan } from './profile';

/** A click so near the first place closes the profile, pixels. */
const NEAR = 9;

const corner = (at: [number, number]): ProfilePoint => ({ at, kind: 'corner' });

/** A profile while its places are clicked. Enter closes it, Escape lets it go, Backspace takes the last place back. */
export function NewProfile(props: {
  size: { width: number; height: number };
  plan: ProfilePlan;
  /** With no points: it was let go of. */
  onDone: (points: ProfilePoint[]) => void;
}) {
  const { size, plan, onDone } = props;
  const [places, setPlaces] = useState<[number, number][]>([]);
  const now = useRef({ places, onDone });
  useEffect(() => {
    now.current = { places, onDone };
  });
  useEffect(() => {
    const keys = (e: globalThis.KeyboardEvent) => {
      if (e.key === 'Enter') now.current.onDone(now.current.places.map(corner));
      else if (e.key === 'Escape') now.current.onDone([]);
      else if (e.key === 'Backspace') setPlaces((all) => all.slice(0, -1));
      else return;
      e.preventDefault();
      e.stopPropagation();
    };
    addEventListener('keydown', keys, true);
    return () => removeEventListener('keydown', keys, true);
  }, []);
  const press = (e: PointerEvent<SVGRectElement>) => {
    if (e.button !== 0) return;
    const box = e.currentTarget.getBoundingClientRect();
    const [px, py] = [e.clientX - box.left, e.clientY - box.top];
    if (places.length > 2) {
      const [x, y] = plan.at(...places[0]);
      if (Math.hypot(px - x, py - y) < NEAR) return onDone(places.map(corner));
    }
    const at = plan.back(px, py).map((v) => Number(v.toFixed(4))) as [number, number];
    return setPlaces((all) => [...all, at]);
  };
  const drawn = places.map((p) => plan.at(...p));
  return (
    <>
      <rect {...size} fill="transparent" className="cursor-crosshair" onPointerDown={press} />
      {drawn.length > 1 && (
        <path
          d={`M${drawn.map((p) => p.join(' ')).join('L')}`}
          fill="none"
          stroke="var(--color-madder)"
          strokeWidth={1.6}
          pointerEvents="none"
        />
      )}
      {drawn.map(([x, y], i) => (
        <circle key={i} cx={x} cy={y} r={i === 0 ? 5 : 3.5} fill="var(--color-madder)" pointerEvents="none" />
      ))}
    </>
  );
}
