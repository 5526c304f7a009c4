import { PLAIN_PROFILES, type PlainProfile } from '@/core/mesh/make/profiles';
import type { SurfaceShape } from '@/core/mesh/make/schema';
import { useDocument } from '@/store/document';
import { Choice } from '../../../controls/Choice';
import { Segmented } from '../../../controls/Segmented';

type Swept = Extract<SurfaceShape, { shape: 'swept' }>;

const upper = (text: string) => text[0].toUpperCase() + text.slice(1);

/** What is swept along a path, and how it is held: a plain profile, or a path that was drawn. */
export function ProfileFields({ shape, set }: { shape: Swept; set: (values: Partial<Swept>) => void }) {
  const paths = useDocument((s) => s.scene.paths);
  const plain = PLAIN_PROFILES.map((name) => ({ value: `plain ${name}`, text: upper(name) }));
  const own = paths.filter((p) => p.id !== shape.path).map((p) => ({ value: p.id, text: p.name }));
  return (
    <>
      <Choice
        label="Profile"
        hint="A plain one of the width and height, or a path as large as it is drawn"
        value={shape.profile ?? `plain ${shape.plain}`}
        options={[...plain, ...own]}
        none="What is gone"
        onChange={(v) =>
          set(v.startsWith('plain ') ? { profile: null, plain: v.slice(6) as PlainProfile } : { profile: v })
        }
      />
      <Segmented
        shown
        label="Held"
        hint="How it goes along: as props on the path do"
        value={shape.posture}
        options={[
          { value: 'bank', text: 'Bank' },
          { value: 'slope', text: 'Slope' },
          { value: 'upright', text: 'Upright' },
        ]}
        onChange={(posture) => set({ posture })}
      />
    </>
  );
}
