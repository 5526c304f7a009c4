import { inBlocks } from '@/core/arrange/pegs/blocks';
import { pegsSchema } from '@/core/arrange/pegs/schema';
import { groundSchema } from '@/core/arrange/steps/schema';
import { deformerSchema } from '@/core/mesh/deform/schema';
import type { Scene } from '@/core/scene/schema';
import { measure } from './reference';
import { changed, hilly } from './evaluator';
import { loaded, moved, quay } from './scenes';

/** 2,000 props landing on a ground of 200,000 triangles. */
const landing = (contact: 'foot' | 'lowest' | 'footprint'): Scene => ({
  ...loaded,
  surfaces: [hilly(400, 250)],
  arrangements: loaded.arrangements.map((a) =>
    a.kind === 'run'
      ? { ...a, ground: groundSchema.parse({ mode: 'land', contact, lean: 1, above: 50 }) }
      : a,
  ),
});

/** Pegs on 100,000 triangles that wave; what the wave alone costs is its own row. */
const waving = (pegs: number): Scene => ({
  ...loaded,
  paths: [],
  surfaces: [{ ...hilly(250, 200), deformers: [deformerSchema.parse({ id: 'w', kind: 'wave', length: 9 })] }],
  arrangements: [
    pegsSchema.parse({
      id: 'pegs',
      kind: 'pegs',
      name: 'Pegs',
      thread: 'woad',
      pegs: inBlocks(
        Array.from({ length: pegs }, (_, i) => ({
          id: `peg${i + 1}`,
          prop: quay.props[0].id,
          position: [0, 0, 0],
          pin: { surface: 'hills', face: (i * 7) % 100000, u: 0.3, v: 0.3, faces: 100000 },
        })),
      ),
    }),
  ],
});

let tick = 0;
const later = () => tick++ / 30;
const landed = (contact: 'foot' | 'lowest' | 'footprint') => {
  const scene = landing(contact);
  return changed(() => moved(scene));
};
const waved = (pegs: number) => {
  const scene = waving(pegs);
  return changed(() => scene, later);
};

const SUBJECTS: Record<string, [string, () => [name: string, work: () => void][]]> = {
  ground: [
    '2,000 props land on 200,000 triangles, a point dragged',
    () => [
      ['by their foot', landed('foot')],
      ['by their lowest point', landed('lowest')],
      ['by their footprint', landed('footprint')],
    ],
  ],
  waves: [
    '100,000 triangles wave',
    () => [
      ['one peg', waved(1)],
      ['10,000 pegs', waved(10000)],
    ],
  ],
};
const [name, rows] = SUBJECTS[process.argv[2]];
await measure(name, rows());
