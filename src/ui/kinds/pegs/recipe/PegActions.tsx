'use client';

import { useState } from 'react';
import type { Peg, Pegs } from '@/core/arrange/pegs/schema';
import type { Vec3 } from '@/core/math/vec3';
import { Button } from '../../../controls/Button';
import { NumberFields, PlaceField } from '../../../controls/NumberFields';
import {
  align,
  array,
  distribute,
  faceLast,
  freePegs,
  groupUnderLast,
  mirror,
  pinPegs,
  standingNow,
  vary,
} from './pegMoves';

/** What can be done with the selected pegs, or with all where none is selected. */
export function PegActions({ arrangement: a, pegs }: { arrangement: Pegs; pegs: readonly Peg[] }) {
  const [step, setStep] = useState<Vec3>([1, 0, 0]);
  const [numbers, setNumbers] = useState({ copies: 3, turnDeg: 180, size: 0.1, seed: 1 });
  const now = () => standingNow(a, pegs);
  const n = pegs.length;
  const act = (text: string, run: () => void, least = 1) => (
    <Button
      key={text}
      look="bordered"
      className="!justify-start !px-2 !text-left !text-[12px] leading-tight !whitespace-normal"
      disabled={n < least}
      onClick={run}
    >
      {text}
    </Button>
  );
  return (
    <div className="grid grid-cols-2 gap-1">
      {act('Pin to the nearest', () => void pinPegs(a, now(), 'nearest'))}
      {act('Land straight down', () => void pinPegs(a, now(), 'down'))}
      {act('Let go of the surface', () => void freePegs(a, now()))}
      {act('Distribute evenly', () => void distribute(a, now()), 3)}
      {act('Align X', () => void align(a, now(), 0), 2)}
      {act('Align Y', () => void align(a, now(), 1), 2)}
      {act('Align Z', () => void align(a, now(), 2), 2)}
      {act('Face the last one', () => void faceLast(a, now()), 2)}
      {act('Group under the last', () => groupUnderLast(a, now()), 2)}
      {act('Mirror copies across X', () => void mirror(a, now(), 0, 0))}
      {act('Mirror copies across Z', () => void mirror(a, now(), 2, 0))}
      <div className="col-span-2 mt-1 border-t border-edge pt-1">
        <NumberFields
          fields={[{ name: 'copies', label: 'Copies', whole: true, min: 1, max: 1000, reset: 3 }]}
          values={numbers}
          set={(v) => setNumbers({ ...numbers, ...v })}
        />
        <PlaceField label="Step of the copies" value={step} onChange={setStep} />
        {act('Copy in a row', () => void array(a, now(), numbers.copies, step))}
      </div>
      <div className="col-span-2 mt-1 border-t border-edge pt-1">
        <NumberFields
          fields={[
            {
              name: 'turnDeg',
              label: 'Turn by up to',
              dimension: 'angle',
              step: 5,
              min: 0,
              max: 180,
              reset: 180,
            },
            {
              name: 'size',
              label: 'Size by up to',
              dimension: 'percent',
              step: 0.05,
              min: 0,
              max: 0.9,
              reset: 0.1,
            },
            { name: 'seed', label: 'Seed', whole: true, reset: 1 },
          ]}
          values={numbers}
          set={(v) => setNumbers({ ...numbers, ...v })}
        />
        {act('Vary', () => void vary(a, now(), numbers.seed, numbers.turnDeg, numbers.size))}
      </div>
    </div>
  );
}
