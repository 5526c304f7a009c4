import type { Found, Printable } from '@/core/mesh/solid/printable';
import type { Print } from '@/core/scene/printSchema';
import { setPrint } from '@/store/commands/scene';
import { dispatch } from '@/store/document';
import { NumberFields, type FieldSpec } from '../../../controls/NumberFields';
import { Optional } from '../../../controls/Optional';
import { Look } from './Look';

const SCALE: FieldSpec = {
  name: 'scale',
  label: 'Printed at 1 :',
  hint: 'So many times smaller than it is',
  step: 10,
  min: 0.001,
  max: 1e6,
  reset: 1,
};
const FIELDS: FieldSpec[] = [
  {
    name: 'density',
    label: 'Density, kg a m³',
    hint: 'Of what it is printed in: plastic about 1,240, resin 1,150, brass 8,500',
    step: 10,
    min: 1,
    max: 30000,
    reset: 1240,
  },
  {
    name: 'wallMm',
    label: 'Walls from, mm',
    hint: 'The thinnest that holds, as printed',
    step: 0.1,
    min: 0,
    max: 1000,
    reset: 1.2,
  },
  {
    name: 'detailMm',
    label: 'Detail from, mm',
    hint: 'The smallest that comes out, as printed: finer gaps close',
    step: 0.1,
    min: 0,
    max: 1000,
    reset: 0.3,
  },
  {
    name: 'overhangDeg',
    label: 'Leans out to',
    hint: 'Degrees from upright that are printed without supports',
    dimension: 'angle',
    step: 5,
    min: 0,
    max: 90,
    reset: 45,
  },
];

/** Less of its faces than this is not worth a word. */
const HARDLY = 1e-3;
/** A number to four figures. */
export const short = (v: number) => Number(v.toPrecision(4)).toLocaleString('en-GB');
const percent = (share: number) => `${short(Math.max(0.1, Math.round(share * 1000) / 10))} %`;
const mass = (kg: number) => (kg < 1 ? `${short(kg * 1000)} g` : `${short(kg)} kg`);

/** What a printer makes of a closed surface, and what it asks of it. */
export function Printed({
  print,
  volume,
  looked,
}: {
  print: Print;
  volume: number;
  looked: Printable | null;
}) {
  const { scale, density, wallMm, detailMm, overhangDeg } = print;
  const set = (values: Partial<Print>, key?: string) => dispatch(setPrint, values, key);
  const mm = (metres: number) => (metres * 1000) / scale;
  return (
    <section aria-label="Printed">
      <h3 className="mb-1 mt-3 font-display text-sm font-semibold">Printed</h3>
      <NumberFields fields={[SCALE]} values={print} set={set} />
      <Optional
        parts={FIELDS.map((f) => ({
          label: f.label,
          hint: f.hint,
          isSet: (print as unknown as Record<string, number>)[f.name] !== f.reset,
          content: <NumberFields fields={[f]} values={print} set={set} />,
        }))}
      />
      <ul className="mb-1 text-[12.5px] text-soft">
        <li>Weighs {mass((volume / (scale * scale * scale)) * density)}.</li>
        {looked && (
          <>
            <Line
              said="Thinnest wall"
              found={looked.wall}
              value={mm(looked.wall?.size ?? 0)}
              least={wallMm}
              more={
                looked.thin > HARDLY
                  ? `; ${percent(looked.thin)} of its faces are thinner than ${short(wallMm)} mm`
                  : ''
              }
            />
            <Line
              said="Narrowest gap"
              found={looked.gap}
              value={mm(looked.gap?.size ?? 0)}
              least={detailMm}
            />
            <Line
              said="Smallest detail"
              found={smallest(looked)}
              value={mm(smallest(looked)?.size ?? 0)}
              least={detailMm}
            />
            {looked.steepest && (
              <li className={looked.overhang > 0 ? 'text-caution' : undefined}>
                {looked.overhang > 0
                  ? `${percent(looked.overhang)} of its faces lean out further than ${short(overhangDeg)}° and need supports`
                  : `Leans out by ${short(looked.steepest.deg)}° at most`}
                . <Look at={[looked.steepest.at]} what="what leans out most" />
              </li>
            )}
          </>
        )}
      </ul>
    </section>
  );
}

/** The lesser of its thinnest wall and its narrowest gap: what vanishes first, or closes. */
const smallest = ({ wall, gap }: Printable): Found | null =>
  wall && gap ? (wall.size < gap.size ? wall : gap) : (wall ?? gap);

function Line(props: { said: string; found: Found | null; value: number; least: number; more?: string }) {
  const { said, found, value, least, more = '' } = props;
  if (!found) return null;
  return (
    <li className={value < least ? 'text-caution' : undefined}>
      {said} <span className="num">{short(value)} mm</span>
      {more}. <Look at={[found.at]} what={`the ${said.toLowerCase()}`} />
    </li>
  );
}
