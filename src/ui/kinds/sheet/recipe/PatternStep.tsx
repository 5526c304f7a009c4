'use client';

import { FileUp, PenLine, Trash2 } from 'lucide-react';
import { useRef } from 'react';
import type { Sheet } from '@/core/arrange/sheet/schema';
import type { SheetLayout } from '@/core/arrange/result';
import { addSheetPath } from '@/store/commands/paths';
import { addRun } from '@/store/commands/runs';
import { addCurves, removeCurves, setCurve, setRepeat } from '@/store/commands/sheets';
import { makeSurface } from '@/store/commands/surfaces';
import { engine } from '@/store/engine';
import { dispatch, useDocument } from '@/store/document';
import { selectArrangement, selectNode } from '@/store/selection';
import { Button, IconButton } from '../../../controls/Button';
import { PlainMenu } from '../../../controls/PlainMenu';
import { Toggle } from '../../../controls/Toggle';
import { say } from '../../../uiState';
import { plural } from '@/words/numbers';
import { drawOnSheet, useSheetDrawing } from '../flat/drawing';

const MOST_LISTED = 40;

/** Lines of the layout, drawn or out of an SVG, and what is made of them on the surface. */
export function PatternStep({ sheet, layout }: { sheet: Sheet; layout: SheetLayout | null }) {
  const { id, curves, repeat } = sheet;
  const file = useRef<HTMLInputElement>(null);
  const drawing = useSheetDrawing((s) => s.sheet === id);
  const props = useDocument((s) => s.scene.props);
  /** A path of one line, or of all; the one that is there already, if any. */
  const pathOf = (curve: string | null): string | undefined => {
    const { paths } = useDocument.getState().scene;
    const have = paths.find(
      (p) => p.source.kind === 'sheet' && p.source.sheet === id && p.source.curve === curve,
    );
    return have?.id ?? dispatch(addSheetPath, { sheet: id, curve });
  };
  const asPath = (curve: string | null) => {
    const path = pathOf(curve);
    if (path) selectNode('path', path);
  };
  const asTubes = () => {
    const path = pathOf(null);
    const made =
      path &&
      dispatch(makeSurface, {
        shape: 'tube',
        name: 'Lattice',
        from: [path],
        values: { radius: 0.03, columns: 8, rows: 24 },
      });
    if (made) selectNode('surface', made);
  };
  const asRun = (curve: string | null, prop: string) => {
    const path = pathOf(curve);
    const made = path && dispatch(addRun, { prop, path });
    if (made) selectArrangement(made);
  };
  const bringIn = async (chosen: File) => {
    try {
      const bytes = new Uint8Array(await chosen.arrayBuffer());
      const { lines, width, height, ignored } = await engine().readDrawing(bytes, chosen.name);
      // Into a cell by shares of it; else over the whole layout, as wide as that.
      const k = repeat ? [1 / width, 1 / height] : scaleTo(layout, width, height);
      const made = lines.map((l) => ({
        ...l,
        smooth: false,
        points: l.points.map(([x, y]): [number, number] => [
          Number((x * k[0]).toFixed(5)),
          Number((y * k[1]).toFixed(5)),
        ]),
      }));
      dispatch(addCurves, { id, curves: made, instead: true });
      const left = Object.entries(ignored).map(([tag, n]) => `${n} × ${tag}`);
      say(
        `${plural(lines.length, 'line')} out of “${chosen.name}”.${left.length ? ` Left out, for it is no line: ${left.join(', ')}.` : ''}`,
      );
    } catch (error) {
      say(error instanceof Error ? error.message : String(error));
    }
  };
  return (
    <>
      {curves.length === 0 && (
        <p className="mb-1 text-[12.5px] text-soft">
          Draw lines on the flat layout, or bring an SVG in. They become paths on the surface, tubes, or carry
          runs.
        </p>
      )}
      <Toggle
        label="In every cell"
        hint="The lines are shares of a cell of the grid, and repeated in each"
        value={repeat}
        onChange={(on) =>
          dispatch(setRepeat, { id, repeat: on, width: layout?.width ?? 1, height: layout?.height ?? 1 })
        }
      />
      <div className="grid grid-cols-2 gap-1">
        <Button
          look="bordered"
          title="Click points of a line in the flat view"
          aria-pressed={drawing}
          onClick={() => drawOnSheet(drawing ? null : id)}
        >
          <PenLine size={14} /> Draw a line
        </Button>
        <Button look="bordered" title="Lines from a drawing" onClick={() => file.current?.click()}>
          <FileUp size={14} /> SVG…
        </Button>
        <input
          ref={file}
          type="file"
          accept=".svg,image/svg+xml"
          aria-label="SVG file"
          className="sr-only"
          onChange={(e) => {
            const chosen = e.target.files?.[0];
            e.target.value = '';
            if (chosen) void bringIn(chosen);
          }}
        />
      </div>
      <ul aria-label="Lines" className="mt-1">
        {curves.slice(0, MOST_LISTED).map((c, i) => (
          <li key={c.id} className="flex items-center gap-1 text-[13px]">
            <span className="min-w-0 flex-1 truncate">
              {c.name} {i + 1}
              <span className="text-soft">
                {' '}
                · {plural(c.points.length, 'point')}
                {c.closed ? ', closed' : ''}
              </span>
            </span>
            <PlainMenu
              small
              name={`More for line ${i + 1}`}
              entries={[
                { text: 'As a path', run: () => asPath(c.id) },
                ...props.map((p) => ({ text: `Hang “${p.name}” on it`, run: () => asRun(c.id, p.id) })),
                {
                  text: c.smooth ? 'Straight' : 'Smooth',
                  run: () => dispatch(setCurve, { id, curve: c.id, values: { smooth: !c.smooth } }),
                },
                {
                  text: c.closed ? 'Open it' : 'Close it',
                  run: () => dispatch(setCurve, { id, curve: c.id, values: { closed: !c.closed } }),
                },
              ]}
            />
            <IconButton
              name={`Remove line ${i + 1}`}
              className="!size-5"
              onClick={() => dispatch(removeCurves, { id, curves: [c.id] })}
            >
              <Trash2 size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      {curves.length > MOST_LISTED && (
        <p className="text-[12.5px] text-soft">
          The first {MOST_LISTED} of {curves.length}.
        </p>
      )}
      {curves.length > 0 && (
        <div className="mt-1 grid grid-cols-2 gap-1">
          <Button
            look="bordered"
            title="A path of all lines, for runs to stand along"
            onClick={() => asPath(null)}
          >
            As a path
          </Button>
          <Button look="bordered" title="Round tubes along all lines" onClick={asTubes}>
            As tubes
          </Button>
        </div>
      )}
    </>
  );
}

/** Metres for a unit of a drawing that is to be as wide as the layout, and not higher. */
function scaleTo(layout: SheetLayout | null, width: number, height: number): [number, number] {
  const k = Math.min((layout?.width ?? 1) / width, (layout?.height ?? 1) / height);
  return [k, k];
}
