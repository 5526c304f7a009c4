import { useRef, type KeyboardEvent, type PointerEvent } from 'react';

const SIZE = 132;
const RIM = 56;
const STEP = 2;

/** The dome of the sky from below its middle: north is up, the horizon is the rim. */
export function SunPad({
  compassDeg,
  heightDeg,
  onMove,
}: {
  compassDeg: number;
  heightDeg: number;
  onMove: (values: { compassDeg: number; heightDeg: number }, key?: string) => void;
}) {
  const drag = useRef<string | null>(null);
  const a = (compassDeg * Math.PI) / 180;
  // Below the horizon it waits at the rim.
  const r = RIM * (1 - Math.max(0, Math.min(90, heightDeg)) / 90);
  const [x, y] = [SIZE / 2 + Math.sin(a) * r, SIZE / 2 - Math.cos(a) * r];
  const moveTo = (e: PointerEvent<SVGSVGElement>) => {
    const box = e.currentTarget.getBoundingClientRect();
    const [dx, dy] = [e.clientX - box.left - box.width / 2, e.clientY - box.top - box.height / 2];
    const away = Math.min(1, (Math.hypot(dx, dy) * SIZE) / box.width / RIM);
    const compass = (Math.atan2(dx, -dy) * 180) / Math.PI;
    onMove(
      { compassDeg: Math.round((compass + 360) % 360), heightDeg: Math.round(90 * (1 - away)) },
      drag.current ?? undefined,
    );
  };
  const onKey = (e: KeyboardEvent) => {
    const by = { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] }[e.key];
    if (!by) return;
    e.preventDefault();
    onMove(
      {
        compassDeg: (compassDeg + by[0] * STEP + 360) % 360,
        heightDeg: Math.min(90, Math.max(-90, heightDeg + by[1] * STEP)),
      },
      'sun keys',
    );
  };
  return (
    <svg
      viewBox={`0 0 ${SIZE} ${SIZE}`}
      width={SIZE}
      height={SIZE}
      role="slider"
      tabIndex={0}
      aria-label="Where the sun stands"
      aria-valuenow={Math.round(compassDeg)}
      aria-valuetext={`${Math.round(compassDeg)}° from north, ${Math.round(heightDeg)}° high`}
      className="mx-auto my-1 cursor-crosshair touch-none rounded-full focus-visible:outline-2"
      onPointerDown={(e) => {
        e.currentTarget.setPointerCapture(e.pointerId);
        drag.current = `sun drag ${e.timeStamp}`;
        moveTo(e);
      }}
      onPointerMove={(e) => drag.current && moveTo(e)}
      onPointerUp={() => void (drag.current = null)}
      onPointerCancel={() => void (drag.current = null)}
      onKeyDown={onKey}
    >
      <title>Drag the sun over the dome of the sky; arrow keys move it too</title>
      {[1, 2 / 3, 1 / 3].map((k) => (
        <circle key={k} cx={SIZE / 2} cy={SIZE / 2} r={RIM * k} className="fill-well stroke-edge" />
      ))}
      {['N', 'E', 'S', 'W'].map((text, i) => (
        <text
          key={text}
          x={SIZE / 2 + Math.sin((i * Math.PI) / 2) * (RIM + 6)}
          y={SIZE / 2 - Math.cos((i * Math.PI) / 2) * (RIM + 5) + 3.5}
          textAnchor="middle"
          className="fill-soft text-[10px]"
        >
          {text}
        </text>
      ))}
      <line x1={SIZE / 2} y1={SIZE / 2} x2={x} y2={y} className="stroke-edge" />
      <circle
        cx={x}
        cy={y}
        r={7}
        className={`stroke-ink-900 ${heightDeg < 0 ? 'fill-ink-900' : 'fill-weld'}`}
      />
    </svg>
  );
}
