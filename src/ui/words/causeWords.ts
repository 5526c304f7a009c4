import type { Cause } from '@/core/evaluate/ask';
import type { Scene } from '@/core/scene/schema';
import { REASON } from '@/words/findings';
import { LAYER_NAMES } from '@/words/masks';
import { correctionWords } from './correctionWords';

const share = (v: number): string => `${Math.round(v * 100)} %`;

const FOR = {
  gaps: 'so likely something stands here',
  spread: 'so likely something stands here',
  size: 'its size',
  variation: 'how much it varies',
} as const;

const KEEPS = {
  range: 'a stretch of the path',
  region: 'a region',
  near: 'too near',
  into: 'gives way',
  mask: 'a mask',
} as const;

/** One reason as it is read: "Keep-out “Steps”: a stretch of the path". */
export function causeWords(c: Cause, scene: Scene): string {
  const maskName = (id: string) => scene.masks.find((m) => m.id === id)?.name ?? 'a mask';
  switch (c.why) {
    case 'placed':
      return `${scene.props.find((p) => p.id === c.prop)?.name ?? 'A prop'}, as the order says`;
    case 'gap':
      return `Empty: ${REASON[c.reason]}${c.share === undefined ? '' : `, ${share(c.share)}`}`;
    case 'hand':
      return `By hand: ${correctionWords(c.hand, scene)}`;
    case 'keep-out':
      return `Keep-out “${c.name}”: ${KEEPS[c.kind]}`;
    case 'mask':
      return `“${maskName(c.mask)}” gives ${share(c.value)}: ${FOR[c.for]}`;
    case 'layer':
      return `Layer ${c.number}, ${LAYER_NAMES[c.kind].toLowerCase()}: ${share(c.value)}`;
    case 'released':
      return 'It was let go, and lies where it has fallen';
  }
}

const STEP_OF_GAP: Partial<Record<Extract<Cause, { why: 'gap' }>['reason'], string>> = {
  pause: 'Props',
  hand: 'By hand',
  missed: 'Ground',
  fallen: 'Release',
  'past-end': 'Spacing',
  skipped: 'Layout',
};

/** The step of the recipe that a reason is in; null: it is the mask's. */
export function stepOfCause(c: Cause): string | null {
  if (c.why === 'gap') return STEP_OF_GAP[c.reason] ?? 'Gaps';
  if (c.why === 'mask' || c.why === 'layer') return null;
  return { placed: 'Props', hand: 'By hand', 'keep-out': 'Gaps', released: 'Release' }[c.why];
}
