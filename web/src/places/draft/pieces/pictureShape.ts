/** A picture file as a shape to lay: its outline, 40 mm in its larger measure. */
import { boxOf, polyline, type Path } from '@hollow-finch/core/geometry/path';
import type { Point } from '@hollow-finch/core/geometry/point';
import { figureOf, tracedRing } from './trace.ts';

const LARGEST_BYTES = 20_000_000;
/** A picture is looked at this large, pixels. */
const LOOKED_PX = 480;
const SIZE_MM = 40;

/**
 * The outline of what a picture shows.
 *
 * @throws Error with a sentence that says what is wrong with the file
 */
export async function pictureOutline(file: File): Promise<Path> {
  if (file.size > LARGEST_BYTES) throw new Error(`${file.name} is larger than 20 MB: save it smaller.`);
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Error(`${file.name} is no picture that can be read: choose a PNG or a JPEG.`);
  });
  const scale = Math.min(1, LOOKED_PX / Math.max(bitmap.width, bitmap.height));
  const [width, height] = [bitmap.width, bitmap.height].map((px) => Math.max(1, Math.round(px * scale)));
  const canvas = document.createElement('canvas');
  [canvas.width, canvas.height] = [width, height];
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  const ring = tracedRing(
    figureOf(context.getImageData(0, 0, width, height).data, width, height),
    width,
    height,
  );
  if (!ring)
    throw new Error(
      `Nothing stands out in ${file.name}: use a picture with a clear ground, or one dark on light.`,
    );
  const box = boxOf(ring);
  const factor = SIZE_MM / Math.max(box.maxX - box.minX, box.maxY - box.minY);
  return polyline(
    ring.map(([x, y]): Point => [x * factor, y * factor]),
    true,
  );
}
