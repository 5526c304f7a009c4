import { useEffect, useState } from 'react';
import { meshBounds, propMatrix } from '@/core/mesh/mesh';
import type { Prop } from '@/core/mesh/propSchema';
import { shippedPicture } from '@/demo/pictures';
import { engine, useEngine } from '@/store/engine';
import { pictureOf } from '@/view/pictures';
import { libraryProp } from './libraryProp';

type Pictured = Pick<Prop, 'mesh' | 'unitScale' | 'foot' | 'front' | 'up'>;

const pictures = new Map<string, string | null>();
let queue: Promise<unknown> = Promise.resolve();
const keyOf = (p: Pictured) => JSON.stringify([p.mesh, p.unitScale, p.foot, p.front, p.up]);

/** A prop drawn now; null where there is nothing to show. */
export async function drawPicture(prop: Pictured): Promise<string | null> {
  const mesh = await engine().mesh(prop.mesh);
  if (!mesh || mesh.indices.length < 3) return null;
  return pictureOf(mesh, propMatrix(prop, meshBounds(mesh)));
}

/** The picture that ships with a prop which is as the library has it. */
function shipped(prop: Pictured): string | undefined {
  if (prop.mesh.source !== 'built') return undefined;
  const own = libraryProp(prop.mesh.name);
  return own && keyOf(own) === keyOf(prop) ? shippedPicture(prop.mesh.name) : undefined;
}

/** The measures of a bundle, as text. */
function heldIn(bundle: string, { scene, result }: ReturnType<typeof engine>['state']): string {
  const prop = scene?.props.find((p) => p.mesh.source === 'bundle' && p.mesh.bundle === bundle);
  return prop ? JSON.stringify(result.propBounds[prop.id] ?? null) : '';
}

/** A rendered picture of a prop as a data URL; null where there is nothing to show, undefined until it is drawn. */
export function usePicture(prop: Pictured | undefined): string | null | undefined {
  // What a bundle holds is another when its measures are.
  const held = useEngine((s) => (prop?.mesh.source === 'bundle' ? heldIn(prop.mesh.bundle, s) : ''));
  const key = prop ? `${keyOf(prop)}${held}` : '';
  const [, drawn] = useState(0);
  useEffect(() => {
    if (!prop || pictures.has(key)) return undefined;
    const file = shipped(prop);
    if (file) {
      pictures.set(key, file);
      drawn((n) => n + 1);
      return undefined;
    }
    let current = true;
    const work = queue.then(async () => {
      if (!pictures.has(key)) {
        // One at a time with a breath between, so that the interface stays quick.
        await new Promise((resolve) => setTimeout(resolve, 4));
        const picture = await drawPicture(prop);
        if (picture) pictures.set(key, picture);
      }
      if (current) drawn((n) => n + 1);
    });
    queue = work.catch(() => {});
    return () => {
      current = false;
    };
    // The key stands for the prop.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return pictures.get(key);
}
