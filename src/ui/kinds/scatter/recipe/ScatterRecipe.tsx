'use client';

import type { Finding } from '@/core/arrange/result';
import type { Scatter } from '@/core/arrange/scatter/schema';
import { setArrangement } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { THREAD_COLORS } from '@/view/colors';
import { GroundStep } from '../../../recipe/steps/GroundStep';
import { GapsOf, HandOf, VariationOf } from '../../../recipe/steps/CommonSteps';
import { Step } from '../../../recipe/Step';
import { useStepMenu } from '../../../recipe/stepClipboard';
import { WeightedProps } from '../../../recipe/steps/WeightedProps';
import { groundPhrase } from '../../../words/phrases';
import { AreaStep } from './AreaStep';
import { areaPhrase, spreadPhrase, standPhrase } from './phrases';
import { SpreadStep } from './SpreadStep';
import { StandStep } from './StandStep';

const NO_FINDINGS: Finding[] = [];

/** A scatter: which props, what it fills, how many, and how they stand there. */
export function ScatterRecipe({ arrangement: a }: { arrangement: Scatter }) {
  const scene = useDocument((s) => s.scene);
  const result = useEngine((s) => s.result.arrangements.get(a.id));
  const findings = result?.findings ?? NO_FINDINGS;
  const color = THREAD_COLORS[a.thread];
  const is = (...kinds: string[]) => findings.some((f) => kinds.includes(f.kind));
  const nameOf = (id: string) => scene.props.find((p) => p.id === id)?.name ?? 'missing';
  const menus = {
    spread: useStepMenu(a, 'spread'),
    stand: useStepMenu(a, 'stand'),
    ground: useStepMenu(a, 'ground'),
  };
  return (
    <>
      <Step
        name="props"
        title="Props"
        color={color}
        phrase={a.props.map((p) => nameOf(p.prop)).join(', ') || 'None yet'}
        caution={is('no-props', 'order-empty')}
      >
        <WeightedProps
          label="Props of the scatter"
          value={a.props}
          onChange={(props, key) => dispatch(setArrangement, { id: a.id, values: { props } }, key)}
        />
      </Step>
      <Step
        name="path"
        title="Area"
        color={color}
        phrase={areaPhrase(a, scene)}
        caution={is('area-missing', 'area-nothing', 'area-open', 'area-crosses', 'area-volume-open')}
      >
        <AreaStep scatter={a} area={result?.area} />
      </Step>
      <Step
        name="spacing"
        title="Spread"
        color={color}
        menu={menus.spread}
        phrase={spreadPhrase(a, result?.area, scene)}
        caution={is('area-too-many', 'mask-missing', 'mask-refuses', 'mask-no-uv')}
      >
        <SpreadStep scatter={a} area={result?.area} />
      </Step>
      <Step name="facing" title="Facing" color={color} menu={menus.stand} phrase={standPhrase(a)}>
        <StandStep scatter={a} />
      </Step>
      <Step
        name="ground"
        title="Ground"
        color={color}
        menu={menus.ground}
        phrase={groundPhrase(a.ground, scene)}
      >
        <GroundStep arrangement={a} />
      </Step>
      <VariationOf arrangement={a} />
      <GapsOf arrangement={a} />
      <HandOf arrangement={a} />
    </>
  );
}
