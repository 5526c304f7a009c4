'use client';

import { Eye, EyeOff, Plus, TriangleAlert } from 'lucide-react';
import clsx from 'clsx';
import { useState, type ReactNode } from 'react';
import type { Arrangement } from '@/core/arrange/registry';
import type { Path } from '@/core/curve/schema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setArrangement } from '@/store/commands/arrangements';
import { setPath } from '@/store/commands/paths';
import { setSurface } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { selectNodes, setHover, setOverPath, type NodeRef } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { newPathEntries } from './newPath';
import { newSurfaceEntries } from './newSurface';
import { IconButton } from '../controls/Button';
import { ContextMenu } from '../controls/ContextMenu';
import { PlainMenu, type MenuEntry } from '../controls/PlainMenu';
import { VirtualList } from '../controls/VirtualList';
import { takeBuilt } from '../basket/hang';
import { KIND_UIS, uiOf } from '../kinds/registry';
import { arrangementEntries, menuOf, pathEntries, surfaceEntries } from '../menus/entries';
import { pick } from './pick';
import { useIsSelected } from './useIsSelected';
import { renameSelected } from '../recipe/renameSelected';
import { openDialog } from '../uiState';
import { metres, plural, whole } from '@/words/numbers';

/** With more rows than this they can be searched. */
const MANY = 20;

/** Arrangements, paths and surfaces of the scene. */
export function Lists() {
  const scene = useDocument((s) => s.scene);
  const [search, setSearch] = useState('');
  const wanted = search.trim().toLowerCase();
  const found = <T extends { name: string }>(list: readonly T[]): readonly T[] =>
    wanted === '' ? list : list.filter((n) => n.name.toLowerCase().includes(wanted));
  const all = scene.arrangements.length + scene.paths.length + scene.surfaces.length;
  const [arrangements, paths, surfaces] = [
    found(scene.arrangements),
    found(scene.paths),
    found(scene.surfaces),
  ];
  const arrangementRows = arrangements.map(({ id }): NodeRef => ({ kind: 'arrangement', id }));
  const otherRows = [
    ...paths.map(({ id }): NodeRef => ({ kind: 'path', id })),
    ...surfaces.map(({ id }): NodeRef => ({ kind: 'surface', id })),
  ];
  return (
    <div className="thin-scroll min-h-0 flex-1 overflow-y-auto pb-2">
      {(all > MANY || wanted !== '') && (
        <input
          type="search"
          aria-label="Search the lists"
          placeholder="Search"
          value={search}
          onChange={(e) => setSearch(e.target.value)}
          onKeyDown={(e) => e.key === 'Escape' && setSearch('')}
          className="mx-3 mt-2.5 w-[calc(100%-1.5rem)] rounded-md border border-edge bg-card px-2 py-1 text-[13px]"
        />
      )}
      <ListHead title="Arrangements">
        <PlainMenu name="New arrangement" entries={KIND_UIS.flatMap(({ create }) => create?.(scene) ?? [])}>
          <Plus size={17} />
        </PlainMenu>
      </ListHead>
      {wanted !== '' && arrangements.length === 0 && <Hint>None is called that.</Hint>}
      {scene.arrangements.length === 0 && <Hint>Hang a prop on a path and its run stands here.</Hint>}
      <VirtualList as="ul" space="li" count={arrangements.length} height={48}>
        {(i) => (
          <ArrangementRow key={arrangements[i].id} arrangement={arrangements[i]} rows={arrangementRows} />
        )}
      </VirtualList>
      <ListHead title="Paths & surfaces">
        <PlainMenu
          name="New path or surface"
          entries={[
            ...newPathEntries(scene),
            ...newSurfaceEntries(),
            { text: 'Bring in a surface', run: () => openDialog('bring-in') },
            { text: 'Beacon tower, with uv', run: () => void takeBuilt('tower') },
          ]}
        >
          <Plus size={17} />
        </PlainMenu>
      </ListHead>
      {wanted !== '' && paths.length + surfaces.length === 0 && <Hint>None is called that.</Hint>}
      {scene.paths.length + scene.surfaces.length === 0 && <Hint>No path yet. Draw one in the scene.</Hint>}
      <VirtualList as="ul" space="li" count={paths.length + surfaces.length} height={48}>
        {(i) =>
          i < paths.length ? (
            <PathRow key={paths[i].id} path={paths[i]} rows={otherRows} />
          ) : (
            <SurfaceRow
              key={surfaces[i - paths.length].id}
              surface={surfaces[i - paths.length]}
              rows={otherRows}
            />
          )
        }
      </VirtualList>
    </div>
  );
}

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

