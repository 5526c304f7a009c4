'use client';

import type { Arrangement } from '@/core/arrange/registry';
import { useDocument } from '@/store/document';
import { THREAD_COLORS } from '@/view/colors';
import { Step } from '../recipe/Step';
import { MaterialChoice } from './MaterialChoice';

/** What all that an arrangement places wears; it is there where that is something of its own. */
export function MaterialStep({ arrangement: a }: { arrangement: Arrangement }) {
  const name = useDocument((s) => s.scene.materials.find((m) => m.id === a.material)?.name);
  if (a.material === undefined) return null;
  return (
    <Step name="material" title="Material" color={THREAD_COLORS[a.thread]} phrase={name ?? 'Missing'}>
      <MaterialChoice ids={[a.id]} value={a.material} own="As the props" />
    </Step>
  );
}
