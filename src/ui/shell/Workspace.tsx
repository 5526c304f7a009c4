'use client';

import { useRouter } from 'next/navigation';
import {
  DndContext,
  DragOverlay,
  KeyboardSensor,
  PointerSensor,
  pointerWithin,
  rectIntersection,
  useSensor,
  useSensors,
  type CollisionDetection,
  type DragEndEvent,
  type DragMoveEvent,
} from '@dnd-kit/core';
import { sortableKeyboardCoordinates } from '@dnd-kit/sortable';
import { Portal } from '@headlessui/react';
import { useEffect, useRef, useState } from 'react';
import { addEntry, moveEntry } from '@/store/commands/order';
import { dispatch, useDocument } from '@/store/document';
import { currentView } from '@/view/handle';
import { pegDrop } from '@/view/pegTool';
import { pathUnder } from '@/view/scenePick';
import { Basket } from '../basket/Basket';
import { endPreview, filledInHand, goingWith, hangProp, previewHang, shelvesInHand } from '../basket/hang';
import { PropPicture } from '../basket/PropPicture';
import { AskPlace } from '../ask/AskPlace';
import { StillPanel } from '../still/StillPanel';
import { MaterialsPanel } from '../materials/MaterialsPanel';
import { ViewpointsPanel } from '../viewpoints/ViewpointsPanel';
import { LightPanel } from '../light/LightPanel';
import { Costs } from '../cost/Costs';
import { AllChecks } from '../checks/AllChecks';
import { BringIn } from '../dialogs/BringIn';
import { CommandList } from '../dialogs/CommandList';
import { CompareSeeds } from '../dialogs/CompareSeeds';
import { Help } from '../dialogs/Help';
import { Library } from '../dialogs/Library';
import { LineUp } from '../dialogs/LineUp';
import { SendOut } from '../dialogs/sendOut/SendOut';
import { SettingsOnTop } from '../dialogs/SettingsOnTop';
import { FlatPanel } from '../flat/FlatPanel';
import { Lists } from '../lists/Lists';
import { dropRow, type RowDrag } from '../lists/rowDrag';
import { RecipePanel } from '../recipe/RecipePanel';
import { openDialog, readTheme, useUi } from '../uiState';
import { AnotherTab } from './AnotherTab';
import { DeletedElsewhere } from './DeletedElsewhere';
import { offerHarness } from './harness';
import { Notice } from './Notice';
import { Panels } from './Panels';
import { ScenePane } from './ScenePane';
import { TopBar } from './TopBar';
import { useCardPicture } from './useCardPicture';
import { useKeys } from './useKeys';

/** Pixels within which a dragged prop finds a path. */
const CATCH = 60;

const inside: CollisionDetection = (args) => {
  const hits = pointerWithin(args);
  return hits.length ? hits : args.active.data.current?.entry ? rectIntersection(args) : hits;
};

function pointerOf(e: DragMoveEvent | DragEndEvent): { x: number; y: number } | null {
  const start = e.activatorEvent as PointerEvent;
  const scene = document.querySelector('[aria-label="Scene"]')?.getBoundingClientRect();
  if (!scene || typeof start.clientX !== 'number') return null;
  return { x: start.clientX + e.delta.x - scene.left, y: start.clientY + e.delta.y - scene.top };
}

/** What goes with a dragged prop: the rest of its group, or what is selected with it. */
function companions({ active }: DragMoveEvent | DragEndEvent): string[] {
  const { prop, others } = (active.data.current ?? {}) as { prop: string; others?: string[] };
  return others ?? goingWith(prop);
}

