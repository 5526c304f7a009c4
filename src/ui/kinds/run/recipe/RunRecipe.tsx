'use client';

import type { Run } from '@/core/arrange/run/schema';
import { NO_FACTS } from '@/core/arrange/result';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { facingPhrase, groundPhrase, pathPhrase, propsPhrase, spacingPhrase } from '../../../words/phrases';
import { VariationOf, GapsOf, HandOf } from '../../../recipe/steps/CommonSteps';
import { Step } from '../../../recipe/Step';
import { useStepMenu } from '../../../recipe/stepClipboard';
import { FacingStep } from './FacingStep';
import { GroundStep } from '../../../recipe/steps/GroundStep';
import { PathStep } from './PathStep';
import { PropsStep } from '../../../recipe/steps/PropsStep';
import { SpacingStep } from './SpacingStep';
import { LinkScope } from '../../../controls/LinkScope';

/** The recipe of a run: its steps down its thread, in the order of the work. */
export function RunRecipe({ arrangement: run }: { arrangement: Run }) {
  const scene = useDocument((s) => s.scene);
  const result = useEngine((s) => s.result.arrangements.get(run.id));
  const facts = result?.facts ?? NO_FACTS;
  const findings = result?.findings ?? [];
  const errors = findings.filter((f) => f.severity === 'error');
  const color = THREAD_COLORS[run.thread];
  const step = { run, color };
  const menus = {
    order: useStepMenu(run, 'order'),
    spacing: useStepMenu(run, 'spacing'),
    facing: useStepMenu(run, 'facing'),
    ground: useStepMenu(run, 'ground'),
  };
  return (
    <>
      <Step
        name="props"
        title="Props"
        phrase={propsPhrase(run, scene)}
        color={color}
        menu={menus.order}
        caution={errors.some((f) => f.kind === 'no-props' || f.kind === 'order-empty')}
      >
        <PropsStep arrangement={run} />
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
        <LinkScope node={run.id} at="spacing">
          <SpacingStep {...step} facts={facts} slots={result?.placements.count ?? 0} findings={findings} />
        </LinkScope>
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
        <GroundStep arrangement={run} />
      </Step>
      <VariationOf arrangement={run} />
      <GapsOf arrangement={run} />
      <HandOf arrangement={run} />
    </>
  );
}
