'use client';

import { useEffect, useState } from 'react';
import type { Cost } from '@/core/formats/cost';
import { engine, useEngine } from '@/store/engine';
import { useDocument } from '@/store/document';
import { selectNodes } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { asBytes, plural, whole } from '@/words/numbers';
import { BesidePanel, Pill } from '../controls/BesidePanel';

type By = 'triangles' | 'memory' | 'file';
const BYS: { by: By; text: string; hint: string }[] = [
  { by: 'triangles', text: 'Triangles', hint: 'That are drawn when all is drawn in full' },
  { by: 'memory', text: 'Memory', hint: 'What is held for it here' },
  { by: 'file', text: 'File', hint: 'About what it takes of a .glb with instances' },
];
const OF: Record<Cost['of'], string> = { arrangement: 'Arrangements', prop: 'Props', surface: 'Surfaces' };

const show = (cost: number, by: By): string => (by === 'triangles' ? whole(cost) : asBytes(cost));

/** What all that is shown costs, the worst first. A click selects it. */
export function Costs() {
  const result = useEngine((s) => s.result);
  const busy = useEngine((s) => s.busy);
  const [costs, setCosts] = useState<readonly Cost[] | null>(null);
  const [by, setBy] = useState<By>('triangles');
  useEffect(() => {
    if (busy) return;
    let wanted = true;
    void engine()
      .costs()
      .then((c) => wanted && setCosts(c))
      // A worker that was stopped takes the question along: the next result asks anew.
      .catch(() => undefined);
    return () => void (wanted = false);
  }, [result, busy]);
  // A mesh that many use is sent once: its prop's. What is drawn is an arrangement's, and told once.
  const all = (costs ?? []).filter((c) => by !== 'triangles' || c.of !== 'prop');
  const total = all.reduce((sum, c) => sum + c[by], 0);
  return (
    <BesidePanel
      name="What things cost"
      title="Cost"
      said={costs ? `${show(total, by)}${by === 'triangles' ? ' triangles' : ''} in all` : 'Counting …'}
    >
      <div role="group" aria-label="By" className="flex flex-wrap gap-1 border-b border-edge px-3 py-1.5">
        {BYS.map((b) => (
          <Pill key={b.by} pressed={by === b.by} hint={b.hint} onClick={() => setBy(b.by)}>
            {b.text}
          </Pill>
        ))}
      </div>
      <div className="thin-scroll min-h-0 flex-1 overflow-y-auto px-2 py-1.5">
        {(Object.keys(OF) as Cost['of'][]).map((of) => (
          <Sort key={of} title={OF[of]} costs={(costs ?? []).filter((c) => c.of === of)} by={by} />
        ))}
      </div>
    </BesidePanel>
  );
}

function Sort({ title, costs, by }: { title: string; costs: Cost[]; by: By }) {
  const scene = useDocument((s) => s.scene);
  if (costs.length === 0) return null;
  const sorted = [...costs].sort((a, b) => b[by] - a[by]);
  const most = Math.max(1, sorted[0][by]);
  return (
    <section aria-label={title} className="mb-2">
      <h3 className="px-1 py-0.5 text-[12.5px] font-semibold text-soft">{title}</h3>
      <ul>
        {sorted.map((c) => {
          const a = scene.arrangements.find((x) => x.id === c.id);
          const node = a ?? [...scene.props, ...scene.surfaces].find((x) => x.id === c.id);
          if (!node) return null;
          const color = a ? THREAD_COLORS[a.thread] : 'var(--color-linen-400)';
          return (
            <li key={c.id}>
              <button
                type="button"
                title={`Select “${node.name}”`}
                onClick={() => selectNodes([{ kind: c.of, id: c.id }])}
                className="grid w-full grid-cols-[1fr_auto] gap-x-2 rounded-md px-1.5 py-1 text-left text-[13px] hover:bg-well"
              >
                <span className="truncate">{node.name}</span>
                <span className="num text-[12.5px]">{show(c[by], by)}</span>
                <span aria-hidden className="col-span-2 my-0.5 h-1 rounded-full bg-groove">
                  <span
                    className="block h-full rounded-full"
                    style={{ width: `${(c[by] / most) * 100}%`, background: color }}
                  />
                </span>
                {c.of !== 'surface' && (
                  <span className="col-span-2 text-[12px] text-soft">
                    {c.of === 'prop' ? `placed ${plural(c.placed, 'time')}` : plural(c.placed, 'prop')}
                  </span>
                )}
              </button>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