interface RowProps {
  name: string;
  detail: ReactNode;
  color: string;
  node: NodeRef;
  /** The rows of its list, for what is between it and another. */
  rows: readonly NodeRef[];
  visible: boolean;
  onVisible: () => void;
  onHover?: (over: boolean) => void;
  menu: () => MenuEntry[];
}

function Row({ name, detail, color, node, rows, visible, onVisible, onHover, menu }: RowProps) {
  const selected = useIsSelected(node);
  return (
    <ContextMenu
      name={`What can be done with ${name}`}
      entries={() => menuOf(menu)}
      onOpen={() => !selected && selectNodes([node])}
    >
      <li
        className={clsx(
          'group mx-1.5 my-0.5 flex items-center rounded-lg border',
          selected ? 'border-edge bg-card shadow-sm' : 'border-transparent hover:bg-well',
        )}
        onPointerEnter={() => onHover?.(true)}
        onPointerLeave={() => onHover?.(false)}
      >
        <button
          type="button"
          aria-current={selected || undefined}
          onClick={(e) => pick(e, node, rows)}
          onDoubleClick={renameSelected}
          title="Double click or F2 renames it; Shift or Mod takes several"
          className="flex min-w-0 flex-1 items-center gap-2.5 py-1.5 pl-2 text-left"
        >
          <span className="h-8 w-1 shrink-0 rounded-full" style={{ background: color }} />
          <span className="min-w-0">
            <span className="block truncate text-[13.5px] font-medium leading-tight">{name}</span>
            <span className="flex items-center gap-1 truncate text-[12px] leading-tight text-soft">
              {detail}
            </span>
          </span>
        </button>
        <IconButton
          name={visible ? `Hide ${name}` : `Show ${name}`}
          aria-pressed={!visible}
          onClick={onVisible}
          className="mr-1"
        >
          {visible ? <Eye size={15} className="opacity-65" /> : <EyeOff size={15} />}
        </IconButton>
      </li>
    </ContextMenu>
  );
}

function ArrangementRow({ arrangement: a, rows }: { arrangement: Arrangement; rows: readonly NodeRef[] }) {
  const result = useEngine((s) => s.result.arrangements.get(a.id));
  const placed = result?.counts.placed ?? 0;
  const gaps = result ? result.placements.count - placed : 0;
  const broken = result?.findings.some((f) => f.severity === 'error');
  const { title, icon: Icon, holds } = uiOf(a);
  return (
    <Row
      name={a.name}
      color={THREAD_COLORS[a.thread]}
      node={{ kind: 'arrangement', id: a.id }}
      rows={rows}
      visible={a.visible}
      onVisible={() => dispatch(setArrangement, { id: a.id, values: { visible: !a.visible } })}
      onHover={(over) => !over && setHover(null)}
      menu={() => arrangementEntries(a)}
      detail={
        <>
          <Icon size={12} className="shrink-0" />
          {title} · {holds?.(a) ?? `${whole(placed)} placed${gaps > 0 ? ` · ${plural(gaps, 'gap')}` : ''}`}
          {broken && <TriangleAlert size={12} className="text-danger" aria-label="has an error" />}
        </>
      }
    />
  );
}

function PathRow({ path, rows }: { path: Path; rows: readonly NodeRef[] }) {
  const units = useDocument((s) => s.scene.units);
  const result = useEngine((s) => s.result.paths.get(path.id));
  return (
    <Row
      name={path.name}
      color="var(--soft)"
      node={{ kind: 'path', id: path.id }}
      rows={rows}
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
}

function SurfaceRow({ surface, rows }: { surface: Surface; rows: readonly NodeRef[] }) {
  const faces = useEngine((s) => s.result.surfaces.get(surface.id)?.faces);
  const broken = useEngine((s) => (s.result.surfaces.get(surface.id)?.findings.length ?? 0) > 0);
  return (
    <Row
      name={surface.name}
      color="var(--color-linen-400)"
      node={{ kind: 'surface', id: surface.id }}
      rows={rows}
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
}
