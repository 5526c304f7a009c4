import { useFrame, useThree } from '@react-three/fiber';
import { useEffect, useMemo, useRef } from 'react';
import { Group } from 'three';
import { propMatrix } from '@/core/mesh/mesh';
import type { Arrangement } from '@/core/arrange/registry';
import type { ServedArrangement } from '@/engine/served';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { Highlights } from './Highlights';
import { detail } from './many/detail';
import { Many, type Shown } from './many/Many';
import { Placed } from './many/Placed';
import { Pace } from './many/pace';
import type { Budget } from './many/plan';
import { warm } from './many/warm';
import { isCoarser, shadowsAnew } from './coarse';
import { SOFTWARE } from './software';
import { UNDRAWN } from './undrawn';
import { useMeshes } from './useMeshes';
import { setDrawn, useView } from './viewState';

/** Triangles (four points are about one) that one frame is drawn from without a graphics card. */
const AT_ONCE = 250_000;

/** A still picture takes the time that it takes. */
const ALL: Budget = { triangles: Infinity, points: Infinity };

/** What is drawn is the scene that was worked out last; it may hold a run that is only dragged so far. */
const NONE: Arrangement[] = [];

/** Every placed prop: one instanced mesh an arrangement and prop, its matrices straight from the worker. */
export function PropsLayer() {
  const invalidate = useThree((s) => s.invalidate);
  const gl = useThree((s) => s.gl);
  const props = useDocument((s) => s.scene.props);
  const materials = useDocument((s) => s.scene.materials);
  const open = useDocument((s) => s.scene.bundles.find((b) => b.open));
  const opened = useMemo(() => (open ? new Set(open.members.map((m) => m.id)) : null), [open]);
  const arrangements = useEngine((s) => s.scene?.arrangements) ?? NONE;
  const results = useEngine((s) => s.result.arrangements);
  const distortion = useView((s) => s.distortion);
  const used = useUsed(results);
  const wanted = useMemo(
    () =>
      props
        .filter((p) => used.has(p.id))
        .map((p) => ({
          id: p.id,
          mesh: p.mesh,
          settings: JSON.stringify([p.unitScale, p.foot, p.front, p.up]),
          matrix: (bounds: Parameters<typeof propMatrix>[1]) => propMatrix(p, bounds),
        })),
    [props, used],
  );
  const meshes = useMeshes(wanted, invalidate);
  const group = useMemo(() => new Group(), []);
  const warmed = useRef(false);
  const placed = useMemo(() => new Placed(group), [group]);
  const many = useMemo(() => new Many(invalidate), [invalidate]);
  const pace = useMemo(() => new Pace(SOFTWARE ? 'software' : 'card'), []);

  useEffect(() => {
    placed.show(arrangements, results, { props, materials, meshes, opened, distortion }, invalidate);
    if (!warmed.current && [...placed.alone.values()].some(({ batch }) => batch.blocks.length > 1)) {
      warmed.current = true;
      group.add(warm());
    }
    shadowsAnew(gl);
    invalidate();
  });

  // Before the frame is drawn.
  useFrame(({ camera, size }) => {
    const { moving, coarse } = useView.getState();
    let stamps = 0;
    for (const { batch, laid } of placed.alone.values()) if (laid) stamps += batch.count;
    // While something is dragged frames come as results do, which says nothing of how long they take.
    if (moving) pace.frame(performance.now());
    const shown = (): Shown[] => [
      ...[...placed.alone.values()].filter(({ laid }) => !laid),
      ...[...placed.pools].map((batch): Shown => ({ batch, as: 'full' })),
    ];
    const choose = (budget: Budget) => many.choose(shown(), camera, size.height, budget);
    detail.forStill = (eye, height) => void many.choose(shown(), eye, height, ALL);
    let plan = choose(pace.budget(moving ? 'turns' : coarse ? 'drags' : 'rests'));
    // What takes long is drawn coarser at first, and in parts when nothing has moved for a moment.
    const rests = !isCoarser();
    if (rests) detail.inParts = SOFTWARE && !UNDRAWN && plan.triangles + plan.drawn.points / 4 > AT_ONCE;
    detail.rough = rests && detail.inParts;
    if (detail.rough) plan = choose(pace.rough());
    detail.refine = () => {
      const { drawn } = choose(pace.budget('rests'));
      return () => setDrawn({ ...drawn, stamps });
    };
    setDrawn({ ...plan.drawn, stamps });
  });

  return (
    <>
      <primitive object={group} />
      <Highlights meshes={meshes} />
    </>
  );
}

/** The props that anything is placed of; the same set as long as it is those. */
function useUsed(results: ReadonlyMap<string, ServedArrangement>): ReadonlySet<string> {
  const last = useRef<ReadonlySet<string>>(new Set());
  return useMemo(() => {
    const used = new Set<string>();
    for (const { batches } of results.values()) for (const { prop } of batches) used.add(prop);
    if (used.size !== last.current.size || [...used].some((id) => !last.current.has(id))) last.current = used;
    return last.current;
  }, [results]);
}
