'use client';

import type { Sheet } from '@/core/arrange/sheet/schema';
import { removeArrangement, setArrangement } from '@/store/commands/runs';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { duplicateSelected } from '../../shell/actions';
import { handPhrase, variationPhrase } from '../../words/phrases';
import { plural } from '../../words/numbers';
import { ChecksStep } from '../ChecksStep';
import { NodeHead } from '../nodes/NodeHead';
import { HandStep } from '../run/HandStep';
import { PropsStep } from '../run/PropsStep';
import { VariationStep } from '../run/VariationStep';
import { addRidersOn } from '../riders/addRidersOn';
import { Step } from '../Step';
import { Steps } from '../Steps';
import { LayoutStep } from './LayoutStep';
import { PatternStep } from './PatternStep';
import { layoutPhrase, propsIn, linesPhrase, restsPhrase, standsPhrase, surfacePhrase } from './phrases';
import { SheetFacing } from './SheetFacing';
import { SkipStep } from './SkipStep';
import { SurfaceStep } from './SurfaceStep';

/** The recipe of a sheet: what is on it, what it lies over, its grid, and how its props meet the surface. */
export function SheetRecipe({ arrangement: sheet }: { arrangement: Sheet }) {
  const scene = useDocument((s) => s.scene);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const result = useEngine((s) => s.result.arrangements.get(sheet.id));
  const color = THREAD_COLORS[sheet.thread];
  const findings = result?.findings ?? NO_FINDINGS;
  const layout = result?.sheet ?? null;
  const placed = result?.counts.placed ?? 0;
  const gaps = (result?.placements.count ?? 0) - placed;
  // Places of a grid that only parts lines out are no gaps.
  const onlyLines = sheet.curves.length > 0 && result?.placements.props.length === 0;
  const is = (...kinds: string[]) => findings.some((f) => kinds.includes(f.kind));
  return (
    <>
      <NodeHead
        name={sheet.name}
        kind="sheet"
        color={color}
        detail={onlyLines ? linesPhrase(sheet) : `${placed} placed · ${plural(gaps, 'gap')}`}
        onRename={(name) => dispatch(setArrangement, { id: sheet.id, values: { name } })}
        menu={[
          { text: 'Duplicate', run: duplicateSelected },
          { text: 'Add riders', run: () => addRidersOn(sheet.id) },
          { text: 'Delete', danger: true, run: () => dispatch(removeArrangement, { id: sheet.id }) },
        ]}
      />
      <Steps color={color} readOnly={readOnly}>
        <Step
          name="props"
          title="Props"
          color={color}
          phrase={propsIn(sheet, scene)}
          caution={is('no-props', 'order-empty')}
        >
          <PropsStep run={sheet} />
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
        <Step name="variation" title="Variation" color={color} phrase={variationPhrase(sheet, scene)}>
          <VariationStep run={sheet} />
        </Step>
        <Step name="gaps" title="Gaps" color={color} phrase={restsPhrase(sheet)}>
          <SkipStep sheet={sheet} />
        </Step>
        <Step name="hand" title="By hand" color={color} phrase={handPhrase(sheet)}>
          <HandStep run={sheet} />
        </Step>
        <Step name="pattern" title="Lines" color={color} phrase={linesPhrase(sheet)}>
          <PatternStep sheet={sheet} layout={layout} />
        </Step>
        <ChecksStep
          id={sheet.id}
          color={color}
          findings={findings}
          well="Every prop lies whole on the surface."
        />
      </Steps>
    </>
  );
}

const NO_FINDINGS: never[] = [];
