import type { DrawnLines } from '../drawnLines';
import { compileStrokes } from '../../curve/compile';
import { drawHung, drawPoints, PIECES, PIECES_LYING } from '../../curve/hang/drawn';
import { hypot } from '../../math/portable';
import type { Quat } from '../../math/quat';
import { lerp } from '../../math/vec3';
import type { Sliced } from '../../mesh/slice';
import type { ArrangeContext } from '../context';
import { ONE_TIME } from '../fineness';
import {
  allocatePlacements,
  NO_FACTS,
  STATE,
  type ArrangementResult,
  type Finding,
  type Placements,
} from '../result';
import { sayInto } from '../say';
import { slotName } from '../slotId';
import { followMember } from '../steps/alongPath';
import { Shapes } from '../steps/shapes';
import { along } from './body';
import { linesOf, pointsOf, type Line, type Lines } from './lines';
import type { Strands } from './schema';

/**
 * Works strands out: their lines as they are drawn, in closed form; and where something lies along them, a row a line
 * with the slot that it leaves, bent along it.
 */
export function evaluateStrands(strands: Strands, context: ArrangeContext): ArrangementResult {
  const findings: Finding[] = [];
  const say = sayInto(findings, strands.id);
  const lines = linesOf(strands, context, say);
  const bare = !lines || lines.props.length === 0;
  if (lines) shortOnes(lines, strands, say);
  return {
    placements: bare ? allocatePlacements(0, []) : withBodies(lines, strands, context),
    findings,
    facts: NO_FACTS,
    parts: [],
    ...(lines && { lines: drawn(lines, strands) }),
  };
}

/** Lines that are to be shorter than the way between their ends, or longer than what they lie on: which, is said. */
function shortOnes({ list }: Lines, { hang }: Strands, say: ReturnType<typeof sayInto>): void {
  const over = list.filter((l) => l.lies?.over !== undefined);
  if (over.length > 0)
    say(
      'hang-over',
      { count: over.length, distance: Math.max(...over.map((l) => l.lies!.over!)) },
      'warning',
      over.map((l) => l.slot),
    );
  if (hang.how === 'taut' || hang.by !== 'length') return;
  const short = list.filter(
    ({ from, to, factor, lies }) =>
      lies?.short ??
      hypot(to[0] - from[0], to[1] - from[1], to[2] - from[2]) > hang.length * factor * (1 + 1e-9),
  );
  if (short.length > 0)
    say(
      'hang-short',
      { count: short.length },
      'warning',
      short.map((l) => l.slot),
    );
}

function drawn({ list, placements }: Lines, { hang }: Strands): DrawnLines {
  const rows: number[] = [];
  for (let i = 0; i < list.length; i++) if (placements.state[i] === STATE.placed) rows.push(i);
  const pieces = rows.some((i) => list[i].lies) ? PIECES_LYING : PIECES;
  const each = pieces + 1;
  const position = new Float32Array(rows.length * each * 3);
  rows.forEach((i, k) => {
    const { lies, down, factor } = list[i];
    if (lies) drawPoints(lies.points, pieces, position, k * each * 3);
    else drawHung(list[i], hang, down, factor, position, k * each * 3, pieces);
  });
  return { slot: Float64Array.from(rows, (i) => list[i].slot), each, position };
}

function withBodies({ list, placements: out }: Lines, strands: Strands, context: ArrangeContext): Placements {
  const shapes = new Shapes();
  const slices = context.fine?.of(strands.id) ?? ONE_TIME;
  list.forEach((line, i) => {
    const facts = context.prop(out.props[out.prop[i]]);
    if (facts?.state !== 'ready') return;
    const mesh = facts.mesh?.();
    if (!mesh || out.state[i] !== STATE.placed) return;
    // What is locked is held as it was.
    const size = strands.hand[slotName(line.slot)]?.lock ? strands.size : out.scale[i * 3];
    shapes.give(out, i, `${i}`, [], () =>
      bodyOf(mesh, line, strands, facts.fit ?? strands.fit, size, (pieces) =>
        slices.most(line.slot, '', pieces),
      ),
    );
  });
  return out;
}

/** A mesh laid along a line, seen from midway between the ends of that: Y up, Z to the south. */
function bodyOf(
  mesh: Sliced,
  line: Line,
  { hang }: Strands,
  fit: Strands['fit'],
  size: number,
  most: (pieces: number) => number,
): ReturnType<typeof followMember> {
  const compiled = compileStrokes([{ points: pointsOf(line, hang), closed: false, firstPoint: 0 }]);
  const upright: Quat = [0, 0, 0, 1];
  const at = lerp(line.from, line.to, 0.5);
  if (!compiled.ok)
    return {
      positions: new Float64Array(mesh.positions.length),
      normals: Float32Array.from(mesh.normals),
      indices: mesh.indices,
      groups: mesh.groups,
    };
  const { path } = compiled;
  const body = along(mesh, fit, path.length, size);
  return followMember(
    body.mesh,
    [body.low, body.high],
    { path, from: 0, to: path.length, side: [0, 0], lift: [0, 0] },
    size,
    0,
    at,
    upright,
    most,
  );
}
