import { useEffect, useState } from 'react';
import { meshBounds, propMatrix } from '@/core/mesh/mesh';
import type { Prop } from '@/core/scene/schema';
import { engine } from '@/store/engine';
import { pictureOf } from '@/view/pictures';
import { waitFor } from '@/view/viewState';

type Pictured = Pick<Prop, 'mesh' | 'unitScale' | 'foot' | 'front' | 'up'>;

const pictures = new Map<string, string | null>();
let queue: Promise<unknown> = Promise.resolve();
const keyOf = (p: Pictured) => JSON.stringify([p.mesh, p.unitScale, p.foot, p.front, p.up]);

async function draw(prop: Pictured): Promise<string | null> {
  const mesh = await engine().mesh(prop.mesh);
  if (!mesh || mesh.indices.length < 3) return null;
  // One at a time with a breath between, so that the interface stays quick.
  await new Promise((resolve) => setTimeout(resolve, 4));
  return pictureOf(mesh, propMatrix(prop, meshBounds(mesh)));
}

/** A rendered picture of a prop as a data URL; null where there is nothing to show, undefined until it is drawn. */
export function usePicture(prop: Pictured | undefined): string | null | undefined {
  const key = prop ? keyOf(prop) : '';
  const [, drawn] = useState(0);
  useEffect(() => {
    if (!prop || pictures.has(key)) return undefined;
    let current = true;
    const work = queue.then(async () => {
      if (!pictures.has(key)) {
        const picture = await draw(prop);
        if (picture) pictures.set(key, picture);
      }
      if (current) drawn((n) => n + 1);
    });
    queue = waitFor(work).catch(() => {});
    return () => {
      current = false;
    };
    // The key stands for the prop.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return pictures.get(key);
}
