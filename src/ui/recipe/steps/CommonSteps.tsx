'use client';

import { memo } from 'react';
import type { With } from '@/core/arrange/registry';
import { useDocument } from '@/store/document';
import { THREAD_COLORS } from '@/view/colors';
import { gapsPhrase, handPhrase, variationPhrase } from '../../words/phrases';
import { Step } from '../Step';
import { useStepMenu } from '../stepClipboard';
import { GapsStep } from './GapsStep';
import { HandStep } from './HandStep';
import { VariationStep } from './VariationStep';

/** The steps that end the recipe of every kind that has them, each with its phrase and its menu. */

export const VariationOf = memo(function VariationOf({ arrangement: a }: { arrangement: With<'variation'> }) {
  const scene = useDocument((s) => s.scene);
  const menu = useStepMenu(a, 'variation');
  const phrase = variationPhrase(a, scene);
  return (
    <Step name="variation" title="Variation" color={THREAD_COLORS[a.thread]} menu={menu} phrase={phrase}>
      <VariationStep arrangement={a} />
    </Step>
  );
});

export const GapsOf = memo(function GapsOf({ arrangement: a }: { arrangement: With<'gaps'> }) {
  const menu = useStepMenu(a, 'gaps');
  return (
    <Step name="gaps" title="Gaps" color={THREAD_COLORS[a.thread]} menu={menu} phrase={gapsPhrase(a)}>
      <GapsStep arrangement={a} />
    </Step>
  );
});

export const HandOf = memo(function HandOf({ arrangement: a }: { arrangement: With<'hand'> }) {
  return (
    <Step name="hand" title="By hand" color={THREAD_COLORS[a.thread]} phrase={handPhrase(a)}>
      <HandStep arrangement={a} />
    </Step>
  );
});
