import type { LineMesh } from '@/core/mesh/meshRef';
import { setLine } from '@/store/commands/scene';
import { dispatch } from '@/store/document';
import { ColorField } from '../../controls/ColorField';
import { lengthField, NumberFields, type FieldSpec } from '../../controls/NumberFields';

const whole = (name: string, label: string, reset: number, hint: string, min: number, max: number) => ({
  name,
  label,
  hint,
  whole: true,
  min,
  max,
  reset,
});
const THICK: FieldSpec[] = [
  whole('strands', 'Strands', 1, 'Twisted round each other; 1 is a tube with round ends', 1, 24),
  { ...lengthField('radius', 'Radius', 0.02, 'Of the whole of it'), step: 0.005, min: 0.0001, max: 100 },
];
const LAY: FieldSpec = {
  ...lengthField('lay', 'Lay', 0.16, 'The length in which its strands go round once'),
  step: 0.02,
  min: 0.001,
  max: 1000,
};
const SIDES = whole('sides', 'Sides', 8, 'Of a tube, and of each strand: more are rounder', 3, 64);

/** The numbers of a prop that is made for lines: a tube, or a rope of so many strands. */
export function LineFields({ id, line }: { id: string; line: LineMesh }) {
  return (
    <section aria-label="Its make" className="mb-2">
      <NumberFields
        within=""
        fields={line.strands > 1 ? [...THICK, LAY, SIDES] : [...THICK, SIDES]}
        values={line}
        set={(values, key) => dispatch(setLine, { id, values: values as Partial<LineMesh> }, key)}
      />
      <ColorField
        hint="Of all of it"
        value={line.color}
        onChange={(color) => dispatch(setLine, { id, values: { color } }, `color ${id}`)}
      />
    </section>
  );
}
