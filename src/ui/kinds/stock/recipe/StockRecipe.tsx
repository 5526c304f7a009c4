'use client';

import type { Finding } from '@/core/arrange/result';
import type { Stock } from '@/core/arrange/stock/schema';
import { setStep } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { LinkScope } from '../../../controls/LinkScope';
import { NumberFields, type FieldSpec } from '../../../controls/NumberFields';
import { GapsOf, HandOf, VariationOf } from '../../../recipe/steps/CommonSteps';
import { PropsStep } from '../../../recipe/steps/PropsStep';
import { Step } from '../../../recipe/Step';
import { useStepMenu } from '../../../recipe/stepClipboard';
import { propsPhrase } from '../../../words/phrases';
import { FillingStep } from './FillingStep';
import { OnShelf } from './OnShelf';
import { fillingPhrase, shelvesPhrase, soldPhrase } from './phrases';
import { ShelvesStep } from './ShelvesStep';
import { TakenStep } from './TakenStep';

const NO_FINDINGS: Finding[] = [];

const angle = (name: string, label: string, hint: string): FieldSpec => ({
  name,
  label,
  hint,
  dimension: 'angle',
  step: 5,
  reset: 0,
});
const STAND: FieldSpec[] = [
  angle('turnDeg', 'Turn', 'From the prop’s front, which looks out of the shelf'),
  angle('tipDeg', 'Tip', 'About the side axis: laid on its back, on its face'),
  angle('rollDeg', 'Roll', 'About the front axis: laid on its side'),
  {
    name: 'size',
    label: 'Size',
    hint: 'Of all of them',
    dimension: 'percent',
    step: 0.05,
    min: 0.01,
    reset: 1,
  },
];

/** Stock: which goods, on which shelves, how they fill them, and what is taken away. */
export function StockRecipe({ arrangement: a }: { arrangement: Stock }) {
  const scene = useDocument((s) => s.scene);
  const result = useEngine((s) => s.result.arrangements.get(a.id));
  const findings = result?.findings ?? NO_FINDINGS;
  const color = THREAD_COLORS[a.thread];
  const is = (...kinds: string[]) => findings.some((f) => kinds.includes(f.kind));
  const menus = {
    order: useStepMenu(a, 'order'),
    filling: useStepMenu(a, 'filling'),
    stand: useStepMenu(a, 'stand'),
    sold: useStepMenu(a, 'sold'),
  };
  const { turnDeg, tipDeg, rollDeg, size } = a.stand;
  const turned = [
    ...(turnDeg !== 0 ? [`turned ${turnDeg}°`] : []),
    ...(tipDeg !== 0 ? [`tipped ${tipDeg}°`] : []),
    ...(rollDeg !== 0 ? [`rolled ${rollDeg}°`] : []),
    ...(size !== 1 ? [`${Math.round(size * 100)}%`] : []),
  ];
  return (
    <>
      <Step
        name="props"
        title="Props"
        color={color}
        menu={menus.order}
        phrase={propsPhrase(a, scene)}
        caution={is('no-props', 'order-empty', 'prop-missing', 'mesh-missing', 'mesh-empty')}
      >
        <PropsStep arrangement={a} />
        <OnShelf stock={a} />
      </Step>
      <Step
        name="path"
        title="Shelves"
        color={color}
        phrase={shelvesPhrase(a, result?.stock, scene)}
        caution={findings.some((f) => f.kind.startsWith('stock-no') || f.kind === 'shelf-missing')}
      >
        <ShelvesStep stock={a} layout={result?.stock} />
      </Step>
      <Step
        name="spacing"
        title="Filling"
        color={color}
        menu={menus.filling}
        phrase={fillingPhrase(a)}
        caution={is('stock-too-wide', 'stock-too-deep', 'stock-too-high')}
      >
        <FillingStep stock={a} />
      </Step>
      <Step
        name="facing"
        title="Facing"
        color={color}
        menu={menus.stand}
        phrase={`Fronts to the front${turned.length > 0 ? `, ${turned.join(', ')}` : ''}`}
      >
        <LinkScope node={a.id} at="stand">
          <NumberFields
            within=""
            fields={STAND}
            values={a.stand}
            set={(values, key) => dispatch(setStep, { id: a.id, step: 'stand', values }, key)}
          />
        </LinkScope>
      </Step>
      <Step name="sold" title="Taken" color={color} menu={menus.sold} phrase={soldPhrase(a)}>
        <TakenStep stock={a} />
      </Step>
      <VariationOf arrangement={a} />
      <GapsOf arrangement={a} />
      <HandOf arrangement={a} />
    </>
  );
}
