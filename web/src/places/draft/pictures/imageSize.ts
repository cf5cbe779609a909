/** How large a picture is by the head of its file, before it is unpacked: a small file can be a wall of a billion pixels. */

export interface ImageSize {
  readonly kind: 'png' | 'jpeg';
  readonly widthPx: number;
  readonly heightPx: number;
}

const PNG = [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a];

/** Frames of a JPEG that say its size: all but those of tables and of arithmetic coding's conditioning. */
const isFrame = (marker: number): boolean =>
  marker >= 0xc0 && marker <= 0xcf && ![0xc4, 0xc8, 0xcc].includes(marker);

/** The size of a PNG or a JPEG; undefined for anything else, and for one that breaks off before it says so. */
export function imageSize(bytes: Uint8Array): ImageSize | undefined {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (bytes.length >= 24 && PNG.every((byte, i) => bytes[i] === byte)) {
    const [widthPx, heightPx] = [view.getUint32(16), view.getUint32(20)];
    return widthPx > 0 && heightPx > 0 ? { kind: 'png', widthPx, heightPx } : undefined;
  }
  if (bytes[0] !== 0xff || bytes[1] !== 0xd8) return undefined;
  for (let at = 2; at + 9 < bytes.length;) {
    if (bytes[at] !== 0xff) return undefined;
    const marker = bytes[at + 1];
    // Filling, and markers that stand alone.
    if (marker === 0xff) at += 1;
    else if (marker === 0x01 || (marker >= 0xd0 && marker <= 0xd8)) at += 2;
    else if (isFrame(marker)) {
      const [heightPx, widthPx] = [view.getUint16(at + 5), view.getUint16(at + 7)];
      return widthPx > 0 && heightPx > 0 ? { kind: 'jpeg', widthPx, heightPx } : undefined;
    } else at += 2 + view.getUint16(at + 2);
  }
  return undefined;
}
