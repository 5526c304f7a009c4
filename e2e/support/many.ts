import { readFile } from 'node:fs/promises';
import type { Page } from '@playwright/test';
import { openText } from './app';

/** Opens the quay with so many free pegs beside it, `apart` metres from each other, and a path of so many points. */
export async function openMany(page: Page, pegs: number, apart: number, points = 0): Promise<void> {
  const scene = JSON.parse(await readFile('src/core/testing/fixtures/version-2.json', 'utf8'));
  const across = Math.ceil(Math.sqrt(pegs * 2.5));
  scene.arrangements.push({
    id: 'pegs900000',
    kind: 'pegs',
    name: 'Tufts',
    thread: 'moss',
    pegs: Array.from({ length: pegs }, (_, i) => ({
      id: `peg${900001 + i}`,
      prop: scene.props[0].id,
      position: [40 + (i % across) * apart, 0, Math.floor(i / across) * apart],
    })),
  });
  if (points > 0)
    scene.paths.push({
      id: 'path800000',
      name: 'Coast',
      source: {
        kind: 'points',
        points: Array.from({ length: points }, (_, i) => ({
          id: `pt${800001 + i}`,
          kind: 'corner',
          position: [i / 10, 0, -20],
        })),
      },
    });
  await openText(page, 'many.json', JSON.stringify(scene));
}
