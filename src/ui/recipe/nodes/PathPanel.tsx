'use client';

import { ArrowLeftRight, Copy, Trash2 } from 'lucide-react';
import type { Vec3 } from '@/core/math/vec3';
import { movePoints, removePath, reversePath, setPath } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { selectPoint, useSelection } from '@/store/selection';
import { Button } from '../../controls/Button';
import { NumberBox } from '../../controls/NumberField';
import { Segmented } from '../../controls/Segmented';
import { duplicateSelected } from '../../shell/actions';
import { sentence } from '../../words/findings';
import { metres, plural } from '../../words/numbers';
import { NodeHead } from './NodeHead';

const ENDS = [
  { value: 'open', text: 'Open' },
  { value: 'closed', text: 'Closed' },
] as const;

/** A path: closed or open, its direction, and its points by numbers. */
export function PathPanel({ id }: { id: string }) {
  const scene = useDocument((s) => s.scene);
  const path = scene.paths.find((p) => p.id === id);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const result = useEngine((s) => s.result.paths.get(id));
  const selected = useSelection((s) => s.points);
  if (!path) return null;
  const { points } = path.source;
  const move = (point: string, from: Vec3, axis: number, value: number, key?: string) => {
    const to: Vec3 = [...from];
    to[axis] = value;
    dispatch(movePoints, { path: id, to: { [point]: to } }, key);
  };
  return (
    <>
      <NodeHead
        name={path.name}
        kind="path"
        color="var(--soft)"
        detail={`${result?.ok ? metres(result.length, scene.units) : 'No length'} · ${plural(points.length, 'point')}`}
        onRename={(name) => dispatch(setPath, { id, values: { name } })}
        menu={[
          { text: 'Reverse', run: () => dispatch(reversePath, { id }) },
          { text: 'Duplicate', run: duplicateSelected },
          { text: 'Delete', danger: true, run: () => dispatch(removePath, { id }) },
        ]}
      />
      <fieldset disabled={readOnly} className="thin-scroll min-w-0 min-h-0 flex-1 overflow-y-auto px-3 py-3">
        {result?.findings.map((f, i) => (
          <p
            key={i}
            role="alert"
            className={`mb-2 text-[12.5px] ${f.severity === 'error' ? 'text-danger' : 'text-caution'}`}
          >
            {sentence(f, scene)}
          </p>
        ))}
        <Segmented
          shown
          label="Ends"
          value={path.closed ? 'closed' : 'open'}
          options={ENDS}
          onChange={(v) => dispatch(setPath, { id, values: { closed: v === 'closed' } })}
        />
        <div className="mt-2 grid grid-cols-3 gap-1.5">
          <Button look="bordered" className="!px-1" onClick={() => dispatch(reversePath, { id })}>
            <ArrowLeftRight size={14} /> Reverse
          </Button>
          <Button look="bordered" className="!px-1" onClick={duplicateSelected}>
            <Copy size={14} /> Duplicate
          </Button>
          <Button look="bordered" className="!px-1" onClick={() => dispatch(removePath, { id })}>
            <Trash2 size={14} /> Delete
          </Button>
        </div>
        <h3 className="mb-1 mt-4 font-display text-sm font-semibold">Points</h3>
        <p className="mb-1.5 text-[12.5px] text-soft">Click the path in the scene to insert one.</p>
        <table className="w-full text-sm">
          <thead className="text-left text-xs text-soft">
            <tr>
              <th className="font-normal">#</th>
              <th className="font-normal">X</th>
              <th className="font-normal">Y</th>
              <th className="font-normal">Z</th>
            </tr>
          </thead>
          <tbody>
            {points.map((p, i) => (
              <tr key={p.id}>
                <td>
                  <button
                    type="button"
                    aria-label={`Select point ${i + 1}`}
                    onClick={() => selectPoint(id, p.id)}
                    className={`num size-6 rounded text-xs ${selected?.ids.includes(p.id) ? 'bg-ink-900 text-linen-50' : 'hover:bg-groove'}`}
                  >
                    {i + 1}
                  </button>
                </td>
                {p.position.map((v, axis) => (
                  <td key={axis} className="p-0.5">
                    <NumberBox
                      label={`Point ${i + 1} ${'XYZ'[axis]} in the list`}
                      value={v}
                      dimension="length"
                      unit={scene.units}
                      step={0.1}
                      className="!px-1.5 [&_span]:hidden"
                      onChange={(value, key) => value !== null && move(p.id, p.position, axis, value, key)}
                    />
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </fieldset>
    </>
  );
}
