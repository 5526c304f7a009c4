import { LIGHTS } from './presets';
import { lightSchema } from './schema';
import { sunShare, sunWay } from './sun';
import { chromaticity, colorOfWarmth } from './warmth';

const sun = (more: object) => lightSchema.parse({ sun: more }).sun;
const heightOf = (more: object) => (Math.asin(sunWay(sun(more))[1]) * 180) / Math.PI;
const compassOf = (more: object) => {
  const [x, , z] = sunWay(sun(more));
  return ((Math.atan2(x, -z) * 180) / Math.PI + 360) % 360;
};

test.each([
  [0, [0, 0, -1]],
  [90, [1, 0, 0]],
  [180, [0, 0, 1]],
  [270, [-1, 0, 0]],
])('at %d° it stands in the %j', (compassDeg, way) => {
  const at = sunWay(sun({ compassDeg, heightDeg: 0 }));
  at.forEach((v, k) => expect(v).toBeCloseTo(way[k], 12));
});

test('by the hour: at noon as high as the latitude leaves it, in the south; at the equinox it rises in the east at six', () => {
  // Day 81: the declination is nothing.
  for (const latitudeDeg of [-30, 0, 54, 80]) {
    expect(heightOf({ by: 'hour', latitudeDeg, day: 81, hour: 12 })).toBeCloseTo(
      90 - Math.abs(latitudeDeg),
      6,
    );
    expect(heightOf({ by: 'hour', latitudeDeg, day: 81, hour: 6 })).toBeCloseTo(0, 6);
    expect(compassOf({ by: 'hour', latitudeDeg, day: 81, hour: 6 })).toBeCloseTo(90, 6);
    expect(compassOf({ by: 'hour', latitudeDeg, day: 81, hour: 18 })).toBeCloseTo(270, 6);
  }
  expect(compassOf({ by: 'hour', latitudeDeg: 54, day: 81, hour: 12 })).toBeCloseTo(180, 6);
  // Midsummer: as much higher as the axis is tilted; beyond the circle it does not set.
  expect(heightOf({ by: 'hour', latitudeDeg: 54, day: 172, hour: 12 })).toBeCloseTo(36 + 23.44, 2);
  expect(heightOf({ by: 'hour', latitudeDeg: 70, day: 172, hour: 0 })).toBeGreaterThan(3);
  // The day is as long as its closed form says: cos H = −tan φ tan δ.
  const half =
    (Math.acos(-Math.tan((54 * Math.PI) / 180) * Math.tan((23.4498 * Math.PI) / 180)) * 12) / Math.PI;
  expect(Math.abs(heightOf({ by: 'hour', latitudeDeg: 54, day: 172, hour: 12 + half }))).toBeLessThan(0.02);
});

test('it is always a direction of unit length, and gone below the horizon', () => {
  for (let i = 0; i < 200; i++) {
    const way = sunWay(sun({ by: 'hour', latitudeDeg: -90 + i * 0.9, day: 1 + i, hour: (i * 7) % 24 }));
    expect(Math.hypot(...way)).toBeCloseTo(1, 12);
  }
  expect([-1, -0.03, 0, 0.03, 1].map(sunShare)).toEqual([0, 0, 0.5, 1, 1]);
});

/** A lobe of the colour matching functions as Wyman, Sloan and Shirley (2013) fit them. */
const lobe = (nm: number, mid: number, low: number, high: number) =>
  Math.exp(-0.5 * ((nm - mid) * (nm < mid ? low : high)) ** 2);
const MATCHING = [
  (l: number) =>
    0.362 * lobe(l, 442, 0.0624, 0.0374) +
    1.056 * lobe(l, 599.8, 0.0264, 0.0323) -
    0.065 * lobe(l, 501.1, 0.049, 0.0382),
  (l: number) => 0.821 * lobe(l, 568.8, 0.0213, 0.0247) + 0.286 * lobe(l, 530.9, 0.0613, 0.0322),
  (l: number) => 1.217 * lobe(l, 437, 0.0845, 0.0278) + 0.681 * lobe(l, 459, 0.0385, 0.0725),
];

test.each([1700, 2200, 3000, 4000, 5500, 6500, 10000, 24000])(
  'at %d K it has the colour that Planck’s law gives a black body',
  (kelvin) => {
    const sums = [0, 0, 0];
    for (let nm = 380; nm <= 780; nm++) {
      const light = nm ** -5 / (Math.exp(1.4387769e7 / (nm * kelvin)) - 1);
      MATCHING.forEach((of, k) => (sums[k] += of(nm) * light));
    }
    const all = sums[0] + sums[1] + sums[2];
    const [x, y] = chromaticity(kelvin);
    expect(Math.abs(x - sums[0] / all)).toBeLessThan(0.006);
    expect(Math.abs(y - sums[1] / all)).toBeLessThan(0.006);
  },
);

test('warm light is red, cold light blue, and 6,500 K about white', () => {
  const [r, g, b] = colorOfWarmth(2000);
  expect(r).toBe(1);
  expect(g).toBeLessThan(0.4);
  expect(b).toBeLessThan(0.05);
  const cold = colorOfWarmth(15000);
  expect(cold[2]).toBe(1);
  expect(cold[0]).toBeLessThan(0.65);
  for (const c of colorOfWarmth(6600)) expect(c).toBeGreaterThan(0.93);
});

test('the lights to begin with differ, and the evening is warmer and lower than the day', () => {
  const { day, evening, overcast, night } = LIGHTS;
  expect(sunWay(evening.sun)[1]).toBeLessThan(sunWay(day.sun)[1]);
  expect(evening.sun.warmth).toBeLessThan(day.sun.warmth);
  expect(overcast.sun.softDeg).toBeGreaterThan(20);
  expect(night.sky.brightness).toBeLessThan(0.2);
});
