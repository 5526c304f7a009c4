'use client';

import { Plus, TriangleAlert } from 'lucide-react';
import { memo, useMemo, useState, type ReactNode } from 'react';
import type { Arrangement } from '@/core/arrange/registry';
import type { Finding } from '@/core/arrange/result';
import type { Path } from '@/core/curve/schema';
import type { Mask } from '@/core/mesh/mask/schema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setArrangement } from '@/store/commands/arrangements';
import { setPath } from '@/store/commands/paths';
import { setSurface } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { setHover, setOverPath, type NodeRef, selectNode } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { useShownMask } from '@/view/masks/ShadesLayer';
import { setShades } from '@/view/viewState';
import { newPathEntries } from './newPath';
import { newSurfaceEntries } from './newSurface';
import { PlainMenu } from '../controls/PlainMenu';
import { useLatest } from '../controls/useLatest';
import { VirtualList } from '../controls/VirtualList';
import { takeBuilt } from '../basket/hang';
import { bundledAway } from '../bundles/making';
import { KIND_UIS, uiOf } from '../kinds/registry';
import { newMaskEntries } from '../masks/newMask';
import { arrangementEntries, maskEntries, pathEntries, surfaceEntries } from '../menus/entries';
import { openDialog, useUi } from '../uiState';
import { GroupHead } from './GroupHead';
import { Row, type InList } from './Row';
import { rowsOf, type Listed } from './rows';
import { stepRows } from './stepRows';
import { metres, plural, whole } from '@/words/numbers';

/** A surface that ships with the application, in hand at once. */
function takeSurface(name: string): void {
  const made = takeBuilt(name);
  if (made) selectNode('surface', made);
}

/** With more rows than this they can be searched. */
const MANY = 20;

/** Arrangements, paths and surfaces of the scene. */
export function Lists() {
  const scene = useDocument((s) => s.scene);
  const [search, setSearch] = useState('');
  const wanted = search.trim().toLowerCase();
  const { bundles } = scene;
  const away = useMemo(() => bundledAway({ bundles }), [bundles]);
  const all = scene.arrangements.length + scene.paths.length + scene.surfaces.length + scene.masks.length;
  const arrangements = useFound(scene.arrangements, away, wanted);
  const paths = useFound(scene.paths, away, wanted);
  const surfaces = useFound(scene.surfaces, away, wanted);
  const masks = useFound(scene.masks, away, wanted);
  const places = useMemo(() => [...paths, ...surfaces], [paths, surfaces]);
  return (
    <div className="thin-scroll min-h-0 flex-1 overflow-y-auto pb-2" onKeyDown={stepRows}>
      {(all > MANY || wanted !== '') && <Search value={search} onChange={setSearch} />}
      <ListHead title="Arrangements">
        <PlainMenu
          name="New arrangement"
          entries={() => KIND_UIS.flatMap(({ create }) => create?.(scene) ?? [])}
        >
          <Plus size={17} />
        </PlainMenu>
      </ListHead>
      {wanted !== '' && arrangements.length === 0 && <Hint>None is called that.</Hint>}
      {scene.arrangements.length === 0 && <Hint>Hang a prop on a path and its run stands here.</Hint>}
      <GroupedList nodes={arrangements} refOf={arrangementRef} row={arrangementRow} />
      <ListHead title="Paths & surfaces">
        <PlainMenu
          name="New path or surface"
          entries={() => [
            ...newPathEntries(scene),
            ...newSurfaceEntries(),
            { text: 'Bring in a surface', run: () => openDialog('bring-in') },
            { text: 'Beacon tower, with uv', run: () => takeSurface('tower') },
            { text: 'Rack with boards, to stock', run: () => takeSurface('wall-rack') },
          ]}
        >
          <Plus size={17} />
        </PlainMenu>
      </ListHead>
      {wanted !== '' && paths.length + surfaces.length === 0 && <Hint>None is called that.</Hint>}
      {scene.paths.length + scene.surfaces.length === 0 && <Hint>No path yet. Draw one in the scene.</Hint>}
      <GroupedList nodes={places} refOf={placeRef} row={placeRow} />
      <ListHead title="Masks">
        <PlainMenu name="New mask" entries={() => newMaskEntries(scene)}>
          <Plus size={17} />
        </PlainMenu>
      </ListHead>
      {wanted !== '' && masks.length === 0 && <Hint>None is called that.</Hint>}
      {scene.masks.length === 0 && <Hint>A mask says where: by slope, height, paths, a brush …</Hint>}
      <GroupedList nodes={masks} refOf={maskRef} row={maskRow} />
    </div>
  );
}

