import type { Point } from '@hollow-finch/core/geometry/point';

/** Where a pointer is on a drawing: in the drawing's own millimetres, y up; null while it is not shown. */
export function placeOn(
  drawing: SVGGraphicsElement | null,
  { clientX, clientY }: { readonly clientX: number; readonly clientY: number },
): Point | null {
  const matrix = drawing?.getScreenCTM?.();
  if (!matrix) return null;
  const { x, y } = new DOMPoint(clientX, clientY).matrixTransform(matrix.inverse());
  return [x, -y];
}
