/** The sizes of picture files, against those that an image library wrote; mangled ones are no pictures, and end at once. */
import sharp from 'sharp';
import { expect, it } from 'vitest';
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { imageSize } from './imageSize.ts';

const picture = (width: number, height: number) =>
  sharp({ create: { width, height, channels: 3, background: { r: 200, g: 120, b: 40 } } });

it('is read from PNG and JPEG files, plain and progressive', async () => {
  for (const [width, height] of [
    [1, 1],
    [640, 31],
    [300, 1201],
  ] as const) {
    const files = [
      ['png', await picture(width, height).png().toBuffer()],
      ['jpeg', await picture(width, height).jpeg().toBuffer()],
      ['jpeg', await picture(width, height).jpeg({ progressive: true }).withMetadata().toBuffer()],
    ] as const;
    for (const [kind, bytes] of files)
      expect(imageSize(bytes)).toEqual({ kind, widthPx: width, heightPx: height });
  }
  expect(imageSize(await picture(8, 8).webp().toBuffer())).toBeUndefined();
});

it('of 4,000 mangled files ends at once, with a size or none', async () => {
  const random = seededRandom(2);
  const whole = [await picture(64, 48).png().toBuffer(), await picture(64, 48).jpeg().toBuffer()];
  for (let round = 0; round < 4_000; round++) {
    const bytes = Uint8Array.from(whole[round % 2]);
    for (let k = 0; k < 1 + 4 * random(); k++)
      bytes[Math.floor(bytes.length * random())] = Math.floor(256 * random());
    const size = imageSize(bytes.subarray(0, Math.floor(bytes.length * (random() < 0.3 ? random() : 1))));
    if (size) expect(Math.min(size.widthPx, size.heightPx)).toBeGreaterThan(0);
  }
});