/** Of a list those that no bundle has taken in, and that are called so; the same list while nothing of that changes. */
function useFound<T extends { id: string; name: string }>(
  all: readonly T[],
  away: ReadonlySet<string>,
  wanted: string,
): readonly T[] {
  return useMemo(() => {
    const list = away.size > 0 ? all.filter((n) => !away.has(n.id)) : all;
    return wanted === '' ? list : list.filter((n) => n.name.toLowerCase().includes(wanted));
  }, [all, away, wanted]);
}

const Search = memo(function Search(props: { value: string; onChange: (text: string) => void }) {
  return (
    <input
      type="search"
      aria-label="Search the lists"
      placeholder="Search"
      value={props.value}
      onChange={(e) => props.onChange(e.target.value)}
      onKeyDown={(e) => e.key === 'Escape' && props.onChange('')}
      className="mx-3 mt-2.5 w-[calc(100%-1.5rem)] rounded-md border border-edge bg-card px-2 py-1 text-[13px]"
    />
  );
});

/** A list with the heads of its groups; a search looks into folded ones too. While none of them changes it stays as it is. */
const GroupedList = memo(Grouped) as typeof Grouped;

function Grouped<N extends Listed & { visible?: boolean }>({
  nodes,
  refOf,
  row,
}: {
  nodes: readonly N[];
  refOf: (node: N) => NodeRef;
  row: (node: N, place: InList) => ReactNode;
}) {
  const folded = useUi((s) => s.foldedGroups);
  const shown = rowsOf(nodes, folded);
  const rows = useLatest(() => shown.flatMap((r) => ('head' in r ? [] : [refOf(r.node)])));
  return (
    <VirtualList
      as="ul"
      space="li"
      count={shown.length}
      height={(i) => ('head' in shown[i] ? HEAD_HEIGHT : ROW_HEIGHT)}
    >
      {(i) => {
        const r = shown[i];
        if (!('head' in r)) return row(r.node, { rows, inGroup: r.inGroup });
        return (
          <GroupHead
            key={`group ${r.head}`}
            group={r.head}
            members={r.members.map(refOf)}
            folded={r.folded}
            visible={r.members.some((m) => m.visible ?? true)}
          />
        );
      }}
    </VirtualList>
  );
}

const ROW_HEIGHT = 48;
const HEAD_HEIGHT = 32;

function ListHead({ title, children }: { title: string; children: ReactNode }) {
  return (
    <div className="flex items-center justify-between px-3 pb-0.5 pt-2.5">
      <h2 className="font-display text-[15px] font-semibold">{title}</h2>
      {children}
    </div>
  );
}

const Hint = ({ children }: { children: ReactNode }) => (
  <p className="px-3 py-1 text-[12.5px] text-soft">{children}</p>
);

const hasError = (result: { findings: readonly Finding[] } | undefined): boolean =>
  result?.findings.some((f) => f.severity === 'error') ?? false;

/** A node of a row, the same one as long as it is that. */
const useNode = (kind: NodeRef['kind'], id: string): NodeRef => useMemo(() => ({ kind, id }), [kind, id]);

