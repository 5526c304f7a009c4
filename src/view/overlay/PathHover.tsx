'use client';

import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { INK, LINEN } from '../colors';
import { inTurns, metres } from '@/words/numbers';
import { toScreen } from '../project';
import { useView } from '../viewState';
import { screenLine } from './lines';
import { Tag } from './Tag';
import { tagSize } from './tag';
import { useFrames } from './useFrames';

/** Pixels between arrows. */
const APART = 84;

/** The path under the pointer: which way it runs, how long it is, how much it turns, its tightest bend. */
export function PathHover() {
  const view = useFrames();
  const id = useSelection((s) => s.overPath);
  const tool = useView((s) => s.tool);
  const name = useDocument((s) => id && s.scene.paths.find((p) => p.id === id)?.name);
  const units = useDocument((s) => s.scene.units);
  const result = useEngine((s) => (id ? s.result.paths.get(id) : undefined));
  if (!view || !result?.ok || tool !== 'pick') return null;
  const arrows: { x: number; y: number; angle: number }[] = [];
  for (const { position } of result.strokes) {
    let since = APART / 2;
    let last: { x: number; y: number } | null = null;
    for (let i = 0; i + 2 < position.length; i += 3) {
      const p = toScreen(view, [position[i], position[i + 1], position[i + 2]]);
      if (last && p.ahead) {
        const [dx, dy] = [p.x - last.x, p.y - last.y];
        const long = Math.hypot(dx, dy);
        for (; since <= long && long > 0 && arrows.length < 300; since += APART)
          arrows.push({
            x: last.x + (dx * since) / long,
            y: last.y + (dy * since) / long,
            angle: (Math.atan2(dy, dx) * 180) / Math.PI,
          });
        since -= long;
      }
      last = p.ahead ? p : null;
    }
  }
  const text = `${name} · ${metres(result.length, units)} · ${bends(result, units)}`;
  const [first] = result.strokes[0].position.length
    ? [toScreen(view, [...result.strokes[0].position.slice(0, 3)])]
    : [];
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
      {arrows.map((a, i) => (
        <path
          key={i}
          d="M-5 -5L5 0L-5 5z"
          transform={`translate(${a.x} ${a.y}) rotate(${a.angle})`}
          fill={INK}
          stroke={LINEN}
          strokeWidth={1.2}
        />
      ))}
      {first?.ahead && (
        <circle cx={first.x} cy={first.y} r={4.5} fill={LINEN} stroke={INK} strokeWidth={1.6} />
      )}
      <Tag
        mark={{ x: (view.size.width - tagSize(text).width) / 2, y: view.size.height - 86 }}
        view={view.size}
        text={text}
      />
    </svg>
  );
}

/** "1.25 turns · tightest 0.80 m" */
function bends({ turns, tightest }: { turns: number; tightest: number }, units: 'm' | 'cm'): string {
  const turned = inTurns(turns);
  if (tightest === 0) return `${turned} · sharp corner`;
  return Number.isFinite(tightest) ? `${turned} · tightest ${metres(tightest, units)}` : 'straight';
}

/** What tools mark over the scene: the box that takes points in, and the edge loop under the pointer. */
export function ToolMarks() {
  const view = useFrames();
  const box = useView((s) => s.box);
  const edge = useView((s) => s.edge);
  if (!view || (!box && !edge)) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" aria-hidden>
      {edge && (
        <path data-edge d={screenLine(view, edge.line)} fill="none" stroke="#B4472F" strokeWidth={3} />
      )}
      {box && (
        <rect
          x={Math.min(box.x, box.x1)}
          y={Math.min(box.y, box.y1)}
          width={Math.abs(box.x1 - box.x)}
          height={Math.abs(box.y1 - box.y)}
          fill={INK}
          fillOpacity={0.07}
          stroke={INK}
          strokeDasharray="4 4"
        />
      )}
    </svg>
  );
}
