/** Reads a drawing from the bytes of a file: whatever its name says, by what is in it. */
import { NotReadable, READ_LIMITS, type Drawing } from './drawing.ts';
import { readDxf } from './dxf.ts';
import { readFold } from './fold.ts';
import { readSvg } from './svg.ts';

/** Unpacks at most so many bytes; undefined where there are more. */
export type Unpack = (bytes: Uint8Array, mostBytes: number) => Uint8Array | undefined;

/** Decodes text: by its byte order mark, else as UTF-8, else in the code page that the file names. */
export type Decode = (bytes: Uint8Array, encoding: string) => string;

const startsWith = (bytes: Uint8Array, ...head: number[]): boolean =>
  head.every((each, i) => bytes[i] === each);

/** Whether bytes begin as a PDF does: that is read by itself (readPdf.ts). */
export const isPdf = (bytes: Uint8Array): boolean => startsWith(bytes, 0x25, 0x50, 0x44, 0x46);

/** The first bytes as plain letters, to tell what a file is. */
const headOf = (bytes: Uint8Array): string =>
  Array.from(bytes.subarray(0, 4000), (b) => (b === 0 ? '' : String.fromCharCode(b))).join('');

const CODE_PAGES: Readonly<Record<string, string>> = {
  ansi_1250: 'windows-1250',
  ansi_1251: 'windows-1251',
  ansi_1252: 'windows-1252',
  ansi_1253: 'windows-1253',
  ansi_1254: 'windows-1254',
  ansi_932: 'shift_jis',
  ansi_936: 'gbk',
  ansi_949: 'euc-kr',
  ansi_950: 'big5',
  'utf-8': 'utf-8',
};

function textOf(bytes: Uint8Array, head: string, decode: Decode): string {
  if (startsWith(bytes, 0xff, 0xfe)) return decode(bytes, 'utf-16le');
  if (startsWith(bytes, 0xfe, 0xff)) return decode(bytes, 'utf-16be');
  if (bytes[1] === 0 && bytes[0] !== 0) return decode(bytes, 'utf-16le');
  if (bytes[0] === 0 && bytes[1] !== 0) return decode(bytes, 'utf-16be');
  const said =
    /<\?xml[^>]*encoding\s*=\s*["']([\w-]+)["']/i.exec(head)?.[1] ??
    CODE_PAGES[/\$DWGCODEPAGE\s+3\s+(\S+)/i.exec(head)?.[1].toLowerCase() ?? ''];
  try {
    return decode(bytes, 'utf-8');
  } catch {
    return decode(bytes, said && said.toLowerCase() !== 'utf-8' ? said : 'windows-1252');
  }
}

/**
 * Reads a drawing.
 *
 * @param decode throws where the bytes are not of that encoding
 * @throws NotReadable with what is wrong, where, and what to do
 */
export function readDrawing(bytes: Uint8Array, unpack: Unpack, decode: Decode): Drawing {
  if (bytes.length === 0) throw new NotReadable('It is empty.');
  if (bytes.length > READ_LIMITS.bytes)
    throw new NotReadable(`It is larger than ${READ_LIMITS.bytes / 1e6} MB: bring in a part of it.`);
  let plain = bytes;
  if (startsWith(bytes, 0x1f, 0x8b)) {
    const unpacked = unpack(bytes, READ_LIMITS.bytes);
    if (!unpacked)
      throw new NotReadable(
        `Unpacked it is larger than ${READ_LIMITS.bytes / 1e6} MB, or it is broken: it is refused.`,
      );
    plain = unpacked;
  }
  const head = headOf(plain);
  if (isPdf(plain)) throw new NotReadable('It is a PDF, which no cutter takes: save it as SVG or DXF.');
  if (startsWith(plain, 0x89, 0x50) || startsWith(plain, 0xff, 0xd8))
    throw new NotReadable('It is a picture: trace it as a piece, or bring it in as a backdrop.');
  let text: string;
  try {
    text = textOf(plain, head, decode);
  } catch {
    throw new NotReadable('Its letters cannot be read: save it as UTF-8.');
  }
  try {
    if (
      /<(?:[\w-]+:)?svg[\s>/]/i.test(head) ||
      /^\s*(?:\uFEFF)?<\?xml/i.test(head) ||
      /^\s*<!DOCTYPE\s+svg/i.test(head)
    )
      return readSvg(text);
    if (/^\s*\d+\s*[\r\n]/.test(head.replace(/^\u00EF\u00BB\u00BF/, '')) || /^\w+ Binary DXF/.test(head))
      return readDxf(text);
    if (/^\s*\{/.test(head.replace(/^\u00EF\u00BB\u00BF/, ''))) return readFold(text.replace(/^\uFEFF/, ''));
    if (/<[\w!]/.test(head)) return readSvg(text);
  } catch (fault) {
    if (fault instanceof RangeError && /call stack/i.test(fault.message))
      throw new NotReadable('Its parts refer to each other too deep: it is refused.');
    throw fault;
  }
  throw new NotReadable('It is no drawing that can be read: SVG, DXF, PDF and FOLD can.');
}
