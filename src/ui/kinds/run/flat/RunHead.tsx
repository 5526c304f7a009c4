import { Ban, Maximize, Minus, Plus } from 'lucide-react';
import type { PartRange } from '@/core/arrange/result';
import type { Run } from '@/core/arrange/run/schema';
import type { Path } from '@/core/curve/schema';
import type { ServedArrangement } from '@/engine/served';
import { useDocument } from '@/store/document';
import { metres } from '@/words/numbers';
import { IconButton } from '../../../controls/Button';
import { Segmented } from '../../../controls/Segmented';
import { OneOfMany } from './OneOfMany';
import { PulleyControls } from './PulleyControls';
import { FlatHead, HeadWords } from '../../../flat/FlatHead';

const TABS = [
  { value: 'props', text: 'Props' },
  { value: 'spacing', text: 'Spacing' },
  { value: 'heights', text: 'Heights' },
] as const;

export type RunTab = (typeof TABS)[number]['value'];

interface RunHeadProps {
  run: Run;
  result: ServedArrangement | undefined;
  /** The stretch that is shown; none before there is a result. */
  part: PartRange | undefined;
  zoomed: boolean;
  readOnly: boolean;
  tab: RunTab;
  onTab: (tab: RunTab) => void;
  partIndex: number;
  onPart: (index: number) => void;
  rowIndex: number;
  onRow: (index: number) => void;
  onKeepOut: () => void;
  /** By a factor; null shows all. */
  onZoom: (factor: number | null) => void;
}

/** What of the run is shown, and how: over the unrolled line. */
export function RunHead(props: RunHeadProps) {
  const { run, result, part, zoomed, readOnly } = props;
  return (
    <FlatHead title="Line">
      {part && <PathName part={part} />}
      {result && result.parts.length > 1 && (
        <WhichPath parts={result.parts} value={props.partIndex} onChange={props.onPart} />
      )}
      {part && part.rows > 1 && (
        <OneOfMany
          label="Which row"
          count={part.rows}
          value={props.rowIndex}
          nameOf={(i) => `Row ${i + 1}`}
          onChange={props.onRow}
        />
      )}
      <span className="flex-1" />
      <Segmented
        label="What the flat view shows"
        hint="What is drawn over the length of the path"
        value={props.tab}
        options={TABS}
        onChange={props.onTab}
      />
      {part && <PulleyControls run={run} closed={part.closed} />}
      <IconButton name="Add a keep-out" disabled={!part || readOnly} onClick={props.onKeepOut}>
        <Ban size={15} />
      </IconButton>
      <span className="h-4 w-px bg-edge" />
      <IconButton name="Zoom out" disabled={!zoomed} onClick={() => props.onZoom(1 / 1.6)}>
        <Minus size={15} />
      </IconButton>
      <IconButton name="Zoom in" disabled={!part} onClick={() => props.onZoom(1.6)}>
        <Plus size={15} />
      </IconButton>
      <IconButton name="Show all of the line" disabled={!zoomed} onClick={() => props.onZoom(null)}>
        <Maximize size={14} />
      </IconButton>
    </FlatHead>
  );
}

function PathName({ part }: { part: PartRange }) {
  const name = useDocument((s) => s.scene.paths.find((p) => p.id === part.path)?.name);
  const units = useDocument((s) => s.scene.units);
  return <HeadWords words={`${name}, ${metres(part.length, units, 1)}, unrolled`} />;
}

/** Which of its paths, or of their strokes. */
function WhichPath(props: { parts: readonly PartRange[]; value: number; onChange: (index: number) => void }) {
  const paths = useDocument((s) => s.scene.paths);
  return (
    <OneOfMany
      label="Which path"
      count={props.parts.length}
      value={props.value}
      nameOf={(i) => partName(props.parts[i], paths)}
      onChange={props.onChange}
    />
  );
}

/** A stretch of a run by its path, and by the number of its stroke where that is not the first. */
function partName({ path, stroke }: PartRange, paths: readonly Path[]): string {
  const name = paths.find((p) => p.id === path)?.name ?? '?';
  return stroke > 0 ? `${name} · ${stroke + 1}` : name;
}
