import { useDocument } from '@/store/document';
import { useView } from '@/view/viewState';
import { putIn } from '../light/putIn';
import { openDialog } from '../uiState';
import { keepView, stepViewpoint } from '../viewpoints/looking';
import type { Action } from './action';

/** What is done for the picture of a scene: its light, its viewpoints, stills. */

/** Puts lights in, with their panel open: what they are is seen at once. */
function putInLight(what: Parameters<typeof putIn>[0]): void {
  openDialog('light');
  putIn(what);
}

export const PICTURE_ACTIONS: Action[] = [
  {
    id: 'light',
    title: 'Light of the scene',
    words:
      'sun sky lighting illumination time of day evening night overcast exposure warmth kelvin shadows moon',
    run: () => openDialog('light'),
  },
  ...(['point', 'area', 'spot'] as const).map((kind): Action => ({
    id: `put-in-${kind}`,
    title: `Put in a light: ${kind}`,
    words: 'lamp bulb lighting studio illuminate own light add create',
    enabled: () => !useDocument.getState().readOnly,
    run: () => putInLight(kind),
  })),
  {
    id: 'put-in-set',
    title: 'Light what is selected: main, fill and back',
    words: 'three point lighting key fill rim studio portrait lamps set',
    enabled: () => !useDocument.getState().readOnly,
    run: () => putInLight('set'),
  },
  {
    id: 'materials',
    title: 'Materials',
    words:
      'shader texture colour color paint metal brass steel rough gloss roughness glow emissive surface look',
    run: () => openDialog('materials'),
  },
  {
    id: 'still',
    title: 'Still picture…',
    words:
      'render export image png exr screenshot photo depth normals mask turntable sequence animation frames',
    run: () => openDialog('still'),
  },
  {
    id: 'viewpoints',
    title: 'Viewpoints',
    words: 'camera view bookmark shot frame lens focal length aspect composition thirds depth of field',
    run: () => openDialog('viewpoints'),
  },
  {
    id: 'keep-view',
    title: 'Keep this view as a viewpoint',
    words: 'camera add new save bookmark create shot from view',
    enabled: () => !useDocument.getState().readOnly,
    run: () => {
      openDialog('viewpoints');
      useView.setState({ viewpoint: keepView() });
    },
  },
  ...([1, -1] as const).map((by): Action => ({
    id: by > 0 ? 'next-viewpoint' : 'last-viewpoint',
    title: by > 0 ? 'Go to the next viewpoint' : 'Go to the viewpoint before',
    words: 'camera switch cycle look through shot',
    enabled: () => useDocument.getState().scene.viewpoints.length > 0,
    run: () => {
      openDialog('viewpoints');
      stepViewpoint(by);
    },
  })),
];
