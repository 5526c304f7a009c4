import { UNDRAWN } from './undrawn';

/**
 * Whether the browser draws without a graphics card. Then edges are not smoothed, materials are matt, shadows are
 * coarser, and moving is drawn at fewer pixels: each costs more there than it shows.
 */
function drawsInSoftware(): boolean {
  if (typeof document === 'undefined') return false;
  if (UNDRAWN) return true;
  const context = document.createElement('canvas').getContext('webgl2');
  const info = context?.getExtension('WEBGL_debug_renderer_info');
  const name = info ? String(context!.getParameter(info.UNMASKED_RENDERER_WEBGL)) : '';
  context?.getExtension('WEBGL_lose_context')?.loseContext();
  return /swiftshader|llvmpipe|software|basic render/i.test(name);
}

export const SOFTWARE = drawsInSoftware();
