'use client';

import type { Finding } from '@/core/arrange/result';
import { lerp } from '@/core/math/vec3';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { metres } from '@/words/numbers';
import { INK, LINEN, THREAD_COLORS } from '../colors';
import type { ViewHandle } from '../handle';
import { toScreen } from '../project';
import { Tag } from './Tag';
import { useFrames } from './useFrames';

/** More tags than this would cover each other. */
const MOST_TAGS = 12;

/** Where the selected surface or arrangement has what its findings tell of: edges that are not closed, lines that nearly meet. */
export function FindingMarks() {
  const view = useFrames();
  const node = useSelection((s) => s.node);
  const findings = useEngine((s) =>
    node?.kind === 'surface' || node?.kind === 'arrangement'
      ? s.result[`${node.kind}s`].get(node.id)?.findings
      : undefined,
  );
  const units = useDocument((s) => s.scene.units);
  const marked = findings?.filter((f) => f.marks?.length) ?? [];
  if (!view || marked.length === 0) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 size-full" role="group" aria-label="What was found">
      {marked.map((f, i) => (
        <Marks key={i} view={view} finding={f} units={units} />
      ))}
    </svg>
  );
}

function Marks({
  view,
  finding: { marks = [], amounts },
  units,
}: {
  view: ViewHandle;
  finding: Finding;
  units: 'm' | 'cm';
}) {
  return marks.map((mark, i) => {
    const at = mark.map((place) => toScreen(view, place));
    if (at.some((p) => !p.ahead)) return null;
    const d = at.map((p, k) => `${k ? 'L' : 'M'}${p.x} ${p.y}`).join('');
    const text = amounts && metres(amounts[i], units, 3);
    // A lone place, or a line that is told by its length, may be too small to be seen by itself.
    const middle = mark.length === 1 || text ? toScreen(view, lerp(mark[0], mark.at(-1)!, 0.5)) : null;
    return (
      <g key={i} role="img" aria-label={text ? `${text} apart` : 'Found here'}>
        <path d={d} fill="none" stroke={LINEN} strokeWidth={5} strokeLinecap="round" opacity={0.85} />
        <path d={d} fill="none" stroke={THREAD_COLORS.madder} strokeWidth={2.4} strokeLinecap="round" />
        {middle && (
          <>
            <circle cx={middle.x} cy={middle.y} r={11} fill="none" stroke={LINEN} strokeWidth={4.5} />
            <circle
              cx={middle.x}
              cy={middle.y}
              r={11}
              fill="none"
              stroke={THREAD_COLORS.madder}
              strokeWidth={2}
            />
            <circle cx={middle.x} cy={middle.y} r={1.6} fill={INK} />
          </>
        )}
        {middle && text && marks.length <= MOST_TAGS && (
          <Tag mark={middle} view={view.size} side="above" text={text} />
        )}
      </g>
    );
  });
}
