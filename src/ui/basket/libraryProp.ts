import { propSchema, type Prop } from '@/core/mesh/propSchema';
import { builtEntry } from '@/demo/library';

/** A built-in prop as it comes out of the library; undefined for an unknown name. */
export function libraryProp(name: string): Prop | undefined {
  const entry = builtEntry(name);
  return (
    entry &&
    propSchema.parse({
      id: name,
      name: entry.title,
      mesh: { source: 'built', name },
      foot: { at: entry.foot },
    })
  );
}
