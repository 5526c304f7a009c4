import type { Run } from '@/core/arrange/run/schema';

/** What every step of a run gets. */
export interface StepProps {
  run: Run;
  color: string;
}
