import { besideAt } from './beside';

const PANEL = { width: 200, height: 100 };
const VIEW = { width: 1000, height: 700 };

test('right above where nothing is in the way, and always inside the view', () => {
  expect(besideAt({ x: 400, y: 400 }, PANEL, VIEW)).toEqual({ x: 464, y: 276 });
  const at = besideAt({ x: 990, y: 690 }, PANEL, VIEW);
  expect(at.x + PANEL.width).toBeLessThanOrEqual(992);
  expect(at.y + PANEL.height).toBeLessThanOrEqual(648);
});

test('on the side where the fewest others are, and never over the place itself', () => {
  const right = [500, 560, 620].map((x) => ({ x, y: 330 }));
  expect(besideAt({ x: 400, y: 400 }, PANEL, VIEW, right)).toEqual({ x: 136, y: 276 });
  const above = [...right, { x: 200, y: 300 }];
  expect(besideAt({ x: 400, y: 400 }, PANEL, VIEW, above)).toEqual({ x: 464, y: 424 });
  for (let x = 0; x <= 1000; x += 20)
    for (let y = 80; y <= 640; y += 20) {
      const at = besideAt({ x, y }, PANEL, VIEW);
      const isIn = x > at.x && x < at.x + PANEL.width && y > at.y && y < at.y + PANEL.height;
      expect(isIn).toBe(false);
    }
});
