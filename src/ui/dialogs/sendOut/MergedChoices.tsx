import { useEffect, useState } from 'react';
import type { MergedFacts, MergedOptions } from '@/core/formats/merged';
import { setPrint } from '@/store/commands/scene';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { plural } from '@/words/numbers';
import { NumberField } from '../../controls/NumberField';
import { Segmented } from '../../controls/Segmented';
import { useUi, type SendChoices } from '../../uiState';
import { Tick } from './Tick';

/** What a file of whole meshes holds, and how large it will be. */
export function MergedChoices({
  options,
  only,
  choose,
}: {
  options: MergedOptions;
  only: string[] | undefined;
  choose: (choice: Partial<SendChoices>) => void;
}) {
  const unit = useDocument((s) => s.scene.units);
  const kind = useUi((s) => s.send.kind);
  return (
    <>
      <NumberField
        label="Scale 1 :"
        hint="So many times smaller than it is; it stays with the scene"
        step={1}
        min={0.001}
        max={1e6}
        reset={1}
        unit={unit}
        value={options.scale}
        onChange={(v, key) => dispatch(setPrint, { scale: v ?? 1 }, key)}
      />
      <Segmented
        shown
        label="Up"
        hint="Which axis is up in the file"
        value={options.up}
        options={[
          { value: 'z', text: 'Z', hint: 'As printers have it' },
          { value: 'y', text: 'Y', hint: 'As this scene has it' },
        ]}
        onChange={(up) => choose(kind === 'obj' ? { upObj: up } : { upPrint: up })}
      />
      <Tick
        label="Surfaces go along"
        hint="Their meshes are in the file too, as they are drawn"
        checked={options.surfaces}
        onChange={(on) => choose({ surfaces: on })}
      />
      <Facts options={options} only={only} />
    </>
  );
}

/** How large it will be, and what of it is not closed, as soon as that is known. */
function Facts({ options, only }: { options: MergedOptions; only: string[] | undefined }) {
  const [facts, setFacts] = useState<MergedFacts | string | null>(null);
  const key = JSON.stringify([options, only]);
  useEffect(() => {
    let current = true;
    engine()
      .mergedFacts(options, only)
      .then((found) => current && setFacts(found))
      .catch((error: Error) => current && setFacts(error.message));
    return () => {
      current = false;
    };
    // The key stands for what it is asked by.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  // It has its lines from the beginning: what is below would move away from under the pointer.
  const lines = 'min-h-[65px] py-1 text-[12.5px]';
  if (facts === null) return <p className={`${lines} text-soft`}>Looking …</p>;
  if (typeof facts === 'string') return <p className={`${lines} text-caution`}>{facts}</p>;
  const mm = facts.size.map((v) => Number((v * 1000).toPrecision(4)).toLocaleString('en'));
  return (
    <p role="status" className={`${lines} text-soft`}>
      <span className="num">{mm.join(' × ')} mm</span> · {plural(facts.parts, 'part')} ·{' '}
      {plural(facts.triangles, 'triangle')}
      <span className="block">{closedness(facts)}</span>
    </p>
  );
}

function closedness({ open, parts }: MergedFacts): string {
  if (open === null) return 'Too many triangles to see meanwhile whether all is closed.';
  if (open.length === 0) return parts === 1 ? 'It is closed.' : 'All of them are closed.';
  const named = open.slice(0, 3).map((name) => `“${name}”`);
  const more = open.length > 3 ? ` and ${open.length - 3} more` : '';
  return `Not closed: ${named.join(', ')}${more}. A printer may fill them otherwise than you mean.`;
}
