import { readSvg } from './svgRead';

const svg = (inside: string, box = '0 0 100 50') =>
  `<svg xmlns="http://www.w3.org/2000/svg" viewBox="${box}">${inside}</svg>`;

describe('an SVG’s lines', () => {
  test('shapes, from the lower left corner and y up', () => {
    const { lines, width, height } = readSvg(
      svg('<rect x="10" y="10" width="20" height="30"/><line x1="0" y1="50" x2="100" y2="0"/>'),
      'a.svg',
    );
    expect([width, height]).toEqual([100, 50]);
    expect(lines[0]).toEqual({
      name: 'rect',
      closed: true,
      points: [
        [10, 40],
        [30, 40],
        [30, 10],
        [10, 10],
      ],
    });
    expect(lines[1].points).toEqual([
      [0, 0],
      [100, 50],
    ]);
  });

  test('transforms of groups go through; curves and circles are where their formulas have them', () => {
    const { lines } = readSvg(
      svg(
        '<g transform="translate(10 5)"><path id="s" transform="scale(2)" d="M0 0 C0 10 10 10 10 0"/></g><circle cx="50" cy="25" r="10"/>',
      ),
      'a.svg',
    );
    expect(lines[0].name).toBe('s');
    const t = 0.5;
    const middle = lines[0].points[8];
    expect(middle[0]).toBeCloseTo(10 + 2 * 10 * (3 * t * t * (1 - t) + t * t * t), 9);
    expect(middle[1]).toBeCloseTo(50 - (5 + 2 * 7.5), 9);
    for (const [x, y] of lines[1].points) expect(Math.hypot(x - 50, y - 25)).toBeCloseTo(10, 9);
  });

  test('subpaths are lines of their own; what comes back to its start is closed', () => {
    const { lines } = readSvg(svg('<path d="M0 0h10v10z m20 0 l5 5 M0 40 L5 45 L10 40 L0 40"/>'), 'a.svg');
    expect(lines.map((l) => [l.closed, l.points.length])).toEqual([
      [true, 3],
      [false, 2],
      [true, 3],
    ]);
  });

  test('text and images are left out and counted; nothing else in it, or no SVG at all, is said', () => {
    const drawing = readSvg(
      svg('<text>Hi</text><image href="x"/><path d="M0 0L1 1"/><use href="#a"/>'),
      'a.svg',
    );
    expect(drawing.ignored).toEqual({ text: 1, image: 1, use: 1 });
    expect(() => readSvg(svg('<text>Hi</text>'), 'words.svg')).toThrow(
      '“words.svg” holds no line, only text',
    );
    expect(() => readSvg('{"a": 1}', 'a.json')).toThrow('“a.json” is no SVG');
  });
});
