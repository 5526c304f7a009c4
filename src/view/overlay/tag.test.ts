import fc from 'fast-check';
import { tagAt, tagSize } from './tag';

const view = { width: 800, height: 600 };
const place = fc.record({
  x: fc.double({ min: 0, max: 800, noNaN: true }),
  y: fc.double({ min: 0, max: 600, noNaN: true }),
});

test('a tag stands right below or right above its mark where there is room', () => {
  const tag = tagSize('1.20 of 3.40 m');
  expect(tagAt({ x: 100, y: 100 }, tag, view)).toEqual({ x: 114, y: 108 });
  expect(tagAt({ x: 100, y: 100 }, tag, view, 'above')).toEqual({ x: 114, y: 100 - 8 - tag.height });
});

test('wherever the mark is, the tag is whole in the view and does not lie over its mark', () => {
  fc.assert(
    fc.property(
      place,
      fc.string({ minLength: 1, maxLength: 40 }),
      fc.constantFrom('below', 'above'),
      (at, text, side) => {
        const tag = tagSize(text);
        const { x, y } = tagAt(at, tag, view, side as 'below');
        const inside = x >= 0 && y >= 0 && x + tag.width <= view.width && y + tag.height <= view.height;
        const over = at.x > x && at.x < x + tag.width && at.y > y && at.y < y + tag.height;
        return inside && !over;
      },
    ),
    { numRuns: 500 },
  );
});
