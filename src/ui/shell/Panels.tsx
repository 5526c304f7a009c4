'use client';

import { PanelBottomOpen, PanelLeftOpen, PanelRightOpen } from 'lucide-react';
import clsx from 'clsx';
import { useEffect, useRef, type CSSProperties, type ReactNode, type Ref } from 'react';
import {
  Group,
  Panel,
  Separator,
  useDefaultLayout,
  type GroupProps,
  type PanelImperativeHandle,
} from 'react-resizable-panels';
import { foldPanel, FOLDS, useUi, type Fold } from '../uiState';

/**
 * The parts of the main screen, with edges that are dragged, or moved by arrow keys; a double click puts one back, and
 * Enter folds what is beside it. The browser keeps the sizes.
 */
export function Panels({
  lists,
  basket,
  scene,
  recipe,
  flat,
}: Record<'lists' | 'basket' | 'scene' | 'recipe' | 'flat', ReactNode>) {
  const isFlatOpen = useUi((s) => !s.folded.flat);
  const contentsRef = useFolded('contents');
  const recipeRef = useFolded('recipe');
  const flatRef = useFolded('flat');
  useTall(flatRef);
  return (
    <Parts name="screen" orientation="horizontal" role="main">
      <Panel id="panel-work" minSize={360}>
        <Parts name="work" orientation="vertical">
          <Panel id="panel-upper" minSize={200}>
            <Parts name="upper" orientation="horizontal">
              <Side id="contents" defaultSize={228} minSize={170} maxSize={420} panelRef={contentsRef}>
                <section className="h-full" aria-label="Contents">
                  <Parts name="contents" orientation="vertical">
                    <Panel id="panel-lists" minSize={90} className="flex flex-col">
                      {lists}
                    </Panel>
                    <Edge name="Height of the basket" />
                    <Panel id="panel-basket" defaultSize="30%" minSize={60} className="flex flex-col">
                      {basket}
                    </Panel>
                  </Parts>
                </section>
              </Side>
              <Edge name="Width of the lists" upright />
              <Panel id="panel-scene" minSize={180}>
                <div className="relative h-full min-w-0">
                  {scene}
                  <Folded />
                </div>
              </Panel>
            </Parts>
          </Panel>
          <Edge name="Height of the flat view" />
          {/* What opens in the flat view opens upwards, over the scene. */}
          <Side
            id="flat"
            defaultSize={188}
            minSize={110}
            panelRef={flatRef}
            style={{ overflow: isFlatOpen ? 'visible' : 'hidden' }}
          >
            <section className="h-full" aria-label="Flat view">
              {flat}
            </section>
          </Side>
        </Parts>
      </Panel>
      <Edge name="Width of the recipe" upright />
      <Side id="recipe" defaultSize={300} minSize={250} maxSize={620} panelRef={recipeRef}>
        <section className="flex h-full min-h-0 flex-col" aria-label="Recipe">
          {recipe}
        </section>
      </Side>
    </Parts>
  );
}

/** A group whose sizes the browser keeps, as soon as a hand has changed them. */
function Parts({ name, children, ...group }: Omit<GroupProps, 'id'> & { name: string }) {
  const kept = useDefaultLayout({
    id: `clothesline ${name}`,
    storage: STORAGE,
    onlySaveAfterUserInteractions: true,
  });
  return (
    <Group id={`panels-${name}`} className="h-full" {...kept} {...group}>
      {children}
    </Group>
  );
}

/** Where the browser keeps nothing, sizes last as long as the page. */
const STORAGE = {
  getItem: (key: string): string | null => {
    try {
      return localStorage.getItem(key);
    } catch {
      return null;
    }
  },
  setItem: (key: string, value: string): void => {
    try {
      localStorage.setItem(key, value);
    } catch {
      // Nothing is lost but a size.
    }
  },
};

/** A part beside the scene: it keeps its size when the window changes, and can be folded away. */
function Side({
  id,
  children,
  ...size
}: {
  id: Fold;
  defaultSize: number;
  minSize: number;
  maxSize?: number;
  style?: CSSProperties;
  panelRef: Ref<PanelImperativeHandle | null>;
  children: ReactNode;
}) {
  return (
    <Panel
      id={`panel-${id}`}
      collapsible
      collapsedSize={0}
      groupResizeBehavior="preserve-pixel-size"
      onResize={({ inPixels }) => foldPanel(id, inPixels < 1)}
      {...size}
    >
      {children}
    </Panel>
  );
}

const Edge = ({ name, upright }: { name: string; upright?: boolean }) => (
  <Separator
    aria-label={name}
    title={`${name}: drag, or arrow keys; Enter folds, a double click puts it back`}
    className={clsx(
      'bg-edge outline-none transition-colors hover:bg-woad focus-visible:bg-woad data-[separator=active]:bg-woad',
      upright ? 'w-px' : 'h-px',
    )}
  />
);

/** Folds and unfolds a panel as the interface's own state says. */
function useFolded(id: Fold) {
  const folded = useUi((s) => s.folded[id]);
  const ref = useRef<PanelImperativeHandle | null>(null);
  useEffect(() => {
    const panel = ref.current;
    if (!panel || panel.isCollapsed() === folded) return;
    if (folded) panel.collapse();
    else panel.expand();
  }, [folded]);
  return ref;
}

/** The flat view is given half of the window, and back what it had. */
function useTall(ref: { current: PanelImperativeHandle | null }): void {
  const tall = useUi((s) => s.tallFlat);
  const before = useRef<number | null>(null);
  useEffect(() => {
    const panel = ref.current;
    if (tall && panel) {
      before.current = panel.getSize().inPixels;
      panel.resize('46vh');
    } else if (before.current !== null) {
      panel?.resize(before.current);
      before.current = null;
    }
  }, [tall, ref]);
}

const OPEN = { contents: PanelLeftOpen, recipe: PanelRightOpen, flat: PanelBottomOpen } as const;
const AT = {
  contents: 'left-1 top-1/2',
  recipe: 'right-1 top-1/2',
  flat: 'bottom-14 left-1/2',
} as const;

/** Over the scene: what brings back the panels that are folded. */
function Folded() {
  const folded = useUi((s) => s.folded);
  return FOLDS.filter(({ id }) => folded[id]).map(({ id, name }) => {
    const Icon = OPEN[id];
    return (
      <button
        key={id}
        type="button"
        aria-label={`Show ${name}`}
        title={`Show ${name}`}
        onClick={() => foldPanel(id, false)}
        className={`absolute z-10 flex size-8 items-center justify-center rounded-md border border-edge bg-paper text-soft shadow hover:text-text ${AT[id]}`}
      >
        <Icon size={16} />
      </button>
    );
  });
}
