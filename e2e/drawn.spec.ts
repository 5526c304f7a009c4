import { expect, type Page } from '@playwright/test';
import { decode } from 'fast-png';
import {
  at,
  fromTop,
  onScreen,
  openExample,
  openQuay,
  openStep,
  readRows,
  rows,
  scene,
  sendOut,
  settled,
  type,
} from './support/app';
import { openMany } from './support/many';
import { picture } from './support/pixels';
import { drawnTest as test, ownTest } from './support/test';

/** What is drawn, by its pixels. All other tests draw nothing. */

ownTest.use({ drawn: true });

type Rgb = [number, number, number];

/** The mean colour of some pixels about a place of the page. */
async function colorAt(page: Page, { x, y }: { x: number; y: number }, reach = 2): Promise<Rgb> {
  const size = 2 * reach + 1;
  const clip = { x: Math.round(x) - reach, y: Math.round(y) - reach, width: size, height: size };
  const { data, channels } = decode(await page.screenshot({ clip }));
  const sum = [0, 0, 0];
  for (let i = 0; i < data.length; i += channels) for (let k = 0; k < 3; k++) sum[k] += data[i + k];
  return sum.map((v) => v / (size * size)) as Rgb;
}

const apart = (a: Rgb, b: Rgb) => Math.hypot(...a.map((v, k) => v - b[k]));
/** Madder, the thread of the bollards. */
const THREAD: Rgb = [0xb4, 0x47, 0x2f];

