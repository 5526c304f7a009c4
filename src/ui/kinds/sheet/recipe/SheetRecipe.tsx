'use client';

import type { Sheet } from '@/core/arrange/sheet/schema';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { PropsStep } from '../../../recipe/steps/PropsStep';
import { useStepMenu } from '../../../recipe/stepClipboard';
import { VariationOf, HandOf } from '../../../recipe/steps/CommonSteps';
import { Step } from '../../../recipe/Step';
import { LayoutStep } from './LayoutStep';
import { PatternStep } from './PatternStep';
import { layoutPhrase, propsIn, linesPhrase, restsPhrase, standsPhrase, surfacePhrase } from './phrases';
import { SheetFacing } from './SheetFacing';
import { SkipStep } from './SkipStep';
import { SurfaceStep } from './SurfaceStep';

/** The recipe of a sheet: what is on it, what it lies over, its grid, and how its props meet the surface. */
export function SheetRecipe({ arrangement: sheet }: { arrangement: Sheet }) {
  const scene = useDocument((s) => s.scene);
  const result = useEngine((s) => s.result.arrangements.get(sheet.id));
  const color = THREAD_COLORS[sheet.thread];
  const findings = result?.findings ?? NO_FINDINGS;
  const layout = result?.sheet ?? null;
  const is = (...kinds: string[]) => findings.some((f) => kinds.includes(f.kind));
  const menus = {
    order: useStepMenu(sheet, 'order'),
    gaps: useStepMenu(sheet, 'gaps'),
  };
  return (
    <>
      <Step
        name="props"
        title="Props"
        color={color}
        menu={menus.order}
        phrase={propsIn(sheet, scene)}
        caution={is('no-props', 'order-empty')}
      >
        <PropsStep arrangement={sheet} />
      </Step>
      <Step
        name="path"
        title="Surface"
        color={color}
        phrase={surfacePhrase(sheet, scene)}
        caution={is('surface-missing', 'sheet-no-uv', 'uv-overlap', 'uv-turned')}
      >
        <SurfaceStep sheet={sheet} layout={layout} findings={findings} />
      </Step>
      <Step
        name="spacing"
        title="Layout"
        color={color}
        phrase={layoutPhrase(sheet, layout, scene)}
        caution={is('sheet-no-columns', 'sheet-no-room')}
      >
        <LayoutStep sheet={sheet} layout={layout} placements={result?.placements ?? null} />
      </Step>
      <Step name="facing" title="Facing" color={color} phrase={standsPhrase(sheet)}>
        <SheetFacing sheet={sheet} />
      </Step>
      <VariationOf arrangement={sheet} />
      <Step name="gaps" title="Gaps" color={color} menu={menus.gaps} phrase={restsPhrase(sheet)}>
        <SkipStep sheet={sheet} />
      </Step>
      <HandOf arrangement={sheet} />
      <Step name="pattern" title="Lines" color={color} phrase={linesPhrase(sheet)}>
        <PatternStep sheet={sheet} layout={layout} />
      </Step>
    </>
  );
}

const NO_FINDINGS: never[] = [];
