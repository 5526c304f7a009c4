'use client';

import { TriangleAlert } from 'lucide-react';
import type { Run } from '@/core/arrange/run/schema';
import type { Sheet } from '@/core/arrange/sheet/schema';
import { NO_FACTS } from '@/core/evaluate/result';
import { THREADS } from '@/core/scene/defaults';
import { setArrangement, setStep } from '@/store/commands/runs';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import {
  facingPhrase,
  gapsPhrase,
  groundPhrase,
  handPhrase,
  pathPhrase,
  propsPhrase,
  spacingPhrase,
  variationPhrase,
} from '../../words/phrases';
import { plural, whole } from '../../words/numbers';
import { RenameField } from '../RenameField';
import { Step } from '../Step';
import { Steps } from '../Steps';
import { useStepMenu } from '../stepClipboard';
import { Checks } from './Checks';
import { FacingStep } from './FacingStep';
import { GapsStep } from './GapsStep';
import { GroundStep } from '../GroundStep';
import { HandStep } from './HandStep';
import { RunMenu } from './RunMenu';
import { PathStep } from './PathStep';
import { PropsStep } from './PropsStep';
import { SpacingStep } from './SpacingStep';
import { VariationStep } from './VariationStep';

/** The recipe of a run: its steps down its thread, in the order of the work. */
export function RunRecipe({ arrangement: run }: { arrangement: Run }) {
  const scene = useDocument((s) => s.scene);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const result = useEngine((s) => s.result.arrangements.get(run.id));
  const ms = useEngine((s) => s.result.ms);
  const facts = result?.facts ?? NO_FACTS;
  const placed = result?.counts.placed ?? 0;
  const gaps = result ? result.placements.count - placed : 0;
  const findings = result?.findings ?? [];
  const errors = findings.filter((f) => f.severity === 'error');
  const color = THREAD_COLORS[run.thread];
  const step = { run, color };
  const menus = {
    order: useStepMenu(run, 'order'),
    spacing: useStepMenu(run, 'spacing'),
    facing: useStepMenu(run, 'facing'),
    ground: useStepMenu(run, 'ground'),
    variation: useStepMenu(run, 'variation'),
    gaps: useStepMenu(run, 'gaps'),
  };
  return (
    <>
      <div className="border-b border-edge px-3 pb-2.5 pt-3">
        <div className="flex items-center gap-2">
          <ThreadDot run={run} />
          <RenameField
            name={run.name}
            label="Name of the run"
            onRename={(name) => dispatch(setArrangement, { id: run.id, values: { name } })}
          />
          <RunMenu run={run} />
        </div>
        <p className="mt-1.5 flex gap-3.5 text-[13px] text-soft" aria-live="polite" data-testid="counts">
          <span>
            <b className="num text-text">{whole(placed)}</b> placed
          </span>
          <span>
            <b className="num text-text">{whole(gaps)}</b> {gaps === 1 ? 'gap' : 'gaps'}
          </span>
          {findings.length > 0 && (
            <span
              className={
                errors.length ? 'flex items-center gap-1 text-danger' : 'flex items-center gap-1 text-caution'
              }
            >
              <TriangleAlert size={13} />
              {plural(findings.length, 'check')}
            </span>
          )}
        </p>
      </div>
      <Steps color={color} readOnly={readOnly}>
        <Step
          name="props"
          title="Props"
          phrase={propsPhrase(run, scene)}
          color={color}
          menu={menus.order}
          caution={errors.some((f) => f.kind === 'no-props' || f.kind === 'order-empty')}
        >
          <PropsStep {...step} />
        </Step>
        <Step
          name="path"
          title="Path"
          phrase={pathPhrase(run, scene)}
          color={color}
          caution={errors.some((f) => f.kind.includes('path'))}
        >
          <PathStep {...step} />
        </Step>
        <Step
          name="spacing"
          title="Spacing"
          phrase={spacingPhrase(run, facts, scene)}
          color={color}
          menu={menus.spacing}
        >
          <SpacingStep {...step} facts={facts} slots={result?.placements.count ?? 0} findings={findings} />
        </Step>
        <Step name="facing" title="Facing" phrase={facingPhrase(run)} color={color} menu={menus.facing}>
          <FacingStep {...step} />
        </Step>
        <Step
          name="ground"
          title="Ground"
          phrase={groundPhrase(run.ground, scene)}
          color={color}
          menu={menus.ground}
          caution={findings.some((f) => f.kind.includes('ground') || f.kind === 'surface-missing')}
        >
          <GroundStep
            ground={run.ground}
            set={(values, key) => dispatch(setStep, { id: run.id, step: 'ground', values }, key)}
          />
        </Step>
        <Step
          name="variation"
          title="Variation"
          phrase={variationPhrase(run, scene)}
          color={color}
          menu={menus.variation}
        >
          <VariationStep {...step} />
        </Step>
        <Step name="gaps" title="Gaps" phrase={gapsPhrase(run)} color={color} menu={menus.gaps}>
          <GapsStep {...step} />
        </Step>
        <Step name="hand" title="By hand" phrase={handPhrase(run)} color={color}>
          <HandStep {...step} />
        </Step>
        <Step
          name="checks"
          title="Checks"
          phrase={findings.length ? plural(findings.length, 'thing') + ' to look at' : 'All well'}
          color={color}
          caution={findings.length > 0}
        >
          <Checks run={run} findings={findings} />
        </Step>
      </Steps>
      <p className="border-t border-edge px-4 py-2.5 text-[12.5px] text-soft">
        Worked out in <span className="num text-text">{ms < 10 ? ms.toFixed(1) : Math.round(ms)} ms</span>
      </p>
    </>
  );
}

export interface StepProps {
  run: Run;
  color: string;
}

/** What steps need that runs share with sheets. */
export interface OrderedProps {
  run: Run | Sheet;
}

/** The run's thread; a click takes the next dye. */
function ThreadDot({ run }: OrderedProps) {
  const next = THREADS[(THREADS.indexOf(run.thread) + 1) % THREADS.length];
  return (
    <button
      type="button"
      aria-label={`Thread: ${run.thread}. Change to ${next}`}
      title={`Thread: ${run.thread}. Click for ${next}`}
      onClick={() => dispatch(setArrangement, { id: run.id, values: { thread: next } })}
      className="size-[15px] shrink-0 rounded-full"
      style={{ background: THREAD_COLORS[run.thread] }}
    />
  );
}
