/** A canvas as dense as the screen, ready to be drawn on in pixels of the page; with the colours that the theme gives. */
export function sharpCanvas(element: HTMLCanvasElement | null, size: { width: number; height: number }) {
  const paint = element?.getContext('2d');
  if (!element || !paint) return null;
  const dense = window.devicePixelRatio || 1;
  element.width = size.width * dense;
  element.height = size.height * dense;
  paint.setTransform(dense, 0, 0, dense, 0, 0);
  const style = getComputedStyle(element);
  return { paint, ink: (name: string) => style.getPropertyValue(name) };
}
