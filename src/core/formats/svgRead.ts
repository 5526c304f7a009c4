import { XMLParser } from 'fast-xml-parser';
import svgpath from 'svgpath';
import { cos, sin } from '../math/portable';
import { FileError } from './limits';

/** One line of a drawing. x runs to the right and y up, in the drawing's own units. */
interface SvgLine {
  name: string;
  points: [number, number][];
  closed: boolean;
}

export interface SvgDrawing {
  lines: SvgLine[];
  /** Its view box, or what its lines take: width and height in its own units. */
  width: number;
  height: number;
  /** What it holds that is no line, and how often: text, images, and others. */
  ignored: Record<string, number>;
}

/** Straight pieces for one curve of a drawing. */
const PIECES = 16;
const MOST_POINTS = 200_000;
/** Elements that only hold others. */
const GROUPS = new Set(['svg', 'g', 'a', 'switch', 'symbol']);
/** Elements that say something about others and draw nothing by themselves. */
const SILENT = new Set([
  'title',
  'desc',
  'metadata',
  'defs',
  'style',
  'clipPath',
  'mask',
  'marker',
  'pattern',
  'linearGradient',
  'radialGradient',
  'filter',
  '#text',
  '#comment',
  '?xml',
]);

type Node = Record<string, unknown> & { ':@'?: Record<string, string> };

/**
 * Reads the lines of an SVG: paths, polylines, polygons, lines, rectangles, circles and ellipses, with the transforms
 * of all their groups. Text, images and references are left out and counted.
 * @throws FileError for a file that is no SVG, or that holds no line
 */
export function readSvg(text: string, fileName: string): SvgDrawing {
  const parser = new XMLParser({
    preserveOrder: true,
    ignoreAttributes: false,
    attributeNamePrefix: '',
    parseAttributeValue: false,
    // Entities are never followed: a file cannot grow while it is read.
    processEntities: false,
  });
  let root: Node | undefined;
  try {
    root = (parser.parse(text) as Node[]).find((n) => 'svg' in n);
  } catch (error) {
    if (error instanceof Error && /call stack|nested/i.test(error.message)) throw error;
    root = undefined;
  }
  if (!root)
    throw new FileError(`“${fileName}” is no SVG. Choose a file that a drawing program wrote as .svg.`);
  const lines: SvgLine[] = [];
  const ignored: Record<string, number> = {};
  walk(root, '', lines, ignored);
  if (lines.length === 0) {
    const only = Object.keys(ignored).join(', ');
    throw new FileError(
      `“${fileName}” holds no line${only ? `, only ${only}` : ''}. Turn what it shows into paths, and write it anew.`,
    );
  }
  return { ...framed(lines, root[':@']?.viewBox), ignored };
}

function walk(node: Node, transform: string, lines: SvgLine[], ignored: Record<string, number>): void {
  for (const [tag, children] of Object.entries(node)) {
    if (tag === ':@' || SILENT.has(tag)) continue;
    const own = node[':@'] ?? {};
    const through = [transform, own.transform].filter(Boolean).join(' ');
    if (GROUPS.has(tag)) {
      for (const child of children as Node[]) walk(child, through, lines, ignored);
      continue;
    }
    const d = pathOf(tag, own);
    if (d === null) ignored[tag] = (ignored[tag] ?? 0) + 1;
    else lines.push(...linesOf(d, through, own.id ?? tag));
  }
}

const number = (v: string | undefined): number => {
  const n = parseFloat(v ?? '0');
  return Number.isFinite(n) ? n : 0;
};

