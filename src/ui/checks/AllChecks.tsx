'use client';

import { CircleCheck } from 'lucide-react';
import { useState } from 'react';
import { aboutOf } from '@/core/arrange/asWanted';
import type { Finding } from '@/core/arrange/result';
import { setAsWanted } from '@/store/commands/mends';
import { dispatch, useDocument } from '@/store/document';
import { sentence } from '@/words/findings';
import { plural } from '@/words/numbers';
import { BesidePanel, Pill } from '../controls/BesidePanel';
import { FindingLine } from './FindingLine';
import { useFindings, type Told } from './findings';
import { mendsOf } from './mends';

/** What sorts of findings are called where they are chosen among. */
const SORTS: Partial<Record<Finding['kind'], string>> = {
  doubled: 'Doubled',
  overlap: 'Overlaps',
  through: 'Through surfaces',
  'too-tight': 'Too tight',
  buried: 'Buried',
  floating: 'Floating',
  'ground-missed': 'Missed',
};
const sortOf = ({ kind }: Finding) => SORTS[kind] ?? 'Others';

const MOST = 200;

/** All that checks have found in the scene, the worst first, each with its ways to mend it. The scene stays in sight. */
export function AllChecks() {
  const { told, aside, looking } = useFindings();
  const [only, setOnly] = useState<string | null>(null);
  const counts = new Map<string, number>();
  for (const { finding } of told) counts.set(sortOf(finding), (counts.get(sortOf(finding)) ?? 0) + 1);
  const chosen = only !== null && counts.has(only) ? only : null;
  const list = told.filter(({ finding }) => chosen === null || sortOf(finding) === chosen);
  return (
    <BesidePanel
      name="Checks of the scene"
      title="Checks"
      said={
        looking ? 'Looking …' : told.length > 0 ? `${plural(told.length, 'thing')} to look at` : 'All well'
      }
    >
      {counts.size > 1 && (
        <div role="group" aria-label="Only" className="flex flex-wrap gap-1 border-b border-edge px-3 py-1.5">
          {[...counts].map(([sort, count]) => (
            <Pill
              key={sort}
              pressed={chosen === sort}
              hint={chosen === sort ? 'All of them again' : `Only these: ${sort.toLowerCase()}`}
              onClick={() => setOnly(chosen === sort ? null : sort)}
            >
              {sort} <span className="num">{count}</span>
            </Pill>
          ))}
        </div>
      )}
      <div className="thin-scroll min-h-0 flex-1 overflow-y-auto px-2 py-1.5">
        {told.length === 0 && !looking && (
          <p className="flex items-start gap-2 p-1 text-[13px] text-good">
            <CircleCheck size={15} className="mt-0.5 shrink-0" /> All that is shown was held against all:
            nothing reaches into anything else, goes into the ground, or hangs over it.
          </p>
        )}
        <ul className="flex flex-col gap-1.5">
          {list.slice(0, MOST).map((t, i) => (
            <One key={`${t.node.id} ${t.finding.kind} ${aboutOf(t.finding)} ${i}`} told={t} />
          ))}
        </ul>
        {list.length > MOST && (
          <p className="p-1 text-[12.5px] text-soft">
            {plural(list.length - MOST, 'further one')} when these are mended, or by their sort.
          </p>
        )}
        {aside.length > 0 && (
          <details className="mt-2 border-t border-edge pt-1.5 text-[12.5px] text-soft">
            <summary className="cursor-pointer p-1">{plural(aside.length, 'check')} as wanted</summary>
            <ul>
              {aside.map((t) => (
                <Aside key={`${t.node.id} ${t.finding.kind} ${aboutOf(t.finding)}`} told={t} why={t.why} />
              ))}
            </ul>
          </details>
        )}
      </div>
    </BesidePanel>
  );
}

/** One finding with what it is of, and what mends it. */
function One({ told: { node, name, color, a, finding: f } }: { told: Told }) {
  const readOnly = useDocument((s) => s.readOnly !== null);
  const [asked, setAsked] = useState(false);
  const mends = readOnly || !a ? [] : mendsOf(a, f);
  return (
    <li className="rounded-lg bg-well px-1.5 py-1">
      <p className="flex items-center gap-1.5 px-1 text-[12.5px] font-semibold">
        <span className="size-2.5 rounded-full" style={{ background: color }} aria-hidden />
        <span className="min-w-0 truncate">{name}</span>
      </p>
      <FindingLine of={node} finding={f} isMended />
      {!readOnly && (
        <div className="flex flex-wrap gap-1 px-1 pb-1">
          {mends.map(({ text, hint, run }) => (
            <Way key={text} text={text} hint={hint} onClick={run} />
          ))}
          {a && f.severity !== 'error' && (
            <Way
              text="As I want it …"
              hint="It is told no more; the reason is kept"
              onClick={() => setAsked(!asked)}
            />
          )}
        </div>
      )}
      {asked && <Why onSay={(why) => say(node.id, f, why)} onLeave={() => setAsked(false)} />}
    </li>
  );
}

const say = (id: string, f: Finding, why: string | null) =>
  void dispatch(setAsWanted, { id, finding: f.kind, about: aboutOf(f), why });

/** Asks for the reason. */
function Why({ onSay, onLeave }: { onSay: (why: string) => void; onLeave: () => void }) {
  const [text, setText] = useState('');
  return (
    <form
      className="flex gap-1 px-1 pb-1"
      onSubmit={(e) => {
        e.preventDefault();
        onSay(text.trim().slice(0, 500));
      }}
    >
      <input
        autoFocus
        aria-label="Why it is so"
        placeholder="Why, if you like"
        value={text}
        onChange={(e) => setText(e.target.value)}
        onKeyDown={(e) => {
          if (e.key !== 'Escape') return;
          e.stopPropagation();
          onLeave();
        }}
        className="h-7 min-w-0 flex-1 rounded-md border border-edge bg-card px-2 text-[12.5px]"
      />
      <button type="submit" className="rounded-md border border-edge px-2 text-[12.5px] hover:bg-groove">
        Keep it so
      </button>
    </form>
  );
}

function Aside({ told: { node, name, finding: f }, why }: { told: Told; why: string }) {
  const scene = useDocument((s) => s.scene);
  return (
    <li className="flex items-start justify-between gap-2 p-1" title={sentence(f, scene)}>
      <span className="min-w-0">
        {name}: {sortOf(f).toLowerCase()}
        {why && <span className="block text-text">“{why}”</span>}
      </span>
      <Way text="Mind it" hint="It is told again" onClick={() => say(node.id, f, null)} />
    </li>
  );
}

function Way({ text, hint, onClick }: { text: string; hint: string; onClick: () => void }) {
  return (
    <button
      type="button"
      title={hint}
      onClick={onClick}
      className="shrink-0 rounded-md border border-edge bg-card px-1.5 py-0.5 text-[12px] hover:bg-groove"
    >
      {text}
    </button>
  );
}
