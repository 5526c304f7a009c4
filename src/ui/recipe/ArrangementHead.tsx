'use client';

import { Link2, TriangleAlert } from 'lucide-react';
import { memo } from 'react';
import { wantedSo } from '@/core/arrange/asWanted';
import { THREADS } from '@/core/arrange/base';
import type { Arrangement } from '@/core/arrange/registry';
import { setArrangement } from '@/store/commands/arrangements';
import { leaveRecipe, sharing } from '@/store/commands/recipes';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { PlainMenu } from '../controls/PlainMenu';
import { uiOf } from '../kinds/registry';
import { arrangementEntries } from '../menus/entries';
import { plural, whole } from '@/words/numbers';
import { OnTop } from './OnTop';
import { RenameField } from './RenameField';

/** Above the recipe of every kind: its thread, its name, what is done with it as a whole, and how many there are. */
export function ArrangementHead({ arrangement: a }: { arrangement: Arrangement }) {
  const scene = useDocument((s) => s.scene);
  const result = useEngine((s) => s.result.arrangements.get(a.id));
  const { title, detail, holds } = uiOf(a);
  const placed = result?.counts.placed ?? 0;
  const gaps = (result?.placements.count ?? 0) - placed;
  const checks = useEngine((s) => s.checks.get(a.id));
  const findings = [...(result?.findings ?? []), ...(checks ?? [])].filter(
    (f) => wantedSo(a, f) === undefined,
  );
  const said = holds?.(a) ?? detail?.(a, placed, scene);
  const broken = findings.some((f) => f.severity === 'error');
  return (
    <div className="border-b border-edge px-3 pb-2.5 pt-3">
      <div className="flex items-center gap-2">
        <ThreadDot arrangement={a} />
        <RenameField
          name={a.name}
          label={`Name of the ${title.toLowerCase()}`}
          onRename={(name) => dispatch(setArrangement, { id: a.id, values: { name } })}
        />
        <ArrangementMenu arrangement={a} />
      </div>
      <p className="mt-1.5 flex gap-3.5 text-[13px] text-soft" aria-live="polite" data-testid="counts">
        {said ?? (
          <>
            <span>
              <b className="num text-text">{whole(placed)}</b> placed
            </span>
            <span>
              <b className="num text-text">{whole(gaps)}</b> {gaps === 1 ? 'gap' : 'gaps'}
            </span>
          </>
        )}
        {findings.length > 0 && (
          <span className={`flex items-center gap-1 ${broken ? 'text-danger' : 'text-caution'}`}>
            <TriangleAlert size={13} />
            {plural(findings.length, 'check')}
          </span>
        )}
      </p>
      <Sharing arrangement={a} />
      <OnTop arrangement={a} />
    </div>
  );
}

/** With how many others it shares its recipe, and the way out of that. */
const Sharing = memo(function Sharing({ arrangement: a }: { arrangement: Arrangement }) {
  const arrangements = useDocument((s) => s.scene.arrangements);
  const others = sharing({ arrangements }, a.id).filter((x) => x.id !== a.id);
  if (others.length === 0) return null;
  return (
    <p className="mt-1 flex items-center gap-1.5 text-[12.5px] text-soft">
      <Link2 size={13} aria-hidden />
      <span className="min-w-0 flex-1 truncate" title={others.map((o) => o.name).join(', ')}>
        One recipe with {others.length === 1 ? others[0].name : plural(others.length, 'other')}
      </span>
      <button
        type="button"
        title="It goes on by a recipe of its own, as it is now"
        className="rounded px-1 hover:bg-groove hover:text-text"
        onClick={() => dispatch(leaveRecipe, { id: a.id })}
      >
        Leave it
      </button>
    </p>
  );
});

/** Everything that is done with an arrangement as a whole. */
const ArrangementMenu = memo(function ArrangementMenu({ arrangement: a }: { arrangement: Arrangement }) {
  return (
    <PlainMenu name={`More for this ${uiOf(a).title.toLowerCase()}`} entries={() => arrangementEntries(a)} />
  );
});

/** The thread; a click takes the next dye. */
const ThreadDot = memo(function ThreadDot({ arrangement: a }: { arrangement: Arrangement }) {
  const next = THREADS[(THREADS.indexOf(a.thread) + 1) % THREADS.length];
  return (
    <button
      type="button"
      aria-label={`Thread: ${a.thread}. Change to ${next}`}
      title={`Thread: ${a.thread}. Click for ${next}`}
      onClick={() => dispatch(setArrangement, { id: a.id, values: { thread: next } })}
      className="size-[15px] shrink-0 rounded-full"
      style={{ background: THREAD_COLORS[a.thread] }}
    />
  );
});
