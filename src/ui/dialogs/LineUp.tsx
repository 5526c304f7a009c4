'use client';

import { RotateCcw } from 'lucide-react';
import { useEffect, useState } from 'react';
import { quarterTurned } from '@/core/mesh/mesh';
import type { Prop } from '@/core/mesh/propSchema';
import { setProps } from '@/store/commands/scene';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { selectedNodes, useSelection } from '@/store/selection';
import { pictureOfLineUp, type LineUp as Picture, type LineUpRow } from '@/view/lineUp';
import { waitFor } from '@/view/viewState';
import { metres } from '@/words/numbers';
import { hangProp } from '../basket/hang';
import { Button, IconButton } from '../controls/Button';
import { Choice } from '../controls/Choice';
import { Modal } from '../controls/Modal';
import { Segmented } from '../controls/Segmented';
import { AXES, UNITS } from '../recipe/nodes/MeshFields';
import { lying, type Lie } from '../recipe/nodes/poseProp';
import { FEET } from '../recipe/nodes/PropPanel';
import { openDialog } from '../uiState';

const COLUMNS = 6;
const COLUMN = 138;
const TALLEST = 190;
const SCALES = [
  { value: 'true', text: 'True sizes', hint: 'All to one scale, beside a metre' },
  { value: 'alike', text: 'Alike', hint: 'Each as large as the others, to see what is small' },
] as const;

/** The selected props, or the whole basket, side by side: their feet, fronts and sizes, set for all at once. */
export function LineUp() {
  const all = useDocument((s) => s.scene.props);
  const readOnly = useDocument((s) => s.readOnly !== null);
  useSelection((s) => s.beside);
  const chosen = selectedNodes().flatMap((n) => (n.kind === 'prop' ? [n.id] : []));
  const props = chosen.length > 1 ? all.filter((p) => chosen.includes(p.id)) : all;
  const [scale, setScale] = useState<'true' | 'alike'>('true');
  const picture = usePictureOf(props, scale === 'alike');
  const set = async (lieOf: (prop: Prop) => Lie) => {
    const changes = await Promise.all(
      props.map(async (p) => ({ id: p.id, values: await lying(p, lieOf(p)) })),
    );
    dispatch(setProps, { changes });
  };
  const turn = (p: Prop): Lie => ({ front: quarterTurned(p.front, p.up) });
  const setOne = async (p: Prop, lie: Lie) =>
    dispatch(setProps, { changes: [{ id: p.id, values: await lying(p, lie) }] });
  const inRows = Array.from({ length: Math.ceil(props.length / COLUMNS) }, (_, r) =>
    props.slice(r * COLUMNS, (r + 1) * COLUMNS),
  );
  /** What all have alike; nothing where they differ. */
  const common = <T,>(of: (p: Prop) => T): T | null =>
    props.length > 0 && props.every((p) => of(p) === of(props[0])) ? of(props[0]) : null;
  const close = () => openDialog(null);
  return (
    <Modal title="Line-up" onClose={close} width="max-w-[870px]">
      <div className="thin-scroll max-h-[52vh] overflow-y-auto">
        {inRows.map((row, r) => (
          <Row
            key={row[0].id}
            props={row}
            drawn={picture?.rows[r]}
            metre={picture?.metre ?? null}
            onTurn={(p) => void setOne(p, turn(p))}
            disabled={readOnly}
          />
        ))}
      </div>
      <fieldset disabled={readOnly} className="mt-2 grid grid-cols-2 gap-x-8 border-t border-edge pt-2">
        <Segmented
          shown
          label="Drawn"
          hint="How large the props are drawn beside each other"
          value={scale}
          options={SCALES}
          onChange={setScale}
        />
        <Choice
          label="The files are in"
          hint="What one unit of each file is"
          value={common((p) => p.unitScale) ?? 0}
          none="differ"
          options={UNITS}
          onChange={(unitScale) => void set(() => ({ unitScale }))}
        />
        <Choice
          label="Foot of all"
          hint="The point that touches: the dot"
          value={common((p) => p.foot.at) ?? ''}
          none={common((p) => p.foot.at) === 'point' ? 'Own point' : 'differ'}
          options={FEET}
          onChange={(at) => at !== '' && void set(() => ({ foot: { at } }))}
        />
        <Choice
          label="Up axis of all"
          hint="The axis of their meshes that points up"
          value={common((p) => p.up) ?? ''}
          none="differ"
          options={AXES}
          onChange={(up) => up !== '' && void set(() => ({ up }))}
        />
        <div className="col-span-2 mt-2 flex items-center gap-2">
          <Button look="bordered" title="Their fronts, a quarter to the left" onClick={() => void set(turn)}>
            Turn all a quarter
          </Button>
          <span className="flex-1 text-[12.5px] text-soft">
            The dot is the foot, the arrow points to the front.
          </span>
          <Button
            look="ink"
            title="On the selected path, in equal shares"
            onClick={() => {
              close();
              hangProp(
                props[0].id,
                undefined,
                props.slice(1).map((p) => p.id),
              );
            }}
          >
            {props.length > 1 ? 'Hang as one mix' : 'Hang'}
          </Button>
        </div>
      </fieldset>
    </Modal>
  );
}

