import { RATE } from '../../mesh/frames';
import { Rod, type RodSpec } from '../../mesh/rod/rod';
import { ringsOf } from '../../mesh/rod/rings';
import type { TriMesh } from '../../mesh/triMesh';
import type { Begun, Beginning, Of, Problem } from './simulation';

/** What a tube that sags begins from, and how it is made. */
export function sagFrom(d: Of<'sag'>, { what, around, topology }: Begun): Beginning<Rod> {
  const { rest, context } = what;
  const first = around?.at(0);
  const lies: { id: string; key: string; triMesh: TriMesh }[] = [];
  for (const id of d.onto) {
    const still = around ? undefined : context.still?.(id);
    const triMesh = first ? first.surface(id) : still?.triMesh;
    if (triMesh) lies.push({ id, key: still?.key ?? '', triMesh });
  }
  const problems: Problem[] = [];
  const missing = d.onto.length - lies.length;
  if (missing > 0) problems.push({ kind: 'sag-missing', detail: { count: missing } });
  const { mesh } = rest.whole ?? rest;
  const spec = (start: Float64Array): RodSpec => ({
    ...d,
    start,
    topology,
    indices: mesh.indices,
    onto: lies.map(({ triMesh }) => triMesh),
    ...(around && {
      around: {
        key: around.key,
        at(frame: number) {
          const now = around.at(frame / RATE);
          return lies.map(({ id }) => now.surface(id));
        },
      },
    }),
  });
  const rings = mesh.uvs ? ringsOf(mesh.uvs, topology) : null;
  if (!rings) problems.push({ kind: 'sag-no-tube', detail: {} });
  return {
    stands: around ? around.key : lies.map(({ id, key }) => [id, key]),
    problems,
    make(start, was) {
      if (!rings) return null;
      const wanted = spec(start);
      if (!(was instanceof Rod && was.isOf(wanted))) return new Rod(wanted, rings);
      was.last(d.seconds);
      return was;
    },
  };
}
