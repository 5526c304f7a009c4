'use client';

import { useDroppable } from '@dnd-kit/core';
import clsx from 'clsx';
import { Brush, MousePointer2, Pin, Ruler, Spline } from 'lucide-react';
import dynamic from 'next/dynamic';
import type { ReactNode } from 'react';
import { setScene } from '@/store/commands/scene';
import { useTouching } from '@/store/touching';
import { dispatch, useDocument } from '@/store/document';
import { useSelection } from '@/store/selection';
import {
  askFit,
  chooseTool,
  setMode,
  useView,
  type Tool,
  type ViewMode,
  type ViewState,
} from '@/view/viewState';
import { Button } from '../controls/Button';
import { ContextMenu } from '../controls/ContextMenu';
import { selectionEntries } from '../menus/entries';
import { TravelHandle } from '@/view/overlay/TravelHandle';
import { uiOf } from '../kinds/registry';
import { openDialog, useUi } from '../uiState';
import { plural, whole } from '@/words/numbers';
import { DrawOptions } from './DrawOptions';
import { PaintOptions } from './PaintOptions';
import { MeasureOptions } from './MeasureOptions';
import { PegOptions } from './PegOptions';
import { OpenBundle } from '../bundles/OpenBundle';
import { PointPanel } from './PointPanel';
import { SnapTag } from './SnapTag';
import { SlotPanel } from './SlotPanel';
import { TimeBar } from './TimeBar';

const SceneCanvas = dynamic(() => import('@/view/SceneCanvas').then((m) => m.SceneCanvas), { ssr: false });

/** The scene with its tools, view buttons and small panels. */
export function ScenePane() {
  const { setNodeRef } = useDroppable({ id: 'scene' });
  return (
    <ContextMenu name="What can be done here" entries={selectionEntries}>
      <div ref={setNodeRef} className="absolute inset-0">
        <SceneCanvas>
          <Handles />
          <ToolLine />
          <Unseen />
          <NextStep />
          <div className="pointer-events-none absolute inset-x-3 bottom-3 flex flex-wrap-reverse items-center justify-between gap-2 *:pointer-events-auto">
            <ViewButtons />
            <TimeBar />
            <Status />
          </div>
          <OpenBundle />
          <PointPanel />
          <SlotPanel />
        </SceneCanvas>
      </div>
    </ContextMenu>
  );
}

/** The handles and marks of the selected arrangement's kind. */
function Handles() {
  const id = useSelection((s) => s.arrangement);
  const arrangement = useDocument((s) => s.scene.arrangements.find((a) => a.id === id));
  if (!arrangement) return null;
  const { Handles: Own } = uiOf(arrangement);
  return (
    <>
      {Own && <Own key={arrangement.id} arrangement={arrangement} />}
      <TravelHandle key={`travel ${arrangement.id}`} arrangement={arrangement} />
    </>
  );
}

const TOOLS: { tool: Tool; text: string; key: string; icon: ReactNode; hint: string }[] = [
  {
    tool: 'pick',
    text: 'Pick',
    key: '1',
    icon: <MousePointer2 size={15} />,
    hint: 'Select and move points and props',
  },
  {
    tool: 'draw',
    text: 'Draw path',
    key: '2',
    icon: <Spline size={15} />,
    hint: 'Click points on the ground or a surface',
  },
  {
    tool: 'peg',
    text: 'Peg',
    key: '3',
    icon: <Pin size={15} />,
    hint: 'Put props on surfaces, paths and the ground; the wheel turns, with Shift lifts, with Alt sizes',
  },
  {
    tool: 'paint',
    text: 'Paint',
    key: '4',
    icon: <Brush size={15} />,
    hint: 'Paint where props stand, and how large they are; Shift takes away',
  },
];

/** The tools hang from a sagging line. */
function ToolLine() {
  const tool = useView((s) => s.tool);
  const readOnly = useDocument((s) => s.readOnly !== null);
  return (
    <div className="pointer-events-none absolute inset-x-0 top-0 h-20">
      <svg
        className="absolute inset-0 h-10 w-full"
        preserveAspectRatio="none"
        viewBox="0 0 100 40"
        aria-hidden
      >
        {/* The sky behind it is bright or dark by the scene's light, not by the theme. */}
        {(
          [
            ['var(--paper)', 4, 0.45],
            ['var(--text)', 1.5, 1],
          ] as const
        ).map(([stroke, width, opacity]) => (
          <path
            key={stroke}
            d="M0 4Q50 40 100 4"
            fill="none"
            stroke={stroke}
            strokeWidth={width}
            strokeOpacity={opacity}
            vectorEffect="non-scaling-stroke"
          />
        ))}
      </svg>
      <div
        className="absolute inset-x-0 top-[15px] flex flex-wrap justify-center gap-x-2.5 gap-y-1 max-[1100px]:gap-x-1"
        role="toolbar"
        aria-label="Tools"
      >
        {TOOLS.map((t) => (
          <button
            key={t.tool}
            type="button"
            disabled={readOnly && t.tool !== 'pick'}
            aria-pressed={tool === t.tool}
            title={`${t.hint} (${t.key})`}
            onClick={() => chooseTool(t.tool)}
            className={tagClass(tool === t.tool)}
          >
            <Peg />
            {t.icon}
            {t.text}
          </button>
        ))}
        <SnapTag className={tagClass} peg={<Peg />} />
        <button
          type="button"
          aria-pressed={tool === 'measure'}
          title="Distances, angles, sizes and heights (6)"
          onClick={() => chooseTool('measure')}
          className={tagClass(tool === 'measure')}
        >
          <Peg />
          <Ruler size={15} />
          Measure
        </button>
      </div>
    </div>
  );
}