const ArrangementRow = memo(function ArrangementRow({
  arrangement: a,
  ...place
}: { arrangement: Arrangement } & InList) {
  const placed = useEngine((s) => s.result.arrangements.get(a.id)?.counts.placed ?? 0);
  const count = useEngine((s) => s.result.arrangements.get(a.id)?.placements.count ?? 0);
  const broken = useEngine((s) => hasError(s.result.arrangements.get(a.id)));
  const { title, icon: Icon, holds } = uiOf(a);
  // Of lines alone nothing is placed: how many there are changes by itself.
  const held = useEngine(() => holds?.(a) ?? null);
  const gaps = count - placed;
  return (
    <Row
      name={a.name}
      color={THREAD_COLORS[a.thread]}
      node={useNode('arrangement', a.id)}
      {...place}
      visible={a.visible}
      onVisible={() => dispatch(setArrangement, { id: a.id, values: { visible: !a.visible } })}
      onHover={(over) => !over && setHover(null)}
      menu={() => arrangementEntries(a)}
      detail={
        <>
          <Icon size={12} className="shrink-0" />
          {title} · {held ?? `${whole(placed)} placed${gaps > 0 ? ` · ${plural(gaps, 'gap')}` : ''}`}
          {broken && <TriangleAlert size={12} className="text-danger" aria-label="has an error" />}
        </>
      }
    />
  );
});

const PathRow = memo(function PathRow({ path, ...place }: { path: Path } & InList) {
  const units = useDocument((s) => s.scene.units);
  const result = useEngine((s) => s.result.paths.get(path.id));
  return (
    <Row
      name={path.name}
      color="var(--soft)"
      node={useNode('path', path.id)}
      {...place}
      visible={path.visible}
      onVisible={() => dispatch(setPath, { id: path.id, values: { visible: !path.visible } })}
      onHover={(over) => setOverPath(over ? path.id : null)}
      menu={() => pathEntries(path)}
      detail={
        <>
          Path · {result?.ok ? metres(result.length, units, 1) : '–'} · {result?.closed ? 'closed' : 'open'}
          {result && !result.ok && (
            <TriangleAlert size={12} className="text-danger" aria-label="has an error" />
          )}
        </>
      }
    />
  );
});

const MaskRow = memo(function MaskRow({ mask, ...place }: { mask: Mask } & InList) {
  const wrong = useEngine((s) => (s.result.masks.get(mask.id)?.findings.length ?? 0) > 0);
  const shown = useShownMask() === mask.id;
  return (
    <Row
      name={mask.name}
      color="var(--color-linen-300)"
      node={useNode('mask', mask.id)}
      {...place}
      visible={shown}
      onVisible={() => setShades(shown ? null : mask.id)}
      menu={() => maskEntries(mask)}
      detail={
        <>
          Mask · {plural(mask.layers.length, 'layer')}
          {wrong && <TriangleAlert size={12} className="text-danger" aria-label="has an error" />}
        </>
      }
    />
  );
});

const SurfaceRow = memo(function SurfaceRow({ surface, ...place }: { surface: Surface } & InList) {
  const faces = useEngine((s) => s.result.surfaces.get(surface.id)?.faces);
  const broken = useEngine((s) => (s.result.surfaces.get(surface.id)?.findings.length ?? 0) > 0);
  return (
    <Row
      name={surface.name}
      color="var(--color-linen-400)"
      node={useNode('surface', surface.id)}
      {...place}
      visible={surface.visible}
      onVisible={() => dispatch(setSurface, { id: surface.id, values: { visible: !surface.visible } })}
      menu={() => surfaceEntries(surface)}
      detail={
        broken ? (
          <>
            Surface <TriangleAlert size={12} className="text-danger" aria-label="has an error" />
          </>
        ) : (
          `Surface · ${plural(faces ?? 0, 'face')}`
        )
      }
    />
  );
});

const arrangementRef = ({ id }: Arrangement): NodeRef => ({ kind: 'arrangement', id });
const arrangementRow = (a: Arrangement, place: InList) => (
  <ArrangementRow key={a.id} arrangement={a} {...place} />
);

const placeRef = (n: Path | Surface): NodeRef => ({ kind: 'source' in n ? 'path' : 'surface', id: n.id });
const placeRow = (n: Path | Surface, place: InList) =>
  'source' in n ? (
    <PathRow key={n.id} path={n} {...place} />
  ) : (
    <SurfaceRow key={n.id} surface={n} {...place} />
  );

const maskRef = ({ id }: Mask): NodeRef => ({ kind: 'mask', id });
const maskRow = (m: Mask, place: InList) => <MaskRow key={m.id} mask={m} {...place} />;
