import type { With } from '@/core/arrange/registry';

/** What a step gets that works on a block of settings, of whatever kind the arrangement is that has it. */
export interface StepProps<B extends string> {
  arrangement: With<B>;
}
