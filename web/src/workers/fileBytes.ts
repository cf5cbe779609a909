/** Bytes of files that are brought in: decoded, and unpacked with a limit. */
import { Decompress } from 'fflate';

export const decode = (bytes: Uint8Array, encoding: string): string =>
  new TextDecoder(encoding, { fatal: true }).decode(bytes);

/** Unpacks piece by piece, as it is packed in archives or in PDF, and stops where it grows too large. */
export function unpack(bytes: Uint8Array, mostBytes: number): Uint8Array | undefined {
  const chunks: Uint8Array[] = [];
  let total = 0;
  const stream = new Decompress((chunk) => {
    total += chunk.length;
    if (total > mostBytes) throw new RangeError('too large');
    chunks.push(chunk);
  });
  try {
    for (let at = 0; at < bytes.length; at += 65_536)
      stream.push(bytes.subarray(at, at + 65_536), at + 65_536 >= bytes.length);
  } catch {
    return undefined;
  }
  const whole = new Uint8Array(total);
  let at = 0;
  for (const chunk of chunks) {
    whole.set(chunk, at);
    at += chunk.length;
  }
  return whole;
}