/** Some props on one line, with a metre beside them; under each what it is called, how large it is, a turn of its own. */
function Row({
  props,
  drawn,
  metre,
  onTurn,
  disabled,
}: {
  props: readonly Prop[];
  drawn: LineUpRow | undefined;
  metre: number | null;
  onTurn: (prop: Prop) => void;
  disabled: boolean;
}) {
  return (
    <div className="mb-1">
      <div
        className="relative overflow-hidden rounded-lg bg-[linear-gradient(#CFDFE4,#F4EEE2)]"
        style={{ height: drawn?.height ?? TALLEST, width: COLUMNS * COLUMN }}
      >
        {drawn && (
          <img
            src={drawn.picture}
            alt={`${props.map((p) => p.name).join(', ')}: each on its foot, with an arrow to its front`}
            width={COLUMNS * COLUMN}
            height={drawn.height}
          />
        )}
        {drawn && metre !== null && (
          <span
            className="num absolute left-2 flex items-end border-l-2 border-ink-500 pl-1 text-[11px] leading-none text-ink-700"
            style={{ bottom: drawn.ground, height: metre }}
          >
            1 m
          </span>
        )}
      </div>
      <ul className="flex">
        {props.map((p) => (
          <Legend key={p.id} prop={p} onTurn={() => onTurn(p)} disabled={disabled} />
        ))}
      </ul>
    </div>
  );
}

function Legend({ prop, onTurn, disabled }: { prop: Prop; onTurn: () => void; disabled: boolean }) {
  const units = useDocument((s) => s.scene.units);
  const bounds = useEngine((s) => s.result.propBounds[prop.id]);
  const sizes = bounds && ([0, 2, 1] as const).map((a) => metres(bounds.max[a] - bounds.min[a], units, 2));
  return (
    <li
      aria-label={prop.name}
      className="flex flex-col items-center px-1 pt-1 text-center text-[12px] leading-tight"
      style={{ width: COLUMN }}
    >
      <span className="flex w-full items-center justify-center gap-0.5">
        <span className="truncate font-medium" title={prop.name}>
          {prop.name}
        </span>
        <IconButton
          name={`Turn ${prop.name} a quarter`}
          onClick={onTurn}
          disabled={disabled}
          className="!size-5"
        >
          <RotateCcw size={12} />
        </IconButton>
      </span>
      <span
        className="num whitespace-nowrap text-[10.5px] tracking-tight text-soft"
        title="Wide × long × high"
      >
        {sizes
          ? `${sizes.map((v) => parseFloat(v)).join('\u2009×\u2009')} ${units}`
          : 'its mesh is not at hand'}
      </span>
    </li>
  );
}

/** The picture of props as they are now; the last one until it is drawn anew. */
function usePictureOf(props: readonly Prop[], alike: boolean): Picture | null {
  const [picture, setPicture] = useState<Picture | null>(null);
  const key = JSON.stringify([props.map((p) => [p.mesh, p.unitScale, p.foot, p.front, p.up]), alike]);
  useEffect(() => {
    let current = true;
    const draw = async () => {
      const made = await pictureOfLineUp(props, {
        columns: COLUMNS,
        column: COLUMN,
        tallest: TALLEST,
        alike,
      });
      if (current) setPicture(made);
    };
    void waitFor(draw());
    return () => {
      current = false;
    };
    // The key stands for the props.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return picture;
}
