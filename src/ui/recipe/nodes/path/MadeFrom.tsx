'use client';

import { has } from '@/core/arrange/registry';
import { Pencil } from 'lucide-react';
import { isLaid, type Generator, type MeshTake, type Path, type PathSource } from '@/core/curve/schema';
import { addOffset, setGenerator, setSource, turnIntoPoints } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectNode } from '@/store/selection';
import { chooseTool } from '@/view/viewState';
import { Button } from '../../../controls/Button';
import { Choice } from '../../../controls/Choice';
import { LinkScope } from '../../../controls/LinkScope';
import { NumberField } from '../../../controls/NumberField';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';
import { GeneratorFields } from './GeneratorFields';

/** What a live path is made from, with its parameters; it can be turned into points of its own at any time. */
export function MadeFrom({ path }: { path: Path }) {
  const scene = useDocument((s) => s.scene);
  const { source } = path;
  const intoPoints = async () => {
    const strokes = await engine().strokes(path.id);
    if (strokes.length) dispatch(turnIntoPoints, { id: path.id, strokes });
  };
  return (
    <>
      {source.kind === 'generator' && <Generated id={path.id} source={source} />}
      {source.kind === 'offset' && (
        <OffsetFields id={path.id} source={source} others={scene.paths.filter((p) => p.id !== path.id)} />
      )}
      {isLaid(source) && <SheetLine id={path.id} source={source} />}
      {source.kind === 'lines' && (
        <Choice
          label="Lines of"
          hint="The strands whose lines these are"
          value={source.of}
          options={scene.arrangements
            .filter((a) => has(a, 'hang'))
            .map((a) => ({ value: a.id, text: a.name }))}
          none="Missing"
          onChange={(of) => dispatch(setSource, { id: path.id, values: { of } })}
        />
      )}
      {source.kind === 'mesh' && <TakeFields id={path.id} source={source} />}
      <div className="mt-3 grid grid-cols-2 gap-1.5">
        <Button
          look="bordered"
          title="From now on it has its own points and no longer follows"
          onClick={() => void intoPoints()}
        >
          <Pencil size={14} /> Into points
        </Button>
        <Button
          look="bordered"
          title="A path of its own beside this one, which follows it"
          onClick={() => {
            const made = dispatch(addOffset, { path: path.id, distance: 1 });
            if (made) selectNode('path', made);
          }}
        >
          Offset
        </Button>
      </div>
    </>
  );
}

const length = (unit: 'm' | 'cm') => ({ dimension: 'length' as const, unit, step: 0.1 });

function Generated({ id, source }: { id: string; source: Extract<PathSource, { kind: 'generator' }> }) {
  const unit = useDocument((s) => s.scene.units);
  const set = (values: object, key?: string) => dispatch(setSource, { id, values }, key);
  const placed = source.generator.shape !== 'coil';
  return (
    <>
      <LinkScope node={id} at="source.generator">
        <GeneratorFields
          generator={source.generator}
          owner={id}
          set={(values: Partial<Generator>, key?: string) => dispatch(setGenerator, { id, values }, key)}
        />
      </LinkScope>
      {placed && (
        <div className="mt-1 border-t border-edge pt-1">
          {(['X', 'Y', 'Z'] as const).map((name, axis) => (
            <NumberField
              key={name}
              {...length(unit)}
              label={`Position ${name}`}
              hint={`Where it stands along ${name}`}
              value={source.position[axis]}
              reset={0}
              onChange={(v, key) =>
                set({ position: source.position.map((p, i) => (i === axis ? (v ?? 0) : p)) }, key)
              }
            />
          ))}
          <NumberField
            label="Turn"
            hint="Degrees about its up axis"
            dimension="angle"
            step={5}
            value={source.turnDeg}
            reset={0}
            onChange={(v, key) => set({ turnDeg: v ?? 0 }, key)}
          />
          <NumberField
            label="Tip"
            hint="90° stands it upright"
            dimension="angle"
            step={5}
            value={source.tipDeg}
            reset={0}
            onChange={(v, key) => set({ tipDeg: v ?? 0 }, key)}
          />
        </div>
      )}
    </>
  );
}

const PLANES = [
  { value: 'ground', text: 'Level' },
  { value: 'x', text: 'Across X' },
  { value: 'z', text: 'Across Z' },
] as const;

function OffsetFields({
  id,
  source,
  others,
}: {
  id: string;
  source: Extract<PathSource, { kind: 'offset' }>;
  others: Path[];
}) {
  const unit = useDocument((s) => s.scene.units);
  const set = (values: object, key?: string) => dispatch(setSource, { id, values }, key);
  return (
    <>
      <Choice
        label="Beside"
        hint="The path that this one runs beside"
        value={source.path}
        none="missing"
        options={others.map((p) => ({ value: p.id, text: p.name }))}
        onChange={(path) => set({ path })}
      />
      <NumberField
        {...length(unit)}
        label="Distance"
        hint="To the right of the way along; negative is left"
        value={source.distance}
        reset={1}
        onChange={(v, key) => set({ distance: v ?? 1 }, key)}
      />
      <NumberField
        {...length(unit)}
        label="Lift"
        hint="Metres up from there"
        value={source.lift}
        reset={0}
        onChange={(v, key) => set({ lift: v ?? 0 }, key)}
      />
      <Segmented
        shown
        label="Plane"
        hint="The plane in which it lies beside the other"
        value={source.plane}
        options={PLANES}
        onChange={(plane) => set({ plane })}
      />
    </>
  );
}

