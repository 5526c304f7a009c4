import { Waypoints } from 'lucide-react';
import type { Spans } from '@/core/arrange/spans/schema';
import { plural } from '@/words/numbers';
import { kindUi } from '../kindUi';
import { SpansFlat } from './flat/SpansFlat';
import { addSpansAlong, addSpansOn } from './recipe/addSpansOn';
import { SpansRecipe } from './recipe/SpansRecipe';

export const spansUi = kindUi<Spans>({
  kind: 'spans',
  title: 'Spans',
  icon: Waypoints,
  Recipe: SpansRecipe,
  well: 'Every member reaches from post to post.',
  Flat: SpansFlat,
  detail(spans, placed, { arrangements, paths }) {
    const { divisions, on } = spans;
    const name = divisions
      ? paths.find((p) => p.id === divisions.path)?.name
      : arrangements.find((a) => a.id === on)?.name;
    return `${plural(placed, 'member')} ${divisions ? 'along' : 'between'} ${name ?? 'nothing'}`;
  },
  create: ({ paths }) =>
    paths.map((p, i) => ({
      text: `Along ${p.name}`,
      ...(i === 0 && { under: 'Members over the divisions of a path' }),
      run: () => addSpansAlong(p.id),
    })),
  ontoPath: {
    text: 'Members over its divisions',
    words: 'spans beams rails between divide parts posts lattice opening',
    run: addSpansAlong,
  },
  onto: { text: 'Add spans', run: addSpansOn },
});
