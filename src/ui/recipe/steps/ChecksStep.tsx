'use client';

import { CircleCheck } from 'lucide-react';
import { useMemo } from 'react';
import { OWN } from '@/core/arrange/base';
import { wantedSo } from '@/core/arrange/asWanted';
import { meanOverlap } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { plural } from '@/words/numbers';
import { FindingLine } from '../../checks/FindingLine';
import { Small } from '../../checks/Small';
import { openDialog } from '../../uiState';
import { Step } from '../Step';

/** What a careful artist should know; a click leads to what a line is about. */
export function ChecksStep({ id, color, well }: { id: string; color: string; well: string }) {
  const own = useEngine((s) => s.result.arrangements.get(id)?.findings);
  const checks = useEngine((s) => s.checks.get(id));
  const looking = useEngine((s) => s.looking);
  const a = useDocument((s) => s.scene.arrangements.find((x) => x.id === id));
  const all = [...(own ?? []), ...(checks ?? [])];
  const findings = all.filter((f) => !a || wantedSo(a, f) === undefined);
  const wanted = all.length - findings.length;
  const meant = useMeant(id);
  const none = looking ? 'Looking …' : 'All well';
  return (
    <Step
      name="checks"
      title="Checks"
      color={color}
      caution={findings.length > 0}
      phrase={findings.length ? `${plural(findings.length, 'thing')} to look at` : none}
    >
      {findings.length === 0 && looking && (
        <p className="text-[13px] text-soft">All that is shown is held against all …</p>
      )}
      {findings.length === 0 && !looking && (
        <p className="flex items-start gap-2 text-[13px] text-good">
          <CircleCheck size={15} className="mt-0.5 shrink-0" /> {well}{' '}
          {meant.length ? 'No other prop' : 'No prop'} reaches into another one, or through a surface, that is
          shown.
        </p>
      )}
      <ul className="flex flex-col gap-1 empty:hidden">
        {findings.map((f, i) => (
          <li key={`${f.kind} ${i}`}>
            <FindingLine of={{ kind: 'arrangement', id }} finding={f} />
          </li>
        ))}
      </ul>
      <Meant id={id} others={meant} />
      {(findings.length > 0 || wanted > 0) && (
        <p className="flex items-center justify-between gap-2 p-1 text-[12.5px] text-soft">
          {wanted > 0 ? `${plural(wanted, 'check')} as wanted.` : ''}
          <Small
            label="Ways to mend"
            hint="All checks of the scene, each with what mends it"
            onClick={() => openDialog('checks')}
          />
        </p>
      )}
    </Step>
  );
}

/** What an arrangement may reach into: others, itself where it may reach into its own, surfaces. */
function useMeant(id: string): { id: string; name: string }[] {
  const arrangements = useDocument((s) => s.scene.arrangements);
  const surfaces = useDocument((s) => s.scene.surfaces);
  return useMemo(() => {
    const a = arrangements.find((one) => one.id === id);
    return [
      ...arrangements.filter(
        (o) => a?.meant.includes(o.id === id ? OWN : o.id) || (o.id !== id && o.meant.includes(id)),
      ),
      ...surfaces.filter((s) => a?.meant.includes(s.id)),
    ];
  }, [id, arrangements, surfaces]);
}

/** What the arrangement may reach into, each to be minded again. */
function Meant({ id, others }: { id: string; others: { id: string; name: string }[] }) {
  return (
    <ul className="flex flex-col text-[12.5px] text-soft empty:hidden">
      {others.map((o) => (
        <li key={o.id} className="flex items-center justify-between gap-2 p-1">
          {o.id === id ? 'These may reach into each other.' : `May reach into “${o.name}”.`}
          <Small
            label="Mind it"
            hint="Looks for overlaps here again"
            onClick={() => dispatch(meanOverlap, { id, other: o.id, meant: false })}
          />
        </li>
      ))}
    </ul>
  );
}
