/** A picture file as a design keeps it: a PNG or JPEG, made small enough, without anything else that the file may hold. */
import type { Image } from '@hollow-finch/core/design/design';
import { imageSize } from './imageSize.ts';

const LARGEST_BYTES = 25_000_000;
const LARGEST_PIXELS = 80_000_000;
/** A picture is kept at most so large, pixels; smaller still until its data are short enough. */
const KEPT_PX = 1_400;
const SMALLER = 0.8;
/** The longest that its data may be, as the schema of designs has it. */
const LONGEST = 240_000;

/**
 * Reads a picture.
 *
 * @throws Error with a sentence that says what is wrong with the file
 */
export async function readImage(file: File): Promise<Omit<Image, 'id'>> {
  if (file.size > LARGEST_BYTES)
    throw new Error(`${file.name} is ${(file.size / 1e6).toFixed(0)} MB; pictures up to 25 MB can be read.`);
  const size = imageSize(new Uint8Array(await file.arrayBuffer()));
  if (!size) throw new Error(`${file.name} is no PNG or JPEG: save the picture as one of them.`);
  if (size.widthPx * size.heightPx > LARGEST_PIXELS)
    throw new Error(
      `${file.name} has ${size.widthPx.toLocaleString('en')} × ${size.heightPx.toLocaleString('en')} pixels; up to 80 million can be read: save it smaller.`,
    );
  const bitmap = await createImageBitmap(file).catch(() => {
    throw new Error(`${file.name} cannot be unpacked: the file is damaged, or breaks off.`);
  });
  try {
    const canvas = document.createElement('canvas');
    const context = canvas.getContext('2d', { willReadFrequently: true })!;
    let scale = Math.min(1, KEPT_PX / Math.max(bitmap.width, bitmap.height));
    for (;;) {
      canvas.width = Math.max(1, Math.round(bitmap.width * scale));
      canvas.height = Math.max(1, Math.round(bitmap.height * scale));
      context.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
      const png = size.kind === 'png' ? canvas.toDataURL('image/png') : '';
      // What is see-through stays so; what is not is smaller as a JPEG.
      const data =
        png && (png.length <= LONGEST || isSeeThrough(context, canvas))
          ? png
          : canvas.toDataURL('image/jpeg', 0.82);
      if (data.length <= LONGEST)
        return {
          name: file.name.slice(0, 120) || 'Picture',
          data,
          widthPx: canvas.width,
          heightPx: canvas.height,
        };
      scale *= SMALLER;
    }
  } finally {
    bitmap.close();
  }
}

function isSeeThrough(context: CanvasRenderingContext2D, { width, height }: HTMLCanvasElement): boolean {
  const { data } = context.getImageData(0, 0, width, height);
  for (let i = 3; i < data.length; i += 4) if (data[i] < 250) return true;
  return false;
}
