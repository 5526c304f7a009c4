'use client';

import type { Arrangement } from '@/core/arrange/registry';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { WithinStep } from '../bundles/WithinStep';
import { uiOf } from '../kinds/registry';
import { MaskPanel } from '../masks/MaskPanel';
import { MaterialStep } from '../materials/MaterialStep';
import { ArrangementHead } from './ArrangementHead';
import { PathPanel } from './nodes/PathPanel';
import { PropPanel } from './nodes/PropPanel';
import { SurfacePanel } from './nodes/surface/SurfacePanel';
import { SeveralPanel } from './SeveralPanel';
import { Steps } from './Steps';
import { ChecksStep } from './steps/ChecksStep';
import { PosesStep } from './steps/PosesStep';
import { ReleaseStep } from './steps/ReleaseStep';
import { TravelStep } from './steps/TravelStep';

/** The right side: the selected arrangement's recipe, or the settings of another node. */
export function RecipePanel() {
  const node = useSelection((s) => s.node);
  const arrangement = useDocument((s) => s.scene.arrangements.find((a) => a.id === node?.id));
  const beside = useSelection((s) => s.beside);
  const any = useDocument((s) => s.scene.arrangements.length > 0);
  if (node && beside.length > 0) return <SeveralPanel nodes={[...beside, node]} />;
  if (node?.kind === 'path') return <PathPanel id={node.id} />;
  if (node?.kind === 'surface') return <SurfacePanel key={node.id} id={node.id} />;
  if (node?.kind === 'prop') return <PropPanel id={node.id} />;
  if (node?.kind === 'mask') return <MaskPanel key={node.id} id={node.id} />;
  if (arrangement) return <ArrangementRecipe key={arrangement.id} arrangement={arrangement} />;
  return (
    <div className="p-5 text-sm text-soft">
      <h2 className="mb-2 font-display text-lg font-semibold text-text">Nothing selected</h2>
      <p>
        {any
          ? 'Choose an arrangement in the list, or click one of its props in the scene: its recipe stands here.'
          : 'Draw a path and hang a prop on it: the recipe of the new run stands here.'}
      </p>
    </div>
  );
}

/** The recipe of an arrangement: its steps down its thread, in the order of the work. */
function ArrangementRecipe({ arrangement: a }: { arrangement: Arrangement }) {
  const readOnly = useDocument((s) => s.readOnly !== null);
  const { Recipe, well, holds } = uiOf(a);
  const color = THREAD_COLORS[a.thread];
  return (
    <>
      <ArrangementHead arrangement={a} />
      <Steps color={color} readOnly={readOnly}>
        <Recipe arrangement={a} />
        <WithinStep arrangement={a} />
        <MaterialStep arrangement={a} />
        {(holds?.(a) ?? null) === null && <PosesStep arrangement={a} />}
        <TravelStep arrangement={a} />
        {(holds?.(a) ?? null) === null && <ReleaseStep arrangement={a} />}
        <ChecksStep id={a.id} color={color} well={well} />
      </Steps>
      <WorkedOut />
    </>
  );
}

function WorkedOut() {
  const ms = useEngine((s) => s.result.ms);
  return (
    <p className="border-t border-edge px-4 py-2.5 text-[12.5px] text-soft">
      Worked out in <span className="num text-text">{ms < 10 ? ms.toFixed(1) : Math.round(ms)} ms</span>
    </p>
  );
}
