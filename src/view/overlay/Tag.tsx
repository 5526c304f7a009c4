import { INK, LINEN } from '../colors';
import { tagAt, tagSize } from './tag';

/** A dark tag with a few words beside a mark, whole in the view. Drawn inside an SVG over the scene. */
export function Tag(props: {
  text: string;
  mark: { x: number; y: number };
  view: { width: number; height: number };
  side?: 'below' | 'above';
}) {
  const size = tagSize(props.text);
  const { x, y } = tagAt(props.mark, size, props.view, props.side);
  return (
    <g transform={`translate(${x} ${y})`} data-tag={props.text}>
      <rect {...size} rx={5} fill={INK} />
      <text x={9} y={15} fill={LINEN} className="num" fontSize={11.5}>
        {props.text}
      </text>
    </g>
  );
}