const TAKES = [
  { value: 'borders', text: 'borders' },
  { value: 'edges', text: 'edges by angle' },
  { value: 'loop', text: 'an edge loop' },
  { value: 'iso', text: 'lines of u or v' },
] as const;

/** Which lines of which sheet it is. */
function SheetLine({ id, source }: { id: string; source: Extract<PathSource, { kind: 'sheet' }> }) {
  const sheets = useDocument((s) => s.scene.arrangements).filter((a) => has(a, 'curves'));
  const curves = sheets.find((s) => s.id === source.sheet)?.curves ?? [];
  const set = (values: object) => dispatch(setSource, { id, values });
  return (
    <>
      <Choice
        label="Lines of"
        hint="The sheet whose lines these are"
        value={source.sheet}
        options={sheets.map((s) => ({ value: s.id, text: s.name }))}
        none="Missing"
        onChange={(sheet) => set({ sheet, curve: null })}
      />
      <Choice
        label="Which"
        hint="All lines of it, or one"
        value={source.curve ?? ''}
        options={[
          { value: '', text: 'all of them' },
          ...curves.map((c, i) => ({ value: c.id, text: `${c.name} ${i + 1}` })),
        ]}
        none="Missing"
        onChange={(curve) => set({ curve: curve || null })}
      />
    </>
  );
}

function TakeFields({ id, source }: { id: string; source: Extract<PathSource, { kind: 'mesh' }> }) {
  const scene = useDocument((s) => s.scene);
  const { take } = source;
  const set = (values: object, key?: string) => dispatch(setSource, { id, values }, key);
  const setTake = (next: Partial<MeshTake>, key?: string) => set({ take: { ...take, ...next } }, key);
  const fresh: Record<MeshTake['what'], MeshTake> = {
    borders: { what: 'borders' },
    edges: { what: 'edges', angleDeg: 40 },
    loop: { what: 'loop', at: [0, 0, 0] },
    iso: { what: 'iso', along: 'v', from: 0.5, to: 0.5, count: 1 },
  };
  return (
    <>
      <Choice
        label="Surface"
        hint="The surface whose mesh it is taken from"
        value={source.surface}
        none="missing"
        options={scene.surfaces.map((s) => ({ value: s.id, text: s.name }))}
        onChange={(surface) => set({ surface })}
      />
      <Choice
        label="Take"
        hint="What of the mesh becomes the path"
        value={take.what}
        options={TAKES}
        onChange={(what) => set({ take: fresh[what] })}
      />
      {take.what === 'edges' && (
        <NumberField
          label="Sharper than"
          hint="Edges whose faces meet at more than this"
          dimension="angle"
          step={5}
          min={0}
          max={180}
          value={take.angleDeg}
          reset={40}
          onChange={(v, key) => setTake({ angleDeg: Math.min(180, Math.max(0, v ?? 40)) }, key)}
        />
      )}
      {take.what === 'loop' && (
        <Button
          look="bordered"
          title="A click in the scene takes the edge loop there"
          className="my-1 w-full"
          onClick={() => chooseTool('edge')}
        >
          Pick another edge
        </Button>
      )}
      {take.what === 'iso' && (
        <>
          <Segmented
            shown
            label="Constant"
            hint="Which texture coordinate stays the same along each line"
            value={take.along}
            options={[
              { value: 'u', text: 'u' },
              { value: 'v', text: 'v' },
            ]}
            onChange={(along) => setTake({ along })}
          />
          <NumberField
            whole
            label="Lines"
            hint="So many lines, evenly"
            min={1}
            max={1000}
            value={take.count}
            reset={1}
            onChange={(v, key) => setTake({ count: Math.min(1000, Math.max(1, v ?? 1)) }, key)}
          />
          <NumberField
            label={take.count > 1 ? 'From' : 'At'}
            hint="Of the first line, 0 to 1"
            step={0.05}
            value={take.from}
            reset={0.5}
            onChange={(v, key) => setTake({ from: v ?? 0.5 }, key)}
          />
          {take.count > 1 && (
            <NumberField
              label="To"
              hint="Of the last line, 0 to 1"
              step={0.05}
              value={take.to}
              reset={0.5}
              onChange={(v, key) => setTake({ to: v ?? 0.5 }, key)}
            />
          )}
        </>
      )}
      <Toggle
        label="Smooth"
        hint="A smooth curve through the mesh’s points instead of its edges"
        value={source.smooth}
        onChange={(smooth) => set({ smooth })}
      />
      <NumberField
        {...length(scene.units)}
        label="Lift"
        hint="Metres up from there"
        value={source.lift}
        reset={0}
        onChange={(v, key) => set({ lift: v ?? 0 }, key)}
      />
    </>
  );
}
