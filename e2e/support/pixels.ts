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

/** Some pixels about a place of the page, and how wide a row of them is. */
export async function pixels(
  page: Page,
  x: number,
  y: number,
  width: number,
  height: number,
): Promise<Rgb[]> {
  const clip = { x: Math.round(x - width / 2), y: Math.round(y - height / 2), width, height };
  const { data, channels } = decode(await page.screenshot({ clip }));
  return Array.from({ length: width * height }, (_, i) =>
    [0, 1, 2].map((k) => data[i * channels + k] / 255),
  ) as Rgb[];
}

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
