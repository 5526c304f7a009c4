import { useEffect, useState } from 'react';
import { meshBounds, propMatrix } from '@/core/mesh/mesh';
import type { Prop } from '@/core/mesh/propSchema';
import { shippedPicture } from '@/demo/pictures';
import type { Scene } from '@/core/scene/schema';
import { useDocument } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { drawnWardrobe, looksIn } from '@/view/dressing';
import { pictureOf } from '@/view/pictures';
import { libraryProp } from './libraryProp';

type Pictured = Pick<Prop, 'mesh' | 'unitScale' | 'foot' | 'front' | 'up' | 'material'>;

const pictures = new Map<string, string | null>();
let queue: Promise<unknown> = Promise.resolve();
const keyOf = (p: Pictured) => JSON.stringify([p.mesh, p.unitScale, p.foot, p.front, p.up]);

/** A prop drawn now; null where there is nothing to show. */
export async function drawPicture(prop: Pictured): Promise<string | null> {
  const mesh = await engine().mesh(prop.mesh);
  if (!mesh || mesh.indices.length < 3) return null;
  const looks = looksIn(mesh, prop.material, drawnWardrobe(useDocument.getState().scene.materials));
  return pictureOf({ ...mesh, materials: looks }, propMatrix(prop, meshBounds(mesh)));
}

/** The picture that ships with a prop which is as the library has it. */
function shipped(prop: Pictured): string | undefined {
  if (prop.mesh.source !== 'built' || prop.material !== null) return undefined;
  const own = libraryProp(prop.mesh.name);
  return own && keyOf(own) === keyOf(prop) ? shippedPicture(prop.mesh.name) : undefined;
}

/** The measures of a bundle, as text. */
function heldIn(bundle: string, { scene, result }: ReturnType<typeof engine>['state']): string {
  const prop = scene?.props.find((p) => p.mesh.source === 'bundle' && p.mesh.bundle === bundle);
  return prop ? JSON.stringify(result.propBounds[prop.id] ?? null) : '';
}

/** The material that a prop wears, or all that a bundle may, as text. */
function wornText({ materials }: Scene, { mesh, material }: Pictured): string {
  if (mesh.source === 'bundle') return materials.length > 0 ? JSON.stringify(materials) : '';
  return material === null ? '' : JSON.stringify(materials.find((m) => m.id === material));
}

/** A rendered picture of a prop as a data URL; null where there is nothing to show, undefined until it is drawn. */
export function usePicture(prop: Pictured | undefined): string | null | undefined {
  // What a bundle holds is another when its measures are.
  const held = useEngine((s) => (prop?.mesh.source === 'bundle' ? heldIn(prop.mesh.bundle, s) : ''));
  // What it wears is part of what is seen, and so is what those in a bundle do.
  const worn = useDocument(({ scene }) => (prop ? wornText(scene, prop) : ''));
  const key = prop ? `${keyOf(prop)}${held}${worn}` : '';
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
      // What has become another meanwhile, as by a dragged colour, is passed over.
      if (current && !pictures.has(key)) {
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