const tagClass = (on: boolean) =>
  clsx(
    'pointer-events-auto relative mt-1.5 flex h-[34px] items-center gap-2 rounded-md px-3 text-[13px] max-[1100px]:gap-1.5 max-[1100px]:px-2 shadow-[0_2px_5px_rgb(30_42_54/0.18)]',
    on ? 'bg-madder font-medium text-white' : 'bg-paper text-text hover:bg-card',
  );

/** What a tag hangs by. */
const Peg = () => (
  <span
    aria-hidden
    className="absolute -top-2.5 left-1/2 h-4 w-[7px] -translate-x-1/2 rounded-[2px] bg-[#C9A36B] shadow-[inset_-1px_0_0_rgb(90_60_20/0.35)]"
  >
    <span className="absolute left-1/2 top-[6px] h-px w-full -translate-x-1/2 bg-[#8A6632]" />
  </span>
);

/** A line over the scene. */
function Hint({ children }: { children: ReactNode }) {
  return (
    <div
      className="absolute inset-x-0 top-[76px] mx-auto flex w-fit max-w-[90%] items-center gap-3 rounded-lg bg-paper/95 px-4 py-2 text-sm shadow"
      role="status"
    >
      {children}
    </div>
  );
}

/** Why the scene cannot be seen, and what can be done meanwhile. */
function Unseen() {
  const picture = useView((s) => s.picture);
  if (picture === 'drawn') return null;
  return (
    <div
      role="alert"
      className="absolute inset-0 m-auto h-fit w-fit max-w-[80%] rounded-lg bg-paper/95 px-4 py-3 text-sm shadow"
    >
      {picture === 'lost'
        ? 'The graphics of this computer have let go of the picture. It comes back by itself; everything else goes on.'
        : 'This browser has no WebGL, so that the scene cannot be drawn. Lists, recipes, flat views, checks and files work; to see the scene, turn on hardware acceleration or open it in another browser.'}
    </div>
  );
}

/** What to do next, where a scene has little in it yet. */
function NextStep() {
  const tool = useView((s) => s.tool);
  const facesSaid = useView((s) => s.faces?.said);
  const snapSaid = useView((s) => s.snapPick?.said);
  const paths = useDocument((s) => s.scene.paths.length);
  const props = useDocument((s) => s.scene.props.length);
  const runs = useDocument((s) => s.scene.arrangements.length);
  const surfaces = useDocument((s) => s.scene.surfaces.length);
  if (tool === 'draw') return <DrawOptions />;
  if (tool === 'edge') {
    return (
      <Hint>Click an edge of a surface: the loop through it becomes a path. Escape puts the tool away.</Hint>
    );
  }
  if (tool === 'hold') {
    return (
      <Hint>
        Click the cloth to hold it there; click a held place to let it go. Escape puts the tool away.
      </Hint>
    );
  }
  if (tool === 'faces') {
    return (
      <Hint>
        {facesSaid ??
          'Click a flat piece of a surface to measure from it, or to leave it out again; with Shift a single face. Escape puts the tool away.'}
      </Hint>
    );
  }
  if (tool === 'snap-point') {
    return (
      <Hint>
        {snapSaid ??
          'Click on any placed copy of the prop: it gets a snap point there, with the face’s direction. Corners and edges catch; Ctrl suspends that. Escape puts the tool away.'}
      </Hint>
    );
  }
  if (tool === 'measure') return <MeasureOptions />;
  if (tool === 'peg') return <PegOptions />;
  if (tool === 'paint') return <PaintOptions />;
  // With a surface there is more than one way to begin, and something to look at.
  if (runs > 0 || (paths === 0 && surfaces > 0)) return null;
  return (
    <Hint>
      {paths === 0 ? (
        <>
          Start with a path: click points on the ground.
          <Button
            look="ink"
            title="Each click is a point; Enter ends the path"
            onClick={() => chooseTool('draw')}
          >
            Draw path
          </Button>
        </>
      ) : props === 0 ? (
        <>
          Now take a prop into the basket.
          <Button look="ink" title="Props that ship with Clothesline" onClick={() => openDialog('library')}>
            Open the library
          </Button>
        </>
      ) : (
        'Drag a prop from the basket onto the path, or press + on it.'
      )}
    </Hint>
  );
}

