import { loopOver, type LoopSeam } from '@/core/evaluate/timed/loop';
import { roundLength } from '@/core/mesh/deform/goRound';
import { makeLoop } from '@/store/commands/timed';
import { setClock, useClock } from '@/store/clock';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { plural } from '@/words/numbers';
import { say } from '../uiState';

const WHY: Record<LoopSeam['why'], string> = {
  noise: 'bumps that drift never come back',
  cloth: 'cloth begins once',
  sag: 'what sags begins once',
  wind: 'gusts never come back',
  clip: 'its own animation is as long as it is',
  leaves: 'what leaves its path does not come back',
  moments: 'its moments do not end as they began',
  falls: 'what falls does not come back',
};

/** Makes speeds and waves whole ones over the seconds that the time bar shows, and says what has no end. */
export function makeItLoop(): void {
  const { scene } = useDocument.getState();
  const { span } = useClock.getState();
  const { arrangements, paths, surfaces } = engine().state.result;
  const roundOf = (id: string) => {
    const path = paths.get(id);
    return path?.closed && path.strokes.length === 1 ? path.length : null;
  };
  const roundOfSurface = (id: string, way: 'u' | 'v') => {
    const { rest, faces = 0 } = surfaces.get(id) ?? {};
    const shape = rest && {
      ...rest,
      // Of a shell the outer side alone.
      indices: rest.indices.subarray(0, faces * 3),
      positions: Float64Array.from(rest.undeformed),
      normals: rest.undeformed,
    };
    return shape ? roundLength(shape, way) : null;
  };
  const { changes, seams } = loopOver(
    scene,
    span,
    (id) => arrangements.get(id)?.facts,
    roundOf,
    roundOfSurface,
  );
  if (changes.length > 0) dispatch(makeLoop, { changes, span });
  setClock({ loop: true });
  const names = [...scene.arrangements, ...scene.surfaces, ...scene.paths];
  const told = seams.map(
    ({ node, why }) => `“${names.find((n) => n.id === node)?.name ?? '?'}” shows a seam: ${WHY[why]}`,
  );
  const done =
    changes.length > 0
      ? `${plural(changes.length, 'number')} made whole over ${span} s.`
      : 'All is whole already.';
  say([done, ...told.slice(0, 3).map((t) => `${t}.`)].join(' '));
}
