import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { cardGutter } from '@hollow-finch/core/design/frames';
import { shift, turn } from '@hollow-finch/core/geometry/isometry';
import { readCutFile } from '@hollow-finch/core/formats/cutFile';
import { newInstance } from '@hollow-finch/core/mechanisms/instance';
import { step } from '@hollow-finch/core/mechanisms/step';
import { strFromU8, unzipSync } from 'fflate';
import { expect, it } from 'vitest';
import { alikeSheets, sheetArchive, sheetFiles } from './allSheets.ts';

const card = newDesign('Kit of five', { closedWidthMm: 100, closedHeightMm: 80 });
const sheet = (copy: number, at = shift(120, 20), stockId = 'slate-240') => ({
  stockId,
  widthMm: 300,
  heightMm: 300,
  pieces: [
    { partId: 'card', copy, placement: at },
    { partId: 'm1/strip', copy, placement: shift(40, 180) },
  ],
});
const design: Design = {
  ...card,
  instances: { m1: newInstance(step, cardGutter(card), 'm1') },
  sheetPlan: {
    fingerprint: 'x',
    seed: 1,
    sheets: [
      sheet(1),
      sheet(2),
      sheet(3, turn(0.1, 120, 40)),
      sheet(4),
      sheet(5, shift(120, 20), 'chalk-300'),
    ],
  } as Design['sheetPlan'],
};

it('sheets that are alike are one file, those of another stock or with another turn are not', () => {
  expect(alikeSheets(design).map(({ numbers }) => numbers)).toEqual([[1, 2, 4], [3], [5]]);
});

it('the archive holds every different sheet once, readable as a cut file, and says how often each is cut', () => {
  const files = sheetFiles(design, 7, 'by-colour', 'none');
  const archive = unzipSync(sheetArchive(design, 7, files));
  expect(Object.keys(archive)).toHaveLength(4);
  const list = strFromU8(archive['cut-list.txt']);
  expect(list).toMatch(/Kit of five, revision 7/);
  expect(list).toMatch(/sheet-1-.*cut-3-times\.svg: cut 3 times/);
  for (const { name, svg } of files) {
    expect(strFromU8(archive[name])).toBe(svg);
    const decode = (bytes: Uint8Array) => strFromU8(bytes);
    expect(readCutFile(archive[name], () => undefined, decode).strokes.length).toBeGreaterThan(5);
  }
  // Each sheet is cut as often as there are sheets.
  expect(files.reduce((sum, { times }) => sum + times, 0)).toBe(5);
});
