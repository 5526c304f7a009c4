import type { Poses } from '@/core/arrange/poses/schema';

/** The step Poses, closed: "Walk, by chance". */
export function posesPhrase(poses: Poses | undefined, clips: readonly { name: string }[]): string {
  if (!poses?.on) return 'At rest';
  const clip = clips.find((c) => c.name === poses.clip) ?? clips[0];
  const name = clip?.name ?? 'Nothing to play';
  if (poses.plays === 'hold') return `${name}, held`;
  return `${name}, ${{ together: 'together', chance: 'by chance', turn: 'in turn' }[poses.begin]}`;
}
