/** The faces that ship, read from their packages. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { readFont, type Font } from '@hollow-finch/core/words/outline';

const { resolve } = createRequire(import.meta.url);

export const font = (face: string, subset = 'latin'): Font => {
  const file = readFileSync(resolve(`@fontsource/${face}/files/${face}-${subset}-400-normal.woff`));
  return readFont(file.buffer.slice(file.byteOffset, file.byteOffset + file.byteLength) as ArrayBuffer);
};

export const FACES = [
  'alegreya',
  'source-sans-3',
  'pacifico',
  'dancing-script',
  'saira-stencil-one',
  'bungee',
  'noto-sans',
];
