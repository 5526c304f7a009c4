import { UNDRAWN } from './undrawn';

/**
 * Whether the browser draws without a graphics card. Then edges are not smoothed, materials are matt, shadows are
 * coarser, and moving is drawn at fewer pixels: each costs more there than it shows.
 */
function drawsInSoftware(): boolean {
  if (typeof document === 'undefined') return false;
  if (UNDRAWN) return true;
  const known = remembered();
  if (known !== null) return known === 'yes';
  const context = document.createElement('canvas').getContext('webgl2');
  const info = context?.getExtension('WEBGL_debug_renderer_info');
  const name = info ? String(context!.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
  context?.getExtension('WEBGL_lose_context')?.loseContext();
  const found = /swiftshader|llvmpipe|software|basic render/i.test(name);
  try {
    sessionStorage.setItem(KEY, found ? 'yes' : 'no');
  } catch {
    // Where the browser keeps nothing it is found out at every start.
  }
  return found;
}

/** A context only to ask for its name takes a tenth of a second: asked once a tab. */
const KEY = 'draws-in-software';

function remembered(): string | null {
  try {
    return sessionStorage.getItem(KEY);
  } catch {
    return null;
  }
}

export const SOFTWARE = drawsInSoftware();