const MODES: { mode: ViewMode; text: string; keys: string }[] = [
  { mode: 'free', text: 'Free', keys: 'Alt+1' },
  { mode: 'top', text: 'Top', keys: 'Alt+2' },
  { mode: 'front', text: 'Front', keys: 'Alt+3' },
  { mode: 'side', text: 'Side', keys: 'Alt+4' },
];

function ViewButtons() {
  const mode = useView((s) => s.mode);
  const tag = 'rounded-[5px] px-2.5 py-1 text-[12.5px]';
  return (
    <div
      className="flex gap-0.5 rounded-lg border border-edge bg-paper/95 p-[3px]"
      role="group"
      aria-label="View"
    >
      {MODES.map((m) => (
        <button
          key={m.mode}
          type="button"
          aria-pressed={mode === m.mode}
          title={`${m.text} view (${m.keys})`}
          onClick={() => setMode(m.mode)}
          className={clsx(tag, mode === m.mode ? 'bg-groove font-medium' : 'hover:bg-well')}
        >
          {m.text}
        </button>
      ))}
      <button
        type="button"
        title="Fit the view (Home)"
        onClick={askFit}
        className={clsx(tag, 'hover:bg-well')}
      >
        Fit
      </button>
    </div>
  );
}

/** "1,200 props drawn in full", or how many are drawn how. */
function drawnWords(
  { full, simple, boxes, points, left, stamps }: ViewState['drawn'],
  { moving, coarse, picture }: Pick<ViewState, 'moving' | 'coarse' | 'picture'>,
): string {
  const laid = stamps > 0 ? `, ${plural(stamps, 'stamp')}` : '';
  const count = full + simple + boxes + points;
  if (count === 0 && stamps > 0) return `${plural(stamps, 'stamp')} drawn`;
  const all = plural(count, 'prop');
  if (picture !== 'drawn') return `${all}${laid}, not drawn`;
  // While something is dragged numbers that change with it would be in the way, as long as all is there.
  if (simple + boxes + points === 0 || (coarse && left === 0))
    return `${all} drawn ${moving || coarse ? 'coarser while moving' : 'in full'}${laid}`;
  const parts = [
    full > 0 && `${whole(full)} in full`,
    simple > 0 && `${whole(simple)} simply`,
    boxes > 0 && `${whole(boxes)} as boxes`,
    points > 0 && `${whole(points - left)} as points`,
    left > 0 && `${whole(left)} left out for the moment`,
  ];
  return `${all}: ${parts.filter(Boolean).join(', ')}${laid}`;
}

/** Said while something is dragged: in the scene they are tinted. */
function BeginToOverlap() {
  const count = useTouching((s) => s.count);
  if (count === 0) return null;
  return (
    <p
      role="status"
      className="absolute bottom-full right-0 mb-1.5 whitespace-nowrap rounded-lg border border-edge bg-paper/95 px-3 py-1.5 font-semibold text-madder"
    >
      {plural(count, 'prop')} {count === 1 ? 'begins' : 'begin'} to overlap
    </p>
  );
}

/** What is drawn, and how. */
function Status() {
  const moving = useView((s) => s.moving);
  const coarse = useView((s) => s.coarse);
  const units = useDocument((s) => s.scene.units);
  const drawn = useView((s) => s.drawn);
  const picture = useView((s) => s.picture);
  return (
    <div className="relative rounded-lg border border-edge bg-paper/95 px-3 py-1.5 text-[12.5px]">
      <BeginToOverlap />
      <button
        type="button"
        title="What things cost: triangles, memory, file size"
        className="rounded px-0.5 hover:bg-groove"
        onClick={() => openDialog(useUi.getState().dialog === 'costs' ? null : 'costs')}
      >
        <span data-testid="drawn">{drawnWords(drawn, { moving, coarse, picture })}</span>
      </button>{' '}
      ·{' '}
      <button
        type="button"
        title="Show metres or centimetres"
        aria-label={`Units: ${units}. Change`}
        className="rounded px-0.5 underline decoration-dotted underline-offset-2 hover:bg-groove"
        onClick={() => dispatch(setScene, { units: units === 'm' ? 'cm' : 'm' })}
      >
        {units}
      </button>{' '}
      · Y up
    </div>
  );
}
