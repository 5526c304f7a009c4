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
  const act = (text: string, hint: string, run: () => void, least = 1) => (
    <Button
      key={text}
      title={hint}
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
      {act(
        'Pin to the nearest',
        'Onto the nearest place of a surface that is shown',
        () => void pinPegs(a, now(), 'nearest'),
      )}
      {act('Land straight down', 'Down onto the surface beneath', () => void pinPegs(a, now(), 'down'))}
      {act(
        'Let go of the surface',
        'They stay where they are and no longer move with it',
        () => void freePegs(a, now()),
      )}
      {act(
        'Distribute evenly',
        'Between the first and the last, equally far apart',
        () => void distribute(a, now()),
        3,
      )}
      {act('Align X', 'All at the X of the last one', () => void align(a, now(), 0), 2)}
      {act('Align Y', 'All at the height of the last one', () => void align(a, now(), 1), 2)}
      {act('Align Z', 'All at the Z of the last one', () => void align(a, now(), 2), 2)}
      {act('Face the last one', 'Their fronts point to it', () => void faceLast(a, now()), 2)}
      {act('Group under the last', 'From now on they go with it', () => groupUnderLast(a, now()), 2)}
      {act(
        'Mirror copies across X',
        'Mirrored copies on the other side of X = 0',
        () => void mirror(a, now(), 0, 0),
      )}
      {act(
        'Mirror copies across Z',
        'Mirrored copies on the other side of Z = 0',
        () => void mirror(a, now(), 2, 0),
      )}
      <div className="col-span-2 mt-1 border-t border-edge pt-1">
        <NumberFields
          fields={[
            {
              name: 'copies',
              label: 'Copies',
              hint: 'So many copies of what is selected',
              whole: true,
              min: 1,
              max: 1000,
              reset: 3,
            },
          ]}
          values={numbers}
          set={(v) => setNumbers({ ...numbers, ...v })}
        />
        <PlaceField
          label="Step of the copies"
          hint="Metres from each copy to the next: x, y, z"
          value={step}
          onChange={setStep}
        />
        {act(
          'Copy in a row',
          'So many copies, each one step further',
          () => void array(a, now(), numbers.copies, step),
        )}
      </div>
      <div className="col-span-2 mt-1 border-t border-edge pt-1">
        <NumberFields
          fields={[
            {
              name: 'turnDeg',
              label: 'Turn by up to',
              hint: 'Each is turned by chance, so far at most to either side',
              dimension: 'angle',
              step: 5,
              min: 0,
              max: 180,
              reset: 180,
            },
            {
              name: 'size',
              label: 'Size by up to',
              hint: 'Each is sized by chance, so much at most up or down',
              dimension: 'percent',
              step: 0.05,
              min: 0,
              max: 0.9,
              reset: 0.1,
            },
            {
              name: 'seed',
              label: 'Seed',
              hint: 'Another number draws other random values',
              whole: true,
              reset: 1,
            },
          ]}
          values={numbers}
          set={(v) => setNumbers({ ...numbers, ...v })}
        />
        {act(
          'Vary',
          'Turns and sizes each by chance, once',
          () => void vary(a, now(), numbers.seed, numbers.turnDeg, numbers.size),
        )}
      </div>
    </div>
  );
}