/** The path data of a basic shape; null for what is none. */
function pathOf(tag: string, a: Record<string, string>): string | null {
  switch (tag) {
    case 'path':
      return a.d ?? '';
    case 'line':
      return `M${number(a.x1)} ${number(a.y1)}L${number(a.x2)} ${number(a.y2)}`;
    case 'polyline':
    case 'polygon':
      return a.points?.trim() ? `M${a.points.trim()}${tag === 'polygon' ? 'Z' : ''}` : '';
    case 'rect': {
      const [x, y, w, h] = [number(a.x), number(a.y), number(a.width), number(a.height)];
      return `M${x} ${y}h${w}v${h}h${-w}Z`;
    }
    case 'circle':
    case 'ellipse': {
      const [cx, cy] = [number(a.cx), number(a.cy)];
      const [rx, ry] = tag === 'circle' ? [number(a.r), number(a.r)] : [number(a.rx), number(a.ry)];
      const around = Array.from({ length: PIECES * 4 }, (_, i) => {
        const t = (2 * Math.PI * i) / (PIECES * 4);
        return `${cx + rx * cos(t)} ${cy + ry * sin(t)}`;
      });
      return `M${around.join('L')}Z`;
    }
    default:
      return null;
  }
}

/** Path data as polylines: curves and arcs become short straight pieces. */
function linesOf(d: string, transform: string, name: string): SvgLine[] {
  const out: SvgLine[] = [];
  let points: [number, number][] = [];
  const end = (closed: boolean) => {
    const [first, last] = [points[0], points[points.length - 1]];
    const meets = points.length > 2 && first[0] === last[0] && first[1] === last[1];
    if (meets) points.pop();
    if (points.length > 1) out.push({ name, points, closed: closed || meets });
    points = [];
  };
  svgpath(d)
    .transform(transform)
    .abs()
    .unshort()
    .unarc()
    .iterate((segment, _, x, y) => {
      const [kind, ...n] = segment as [string, ...number[]];
      if (kind === 'M') {
        end(false);
        points.push([n[0], n[1]]);
      } else if (kind === 'Z') end(true);
      else {
        // A subpath that goes on after Z begins where the last one did.
        if (points.length === 0) points.push([x, y]);
        if (kind === 'L') points.push([n[0], n[1]]);
        if (kind === 'H') points.push([n[0], y]);
        if (kind === 'V') points.push([x, n[0]]);
        if (kind === 'Q') {
          const c = [x + (2 / 3) * (n[0] - x), y + (2 / 3) * (n[1] - y)];
          const e = [n[2] + (2 / 3) * (n[0] - n[2]), n[3] + (2 / 3) * (n[1] - n[3])];
          curve(points, [x, y, c[0], c[1], e[0], e[1], n[2], n[3]]);
        }
        if (kind === 'C') curve(points, [x, y, ...n]);
      }
      if (points.length > MOST_POINTS) throw new FileError('The drawing has too many points. Simplify it.');
    });
  end(false);
  return out;
}

function curve(points: [number, number][], [x0, y0, x1, y1, x2, y2, x3, y3]: number[]): void {
  for (let i = 1; i <= PIECES; i++) {
    const t = i / PIECES;
    const w = 1 - t;
    const [a, b, c, d] = [w * w * w, 3 * w * w * t, 3 * w * t * t, t * t * t];
    points.push([a * x0 + b * x1 + c * x2 + d * x3, a * y0 + b * y1 + c * y2 + d * y3]);
  }
}

/** Lines from the lower left corner of the view box (or of themselves), y up. */
function framed(lines: SvgLine[], viewBox: string | undefined): Omit<SvgDrawing, 'ignored'> {
  const box = (viewBox ?? '').split(/[\s,]+/).map(Number);
  let [x, y, width, height] = box;
  if (box.length !== 4 || !(width > 0 && height > 0)) {
    const all = lines.flatMap((l) => l.points);
    x = Math.min(...all.map((p) => p[0]));
    y = Math.min(...all.map((p) => p[1]));
    width = Math.max(...all.map((p) => p[0])) - x || 1;
    height = Math.max(...all.map((p) => p[1])) - y || 1;
  }
  const at = ([px, py]: [number, number]): [number, number] => [px - x, height - (py - y)];
  return { width, height, lines: lines.map((l) => ({ ...l, points: l.points.map(at) })) };
}