/** The main screen: lists and basket, the scene, the recipe, the flat view. */
export function Workspace({ onTakeOver }: { onTakeOver: () => void }) {
  const dialog = useUi((s) => s.dialog);
  const readOnly = useDocument((s) => s.readOnly);
  const props = useDocument((s) => s.scene.props);
  const [dragged, setDragged] = useState<{ prop?: string; row?: RowDrag } | null>(null);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 5 } }),
    // Enter takes a prop in hand, as on any button; Space lifts it.
    useSensor(KeyboardSensor, {
      coordinateGetter: sortableKeyboardCoordinates,
      keyboardCodes: { start: ['Space'], cancel: ['Escape'], end: ['Space', 'Enter'] },
    }),
  );
  // Menus and lists of choices open over everything, and still in a landmark of their own.
  const lists = useRef<HTMLElement>(null);
  useKeys();
  useCardPicture();
  useEffect(readTheme, []);
  const router = useRouter();
  useEffect(() => offerHarness(() => router.push('/')), [router]);

  /** The last move of a drag may be told after its end: what it showed would stay. */
  const inHand = useRef(false);
  const onDragMove = (e: DragMoveEvent) => {
    const prop = e.active.data.current?.prop as string | undefined;
    if (!prop || readOnly || !inHand.current) return;
    const at = pointerOf(e);
    const path = e.over?.id === 'scene' && at ? pathUnder(at.x, at.y, CATCH) : null;
    previewHang(prop, path?.id ?? null, companions(e));
  };
  const onDragEnd = (e: DragEndEvent) => {
    inHand.current = false;
    setDragged(null);
    const data = e.active.data.current ?? {};
    const over = e.over?.data.current ?? {};
    if (data.prop && e.over?.id === 'scene') {
      const at = pointerOf(e);
      const path = at && pathUnder(at.x, at.y, CATCH);
      endPreview();
      const others = companions(e);
      if (path) hangProp(data.prop, path.id, others);
      else if ((filledInHand() ?? shelvesInHand()) && !readOnly) hangProp(data.prop, undefined, others);
      else if (at && currentView() && !readOnly) pegDrop(currentView()!, at.x, at.y, data.prop);
      return;
    }
    endPreview();
    if (data.row && over.row && !readOnly) return dropRow(data.row as RowDrag, over.row as RowDrag);
    const at = over.index as number | undefined;
    const run = over.run as string | undefined;
    const into = over.into as string | null | undefined;
    if (data.prop && run)
      [data.prop as string, ...((data.others as string[] | undefined) ?? [])].forEach((prop, i) =>
        dispatch(addEntry, {
          id: run,
          item: { kind: 'prop', prop },
          at: at === undefined ? at : at + i,
          into,
        }),
      );
    if (data.entry && run && at !== undefined && (data.index !== at || data.into !== into)) {
      dispatch(moveEntry, { id: run, entry: data.entry as string, to: at, into });
    }
  };

  return (
    <DndContext
      sensors={sensors}
      collisionDetection={inside}
      onDragStart={(e) => {
        inHand.current = true;
        setDragged(e.active.data.current ?? null);
      }}
      onDragMove={onDragMove}
      onDragEnd={onDragEnd}
      onDragCancel={() => {
        inHand.current = false;
        setDragged(null);
        endPreview();
      }}
    >
      <Portal.Group target={lists}>
        <div
          onDragOver={(e) => e.preventDefault()}
          onDrop={(e) => {
            e.preventDefault();
            if (e.dataTransfer.files[0] && !readOnly) openDialog('bring-in', e.dataTransfer.files[0]);
          }}
          className="h-dvh overflow-auto bg-paper"
        >
          <div className="flex h-full min-h-[520px] min-w-[860px] flex-col">
            <TopBar />
            <div className="min-h-0 flex-1">
              <Panels
                lists={<Lists />}
                basket={<Basket />}
                scene={
                  <>
                    <ScenePane />
                    {readOnly === 'another-tab' && <AnotherTab onTakeOver={onTakeOver} />}
                    {readOnly === 'deleted' && <DeletedElsewhere />}
                    <Notice />
                    {dialog === 'seeds' && <CompareSeeds />}
                    {dialog === 'checks' && <AllChecks />}
                    {dialog === 'costs' && <Costs />}
                    {dialog === 'light' && <LightPanel />}
                    {dialog === 'viewpoints' && <ViewpointsPanel />}
                    {dialog === 'materials' && <MaterialsPanel />}
                    {dialog === 'still' && <StillPanel />}
                    {dialog === 'ask' && <AskPlace />}
                  </>
                }
                recipe={<RecipePanel />}
                flat={<FlatPanel />}
              />
            </div>
          </div>
        </div>
      </Portal.Group>
      <section ref={lists} aria-label="Open menu or list">
        {/* Never empty: the last menu that closes would take the section with it. */}
        <span hidden />
      </section>
      <DragOverlay dropAnimation={null}>
        {dragged?.prop ? (
          <div className="flex size-14 items-center justify-center rounded-md bg-linen-50/90 shadow-lg">
            <PropPicture prop={props.find((p) => p.id === dragged.prop)} size={44} />
          </div>
        ) : dragged?.row ? (
          <div className="w-max max-w-52 truncate rounded-md bg-ink-900 px-2 py-1 text-[13px] text-linen-50 shadow-lg">
            {dragged.row.name}
          </div>
        ) : null}
      </DragOverlay>
      {dialog === 'bring-in' && <BringIn />}
      {dialog === 'send-out' && <SendOut />}
      {dialog === 'commands' && <CommandList />}
      {dialog === 'library' && <Library />}
      {dialog === 'line-up' && <LineUp />}
      {dialog === 'on-top' && <SettingsOnTop />}
      {dialog === 'help' && <Help />}
    </DndContext>
  );
}