test('props are drawn where they stand, and a slot hovered in the flat view lights up in the scene alone', async ({
  page,
}) => {
  await openExample(page);
  await fromTop(page);
  const bollards = (await rows(page)).filter(
    (r) => r.arrangement === 'Quay bollards' && r.state === 'placed' && r.prop === 'Bollard',
  );
  const place = (slot: string) => {
    const { x, y, z } = bollards.find((r) => r.slot === slot)!;
    return onScreen(page, [x, y + 0.9, z]);
  };
  const [hovered, other] = [await place('14'), await place('2')];
  await page.keyboard.press('Escape');
  await settled(page);
  const before = [await colorAt(page, hovered), await colorAt(page, other)];
  // Dark ink on pale stone: what stands there is not the ground beside it.
  const ground = await colorAt(page, { x: other.x, y: other.y - 40 });
  expect(apart(before[1], ground)).toBeGreaterThan(40);
  await page.getByRole('button', { name: /^Quay bollards Run/ }).click();
  await page.locator('[data-slot="14"]').hover();
  await expect(page.getByText(/^#14 · /)).toBeVisible();
  await settled(page);
  const after = [await colorAt(page, hovered), await colorAt(page, other)];
  expect(apart(after[0], THREAD)).toBeLessThan(apart(before[0], THREAD) - 20);
  expect(apart(after[1], before[1])).toBeLessThan(6);
});

test('the sky ends at the horizon, water mirrors it, and both go with the hour', async ({ page }) => {
  await openExample(page, 'Ferry loop');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Hide Far shore', exact: true }).click();
  await settled(page);
  const horizon = await onScreen(page, [-1e5, 0, -1e5]);
  const strip = async (off: number) => colorAt(page, { x: horizon.x, y: horizon.y + off }, 4);
  /** Beside the sky: the farthest water, which mirrors what is just over the horizon, and the nearest. */
  const look = async () => ({ sky: await strip(-9), far: await strip(9), near: await strip(180) });
  const day = await look();
  expect(apart(day.sky, [0xee, 0xe9, 0xdf])).toBeLessThan(14);
  expect(apart(day.far, day.sky)).toBeLessThan(apart(day.near, day.sky) / 2);
  await page.keyboard.press('Control+k');
  await page.getByLabel('Search the commands').fill('dusk');
  await page.keyboard.press('Enter');
  await settled(page);
  const dusk = await look();
  expect(apart(dusk.sky, [0xdf, 0xa5, 0x85])).toBeLessThan(20);
  expect(apart(dusk.far, dusk.sky)).toBeLessThan(apart(dusk.near, dusk.sky) / 2);
});

test('the library shows a picture of every prop, and one of another size is drawn', async ({ page }) => {
  await openExample(page);
  await page.getByRole('button', { name: 'Add props' }).click();
  const pictures = page.getByRole('dialog').locator('img');
  await expect(pictures.first()).toBeVisible();
  const widths = await pictures.evaluateAll((list) =>
    Promise.all(
      (list as HTMLImageElement[]).map(async (img) => {
        await img.decode();
        return img.naturalWidth;
      }),
    ),
  );
  expect(widths.length).toBeGreaterThan(30);
  expect(new Set(widths)).toEqual(new Set([112]));
  await page.keyboard.press('Escape');
  // A prop that is not as it ships is drawn anew.
  const picture = page.getByRole('button', { name: 'Bollard', exact: true }).locator('img');
  await expect(picture).toHaveAttribute('src', '/props/bollard.png');
  await page.getByRole('button', { name: 'Bollard', exact: true }).click();
  await page.getByRole('button', { name: 'Up axis' }).click();
  await page.getByRole('option', { name: '+Z' }).click();
  await expect(picture).toHaveAttribute('src', /^data:image\/png/);
});

/** What one stays on lights up where each frame takes long, too, and is as it was when one goes on. */
async function lightsUpAmongMany(page: Page): Promise<void> {
  const bollards = (await rows(page)).filter(
    (r) => r.arrangement === 'Quay bollards' && r.state === 'placed',
  );
  const places = await Promise.all(bollards.map(({ x, y, z }) => onScreen(page, [x, y + 0.45, z])));
  const middle = await at(page, 0.5, 0.6);
  const far = ({ x, y }: { x: number; y: number }) => Math.hypot(x - middle.x, y - middle.y);
  const [place] = places.sort((a, b) => far(a) - far(b));
  await settled(page);
  const before = await colorAt(page, place);
  await page.mouse.move(place.x, place.y);
  const off = async () => apart(await colorAt(page, place), before);
  await expect.poll(off).toBeGreaterThan(20);
  await page.mouse.move(place.x, place.y - 60);
  await expect.poll(off).toBeLessThan(6);
}

test('of many more than are drawn at once every one is there in the end, in the light that few are drawn in', async ({
  page,
}) => {
  await openMany(page, 24_000, 2);
  await page.keyboard.press('Escape');
  await lightsUpAmongMany(page);
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  const said = page.getByTestId('drawn');
  await expect(said).toHaveText(/as points$/);
  const whole = await picture(page);
  const [sky, water] = [await at(page, 0.5, 0.3), await at(page, 0.5, 0.7)];
  const tufts = (await rows(page)).filter((r) => r.arrangement === 'Tufts' && Number(r.slot) % 797 === 0);
  expect(tufts.length).toBeGreaterThan(25);
  const places = await Promise.all(tufts.map(({ x, y, z }) => onScreen(page, [x, y + 0.45, z])));
  await page.getByRole('button', { name: 'Hide Tufts', exact: true }).click();
  await settled(page);
  await expect(said).toHaveText(/drawn in full/);
  const few = await picture(page);
  for (const { x, y } of [sky, water])
    expect(apart(whole(x, y, 1, 1)[0], few(x, y, 1, 1)[0])).toBeLessThan(0.01);
  for (const { x, y } of places) {
    const off = whole(x, y, 3, 3).map((seen, i) => apart(seen, few(x, y, 3, 3)[i]));
    expect(Math.max(...off)).toBeGreaterThan(0.2);
  }
});

ownTest('a card shows its scene as it was left, in whatever way', async ({ page, context }) => {
  const card = (of: Page) => of.getByRole('button', { name: /^Open Tern Quay/ }).locator('img');
  const shown = async (of: Page) => {
    await card(of).evaluate((img: HTMLImageElement) => img.decode());
    return (await card(of).getAttribute('src'))!;
  };
  await openExample(page);
  // By the browser's own button.
  await page.goBack();
  const first = await shown(page);
  expect(first).toMatch(/^data:image\/jpeg/);
  await card(page).click();
  await settled(page);
  await fromTop(page);
  // By nothing at all: another tab sees how it stands here, a moment after it came to rest.
  const other = await context.newPage();
  await other.goto('/');
  await expect(async () => {
    await other.reload();
    expect((await shown(other)) === first).toBe(false);
  }).toPass();
});

ownTest('a graphics context that is lost is said, and comes back with the picture', async ({ page }) => {
  await openQuay(page);
  await page.keyboard.press('Escape');
  await settled(page);
  const view = (await scene(page).boundingBox())!;
  const picture = async () => {
    const { data, channels } = decode(
      await page.screenshot({ clip: { ...view, y: view.y + 130, height: 240 } }),
    );
    return Array.from({ length: data.length / channels }, (_, i) =>
      [0, 1, 2].map((k) => data[i * channels + k]),
    );
  };
  /** Pixels that are clearly others. */
  const others = (a: number[][], b: number[][]) =>
    a.filter((p, i) => apart(p as Rgb, b[i] as Rgb) > 24).length;
  const before = await picture();
  const lose = (restore: boolean) =>
    page.evaluate((back) => {
      const gl = document.querySelector('canvas')!.getContext('webgl2')!;
      const kept = window as unknown as { lose?: WEBGL_lose_context };
      kept.lose ??= gl.getExtension('WEBGL_lose_context')!;
      if (back) kept.lose.restoreContext();
      else kept.lose.loseContext();
    }, restore);
  await lose(false);
  await expect(page.getByText(/have let go of the picture/)).toBeVisible();
  // Meanwhile everything else goes on.
  await page.getByRole('button', { name: 'Hide Lamp posts', exact: true }).click();
  await settled(page);
  await page.keyboard.press('Control+z');
  await lose(true);
  await expect(page.getByText(/have let go of the picture/)).toBeHidden();
  await expect(async () => {
    await settled(page);
    expect(others(await picture(), before)).toBeLessThan(before.length / 200);
  }).toPass();
});

ownTest('without WebGL that is said, and lists, recipes, flat views and files work', async ({ page }) => {
  await page.addInitScript(() => {
    const real = HTMLCanvasElement.prototype.getContext;
    HTMLCanvasElement.prototype.getContext = function (
      this: HTMLCanvasElement,
      kind: string,
      ...rest: unknown[]
    ) {
      return kind.startsWith('webgl')
        ? null
        : (real as (...a: unknown[]) => unknown).call(this, kind, ...rest);
    } as typeof real;
  });
  await openQuay(page);
  await expect(page.getByText(/This browser has no WebGL/)).toBeVisible();
  await expect(page.getByTestId('drawn')).toHaveText(/^\d+ props, not drawn$/);
  await page.getByRole('button', { name: /^Quay bollards Run/ }).click();
  const before = (await rows(page)).filter((r) => r.arrangement === 'Quay bollards' && r.state === 'placed');
  const spacing = await openStep(page, 'Spacing');
  await type(spacing.getByLabel('Pitch', { exact: true }), '4');
  await settled(page);
  const sent = readRows((await sendOut(page, 'csv')).toString());
  const after = sent.filter((r) => r.arrangement === 'Quay bollards');
  expect(after.length).toBeGreaterThan(3);
  expect(after.length).toBeLessThan(before.length);
  await expect(page.getByLabel('Flat view').locator('[data-slot]').first()).toBeVisible();
});

test('what is dragged is drawn coarser until it is let go; what keys change never is', async ({ page }) => {
  await openQuay(page);
  const spacing = await openStep(page, 'Spacing');
  await settled(page);
  const wide = () =>
    page
      .locator('canvas')
      .first()
      .evaluate((c) => (c as HTMLCanvasElement).width);
  const full = await wide();
  const pitch = (await spacing.locator('label', { hasText: /^Pitch$/ }).boundingBox())!;
  const [x, y] = [pitch.x + pitch.width / 2, pitch.y + pitch.height / 2];
  await page.mouse.move(x, y);
  const drawn = page.getByTestId('drawn');
  await expect(drawn).toHaveText(/drawn in full/);
  await page.mouse.down();
  // From its first change on.
  await page.mouse.move(x + 10, y);
  await expect.poll(wide).toBeLessThan(full / 2);
  await expect(drawn).toHaveText(/drawn coarser while moving/);
  await page.mouse.move(x + 40, y, { steps: 3 });
  await page.mouse.up();
  await expect.poll(wide).toBe(full);
  await expect(drawn).toHaveText(/drawn in full/);
  // Its shadows are those of where things stand now: of a pitch that is typed it is the same picture.
  const field = spacing.getByLabel('Pitch', { exact: true });
  const box = (await scene(page).boundingBox())!;
  const clip = { x: box.x + 20, y: box.y + 120, width: box.width - 40, height: box.height - 220 };
  const look = async () => {
    await settled(page);
    return page.screenshot({ clip });
  };
  const [dragged, metres] = [await look(), await field.inputValue()];
  await page.keyboard.press('Control+z');
  expect(await look()).not.toEqual(dragged);
  await type(field, metres);
  expect(await look()).toEqual(dragged);
  await field.focus();
  for (let k = 0; k < 4; k++) {
    await page.keyboard.press('ArrowUp');
    expect(await wide()).toBe(full);
  }
  // What the keys have begun is still one step; a click that changes something is no drag.
  await page.mouse.move(x, y);
  await page.mouse.down();
  expect(await wide()).toBe(full);
  await page.mouse.up();
});
