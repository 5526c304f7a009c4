'use client';

import { hasPoints, type PathSource } from '@/core/curve/schema';
import { setPath } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { pathEntries } from '../../menus/entries';
import { sentence } from '@/words/findings';
import { inTurns, metres, plural } from '@/words/numbers';
import { NodeHead } from './NodeHead';
import { Hanging } from './path/Hanging';
import { EditButtons } from './path/EditButtons';
import { LiesOn } from './path/LiesOn';
import { MadeFrom } from './path/MadeFrom';
import { PointList } from './path/PointList';

const KINDS: Record<PathSource['kind'], string> = {
  points: '',
  generator: 'generated, live',
  mesh: 'from a surface, live',
  sheet: 'lines of a sheet',
  lines: 'lines of strands, live',
  offset: 'an offset, live',
};

/** A path: what it is made from, how it bends, its edits, and its points by numbers. */
export function PathPanel({ id }: { id: string }) {
  const scene = useDocument((s) => s.scene);
  const path = scene.paths.find((p) => p.id === id);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const result = useEngine((s) => s.result.paths.get(id));
  const checks = useEngine((s) => s.checks.get(id));
  if (!path) return null;
  const own = hasPoints(path);
  const count = own ? plural(path.source.points.length, 'point') : KINDS[path.source.kind];
  const strokes = result?.strokes.length ?? 1;
  return (
    <>
      <NodeHead
        name={path.name}
        kind="path"
        color="var(--soft)"
        detail={`${result?.ok ? metres(result.length, scene.units) : 'No length'} · ${count}${strokes > 1 ? ` · ${plural(strokes, 'stroke')}` : ''}`}
        onRename={(name) => dispatch(setPath, { id, values: { name } })}
        menu={() => pathEntries(path)}
      />
      <fieldset disabled={readOnly} className="thin-scroll min-w-0 min-h-0 flex-1 overflow-y-auto px-3 py-3">
        {[...(result?.findings ?? []), ...(checks ?? [])].map((f, i) => (
          <p
            key={i}
            role="alert"
            className={`mb-2 text-[12.5px] ${f.severity === 'error' ? 'text-danger' : 'text-caution'}`}
          >
            {sentence(f, scene)}
          </p>
        ))}
        {result?.ok && (
          <dl
            className="mb-2 grid grid-cols-2 gap-x-3 gap-y-0.5 rounded-lg bg-well px-2.5 py-2 text-[12.5px]"
            data-testid="path-facts"
          >
            <dt className="text-soft" title="All its bends added up, in whole turns">
              Bends in all
            </dt>
            <dd className="num text-right">{inTurns(result.turns)}</dd>
            <dt className="text-soft">Tightest radius</dt>
            <dd className="num text-right">
              {result.tightest === 0
                ? 'sharp corner'
                : Number.isFinite(result.tightest)
                  ? metres(result.tightest, scene.units)
                  : 'straight'}
            </dd>
          </dl>
        )}
        {own ? (
          <>
            <LiesOn path={path} />
            <Hanging path={path} />
            <EditButtons path={path} />
            <PointList path={path} />
          </>
        ) : (
          <MadeFrom path={path} />
        )}
      </fieldset>
    </>
  );
}
