import type { Scene } from '@/core/scene/schema';
import type { NewLayer } from '@/store/commands/masks';
import { useSelection } from '@/store/selection';

/** Ready beginnings of masks and of their layers, by plain names. */

export interface MaskStart {
  text: string;
  hint: string;
  layers: NewLayer[];
}

/** The paths that a layer begins with: those in hand, else the first closed one, or the first. */
function pathsFor({ paths }: Scene, closed: boolean): string[] {
  const { node, beside } = useSelection.getState();
  const chosen = [...beside, ...(node ? [node] : [])].flatMap((n) => (n.kind === 'path' ? [n.id] : []));
  if (chosen.length > 0) return chosen;
  const fit = closed ? paths.filter((p) => p.closed) : paths;
  return fit.slice(0, 1).map((p) => p.id);
}

/** What masks, and layers, can begin as. */
export function maskStarts(scene: Scene): MaskStart[] {
  const others = scene.surfaces.filter((s) => s.visible).map((s) => s.id);
  return [
    {
      text: 'Not on steep ground',
      hint: 'Thins out from 30° on, and ends at 45°',
      layers: [{ kind: 'slope', over: true }],
    },
    {
      text: 'Only on top',
      hint: 'Where the surface looks up',
      layers: [{ kind: 'facing', riseDeg: 90, from: 40, to: 20 }],
    },
    {
      text: 'Away from paths',
      hint: 'Nothing within half a metre of a path, all from one and a half on',
      layers: [{ kind: 'distance', of: 'paths', paths: pathsFor(scene, false), from: 0.5, to: 1.5 }],
    },
    {
      text: 'Fading at the edge',
      hint: 'Thinner towards the border of the surface',
      layers: [{ kind: 'distance', of: 'border', from: 0, to: 2 }],
    },
    {
      text: 'Inside a closed path',
      hint: 'Only there, as seen from above',
      layers: [{ kind: 'inside', paths: pathsFor(scene, true) }],
    },
    { text: 'In patches', hint: 'By noise: here some, there none', layers: [{ kind: 'noise' }] },
    { text: 'By height', hint: 'From the ground up, or down', layers: [{ kind: 'height' }] },
    {
      text: 'In hollows',
      hint: 'Where the surface bends inwards',
      layers: [{ kind: 'curvature', from: 0, to: -0.5 }],
    },
    { text: 'Above the water', hint: 'From a level on', layers: [{ kind: 'water' }] },
    {
      text: 'Not under cover',
      hint: 'Where something stands within three metres above, nothing',
      layers: [{ kind: 'covered', surfaces: others }],
    },
    {
      text: 'Beside outlines',
      hint: 'Not on roads, houses, props: what they cover as seen from above',
      layers: [{ kind: 'outline' }],
    },
    { text: 'By a picture', hint: 'A PNG or JPEG, by uv or from above', layers: [{ kind: 'picture' }] },
    { text: 'Along u', hint: 'By the first texture coordinate', layers: [{ kind: 'u' }] },
    { text: 'Along v', hint: 'By the second texture coordinate', layers: [{ kind: 'v' }] },
    { text: 'Painted', hint: 'By the brush: nothing until it is painted', layers: [{ kind: 'painted' }] },
  ];
}
