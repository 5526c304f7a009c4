import type { Surface } from '../../mesh/surfaceSchema';

/** Surfaces that are made from what is placed, from other surfaces, and from paths as one body. */

/** Ids of the arrangements, surfaces and paths that such a surface is made from. */
export function takenBy({ mesh }: Surface): string[] {
  if (mesh.source === 'solid') return mesh.steps.flatMap((s) => (s.on ? [s.of] : []));
  if (mesh.source === 'network') return mesh.paths;
  return mesh.source === 'dust' ? mesh.over : [];
}

/**
 * Ids of the surfaces that things land on unless they name some: those that are shown, and those that a shown solid was
 * made of, which it stands for. What is made from placed things is none of them: these would land on themselves.
 */
export function shownGrounds(surfaces: readonly Surface[]): string[] {
  const byId = new Map(surfaces.map((s) => [s.id, s]));
  const placed = new Map<string, boolean>();
  /** Whether it follows from anything that is placed. */
  const isOfPlaced = (s: Surface): boolean => {
    let is = placed.get(s.id);
    if (is === undefined) {
      // A ring is told elsewhere.
      placed.set(s.id, true);
      // Paths carry what hangs between things as well, and whatever is made along them.
      is =
        s.mesh.source !== 'network' &&
        takenBy(s).some((id) => {
          const of = byId.get(id);
          return !of || isOfPlaced(of);
        });
      placed.set(s.id, is);
    }
    return is;
  };
  const stoodFor = new Set<string>();
  const standFor = (s: Surface): void => {
    if (s.mesh.source !== 'solid') return;
    for (const id of takenBy(s)) {
      const of = byId.get(id);
      if (!of || stoodFor.has(id)) continue;
      stoodFor.add(id);
      standFor(of);
    }
  };
  for (const s of surfaces) if (s.visible) standFor(s);
  return surfaces.filter((s) => (s.visible || stoodFor.has(s.id)) && !isOfPlaced(s)).map((s) => s.id);
}
