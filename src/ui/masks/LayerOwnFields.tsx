'use client';

import type { LayerOf, MaskLayer } from '@/core/mesh/mask/schema';
import { clearPaint } from '@/store/commands/masks';
import { dispatch, useDocument } from '@/store/document';
import { chooseTool, useView } from '@/view/viewState';
import { plural } from '@/words/numbers';
import { Button } from '../controls/Button';
import { Choice } from '../controls/Choice';
import { NumberFields, type FieldSpec } from '../controls/NumberFields';
import { Segmented } from '../controls/Segmented';
import { SeveralNodes } from '../controls/SeveralNodes';
import { beginPainting } from './beginPainting';
import { PictureFields } from './PictureFields';

type Set = (values: object, key?: string) => void;

const COMPASS: FieldSpec = {
  name: 'compassDeg',
  label: 'Compass',
  hint: 'The direction, degrees clockwise from north as seen from above',
  dimension: 'angle',
  step: 5,
  reset: 180,
};
const RISE: FieldSpec = {
  name: 'riseDeg',
  label: 'Rises by',
  hint: 'Degrees that the direction goes up from level',
  dimension: 'angle',
  step: 5,
  min: -90,
  max: 90,
  reset: 0,
};
const NOISE: FieldSpec[] = [
  {
    name: 'span',
    label: 'Patch to patch',
    hint: 'Metres from one patch to the next',
    dimension: 'length',
    step: 0.1,
    min: 0.001,
    max: 1e5,
    reset: 2,
  },
  { name: 'seed', label: 'Seed', hint: 'Another number makes other patches', whole: true, reset: 1 },
];
const LEVEL: FieldSpec[] = [
  { name: 'level', label: 'Level', hint: 'Height of the water', dimension: 'length', step: 0.1, reset: 0 },
];
const BASE: FieldSpec[] = [
  {
    name: 'base',
    label: 'Unpainted',
    hint: 'What it is where nothing is painted',
    dimension: 'percent',
    step: 0.05,
    min: 0,
    max: 1,
    reset: 0,
  },
];
const OF = [
  { value: 'paths', text: 'Paths' },
  { value: 'border', text: 'Border', hint: 'Of the surface that it is read on' },
  { value: 'things', text: 'Things', hint: 'Surfaces, and the props of arrangements' },
  { value: 'faces', text: 'Faces', hint: 'Of the surface that it is read on, picked in the scene' },
] as const;
const MEASURED = [
  { value: 'straight', text: 'Straight' },
  { value: 'above', text: 'Above', hint: 'As seen from above' },
  { value: 'along', text: 'Along', hint: 'Along the surface' },
] as const;
const ON_LEVEL = '';

/** What a layer goes by, beside its beginning and its end. */
export function LayerOwnFields({ mask, layer, set }: { mask: string; layer: MaskLayer; set: Set }) {
  const scene = useDocument((s) => s.scene);
  const things = (
    l: Extract<MaskLayer, { surfaces: string[] }>, // what names surfaces names arrangements
  ) => (
    <SeveralNodes
      what="surface or arrangement"
      label="Things that count"
      of={[...scene.surfaces, ...scene.arrangements]}
      chosen={[...l.surfaces, ...l.arrangements]}
      onChange={(ids) =>
        set({
          surfaces: ids.filter((id) => scene.surfaces.some((s) => s.id === id)),
          arrangements: ids.filter((id) => scene.arrangements.some((a) => a.id === id)),
        })
      }
    />
  );
  const paths = (chosen: string[]) => (
    <SeveralNodes
      what="path"
      label="Paths that count"
      of={scene.paths}
      chosen={chosen}
      onChange={(ids) => set({ paths: ids })}
    />
  );
  switch (layer.kind) {
    case 'facing':
      return <NumberFields fields={[COMPASS, RISE]} values={layer} set={set} />;
    case 'noise':
      return <NumberFields fields={NOISE} values={layer} set={set} />;
    case 'picture':
      return <PictureFields layer={layer} set={set} />;
    case 'covered':
    case 'outline':
      return things(layer);
    case 'inside':
      return paths(layer.paths);
    case 'water':
      return (
        <>
          <Choice
            label="Water"
            hint="The surface of the water, or a level"
            value={layer.surface ?? ON_LEVEL}
            options={[
              { value: ON_LEVEL, text: 'A level' },
              ...scene.surfaces.map((s) => ({ value: s.id, text: s.name })),
            ]}
            none="missing"
            onChange={(id) => set({ surface: id === ON_LEVEL ? null : id })}
          />
          {layer.surface === null && <NumberFields fields={LEVEL} values={layer} set={set} />}
        </>
      );
    case 'distance':
      return (
        <>
          <Segmented
            fill
            label="Distance from"
            hint="What it is measured from"
            value={layer.of}
            options={OF}
            onChange={(of) => set({ of })}
          />
          <div className="mt-1">
            <Segmented
              fill
              label="Measured"
              hint="Which way it is measured"
              value={layer.measured}
              options={MEASURED}
              onChange={(measured) => set({ measured })}
            />
          </div>
          {layer.of === 'paths' && paths(layer.paths)}
          {layer.of === 'things' && things(layer)}
          {layer.of === 'faces' && <Faces mask={mask} layer={layer} set={set} />}
        </>
      );
    case 'painted':
      return (
        <>
          <Choice
            label="On"
            hint="The surface that it is painted on; empty: the first that is painted"
            value={layer.surface ?? ''}
            options={scene.surfaces.map((s) => ({ value: s.id, text: s.name }))}
            none="first painted"
            onChange={(surface) => set({ surface })}
          />
          <NumberFields fields={BASE} values={layer} set={set} />
          <div className="my-1 flex items-center gap-1.5">
            <Button look="bordered" title="Takes the brush (4)" onClick={() => beginPainting(mask, layer.id)}>
              Paint
            </Button>
            <Button
              look="plain"
              title="Takes all its strokes off"
              disabled={layer.strokes.length === 0}
              onClick={() => dispatch(clearPaint, { id: mask, layer: layer.id })}
            >
              Clear
            </Button>
            <span className="text-[12.5px] text-soft">{plural(layer.strokes.length, 'stroke')}</span>
          </div>
        </>
      );
    default:
      return null;
  }
}

/** The faces that a layer measures from: how many, picked in the scene. */
function Faces({ mask, layer, set }: { mask: string; layer: LayerOf<'distance'>; set: Set }) {
  const picking = useView((s) => s.tool === 'faces' && s.faces?.layer === layer.id);
  const { faces } = layer;
  return (
    <div className="my-1 flex items-center gap-1.5">
      <Button
        look={picking ? 'ink' : 'bordered'}
        title="Each click takes a flat piece of the surface, or leaves it out again"
        onClick={() => {
          chooseTool(picking ? 'pick' : 'faces');
          useView.setState({ faces: { mask, layer: layer.id, said: null } });
        }}
      >
        {picking ? 'Done' : 'Pick faces'}
      </Button>
      <Button
        look="plain"
        title="Leaves all of them out"
        disabled={faces.length === 0}
        onClick={() => set({ faces: [] })}
      >
        Clear
      </Button>
      <span className="text-[12.5px] text-soft">{plural(faces.length, 'face')}</span>
    </div>
  );
}
