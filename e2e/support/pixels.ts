import { expect, type Page } from '@playwright/test';
import { decode } from 'fast-png';
import { FloatType } from 'three';
import { EXRLoader } from 'three/examples/jsm/loaders/EXRLoader.js';
import { settled } from './app';

/** Pixels of the picture, as it is drawn and as it has developed. */

/** A small view is developed as a large one is, only sooner. It is not done unasked here. */
export async function develop(page: Page): Promise<void> {
  await page.setViewportSize({ width: 800, height: 500 });
  await command(page, 'soft shadows');
  await expect(page.getByText('The picture develops when nothing moves.')).toBeVisible();
}

/** A command found by words that people have for it. */
export async function command(page: Page, words: string): Promise<void> {
  await page.keyboard.press('Control+k');
  await page.getByLabel('Search the commands').fill(words);
  await page.keyboard.press('Enter');
}

/** Waits until the picture has developed. */
export const developed = async (page: Page) => {
  await settled(page);
  await page.evaluate(() => window.clothesline!.developed!());
};

export type Rgb = [number, number, number];

/** Some pixels about a place of a picture, row by row. */
type Look = (x: number, y: number, width: number, height: number) => Rgb[];

/** Some pixels about a place of the page. For several places see {@link picture}. */
export async function pixels(page: Page, ...[x, y, width, height]: Parameters<Look>): Promise<Rgb[]> {
  const [left, top] = [Math.round(x - width / 2), Math.round(y - height / 2)];
  const seen = decode(await page.screenshot({ clip: { x: left, y: top, width, height } }));
  return rowsOf(seen, 0, 0, width, height);
}

/** The page as it is seen now: all places that one looks at cost one picture. */
export async function picture(page: Page): Promise<Look> {
  const seen = decode(await page.screenshot());
  return (x, y, width, height) =>
    rowsOf(seen, Math.round(x - width / 2), Math.round(y - height / 2), width, height);
}

const rowsOf = (
  { data, channels, width: wide }: ReturnType<typeof decode>,
  left: number,
  top: number,
  width: number,
  height: number,
): Rgb[] =>
  Array.from({ length: width * height }, (_, i) => {
    const o = ((top + Math.floor(i / width)) * wide + left + (i % width)) * channels;
    return [data[o] / 255, data[o + 1] / 255, data[o + 2] / 255];
  });

/**
 * The light that a pixel's red stands for, from its tones back: those of the Khronos group's neutral mapping, for
 * colours of which red is the strongest.
 */
export function lightOf(pixel: Rgb): number {
  const [red, , blue] = pixel.map((v) => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4));
  const peak = red < 0.76 ? red : 0.24 ** 2 / (1 - red) - 0.24 + 0.76;
  const least = blue >= 0.04 ? 0.08 : Math.sqrt(blue / 6.25);
  return peak + (least - 6.25 * least * least);
}

/** The light in a still picture of a viewpoint, as a file of light holds it: by its pixels, and rgba, bottom row first. */
export async function lightOfStill(
  page: Page,
  view: string,
  size: number,
): Promise<{ at: (x: number, y: number) => Rgb; data: Float32Array; height: number }> {
  const { ok, text } = await page.evaluate(
    ([name, side]) =>
      window.clothesline!.still!(name, 0, {
        ...{ size: side, frames: 16, background: 'scene', color: '#000000', format: 'exr' },
      }),
    [view, size] as const,
  );
  expect(ok, text).toBe(true);
  const { buffer, byteOffset, byteLength } = Buffer.from(text, 'base64');
  const loader = new EXRLoader().setDataType(FloatType);
  const read = loader.parse(buffer.slice(byteOffset, byteOffset + byteLength) as ArrayBuffer);
  const { data, width, height } = read as { data: Float32Array; width: number; height: number };
  const at = (x: number, y: number): Rgb => {
    const o = ((height - 1 - y) * width + x) * 4;
    return [data[o], data[o + 1], data[o + 2]];
  };
  return { at, data, height };
}
