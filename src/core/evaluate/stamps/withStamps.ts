import type { Needs } from '../../arrange/kind';
import { needsOf, type Arrangement } from '../../arrange/registry';
import type { ArrangementResult } from '../../arrange/result';
import { stampGround } from '../../mesh/stamp/laid';
import type { TriMesh } from '../../mesh/triMesh';
import type { Scene } from '../../scene/schema';
import { pathNeeds } from '../compileSource';
import { stampsOf, withCards, type ArrangementStamps, type StampProp } from './laidRows';

/** What stamps are looked for in. */
interface StampHost {
  scene: Scene;
  /** Undefined for a prop that is none. */
  stamp(prop: string): StampProp | undefined;
  /** Ids of the surfaces that an arrangement of such needs stands on. */
  grounds(needs: Needs): string[];
  triMesh(surface: string): TriMesh | undefined;
}

/** The stamps of an arrangement, laid on what it and its paths stand on, and what there is to say of them. */
export function withStamps(
  a: Arrangement,
  { placements, findings }: ArrangementResult,
  { scene, stamp, grounds, triMesh }: StampHost,
): Pick<ArrangementResult, 'findings'> & { stamps: ArrangementStamps | undefined } {
  const needs = needsOf(a);
  const under = () => {
    const ids = new Set([
      ...grounds(needs),
      ...needs.paths.flatMap((id) => {
        const path = scene.paths.find((p) => p.id === id);
        return path ? pathNeeds(path, scene).surfaces : [];
      }),
    ]);
    return [...ids].flatMap((id) => {
      const mesh = triMesh(id);
      return (mesh && stampGround(id, mesh)) ?? [];
    });
  };
  const stamps = stampsOf(placements, stamp, under);
  return { stamps, findings: withCards(findings, a.id, stamps?.cards ?? 0) };
}
