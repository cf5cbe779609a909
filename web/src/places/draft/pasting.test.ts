import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { workOf } from '@hollow-finch/core/dieline/part';
import { readSvg } from '@hollow-finch/core/formats/bringIn/svg';
import { circle, pathLength, straight } from '@hollow-finch/core/geometry/path';
import { roundedRectangle } from '@hollow-finch/core/drafting/shapes';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { expect, it } from 'vitest';
import { insideBox } from './boxChoice.ts';
import { boardLayout } from './layout.ts';
import { isDrawing, svgOf } from './pasting.ts';

const design = {
  ...newDesign('Clip'),
  parts: {
    p: {
      id: 'p',
      name: 'Part',
      stockId: 'slate-240',
      grainRad: null,
      quantity: 1,
      glueZones: {},
      marks: {},
      lines: {
        a: { id: 'a', ...workOf('cut'), path: roundedRectangle([0, 0], 60, 40, 5) },
        b: { id: 'b', ...workOf('valley'), path: straight([20, 0], [20, 40]) },
        c: { id: 'c', ...workOf('cut'), path: circle([40, 20], 6) },
      },
    },
  },
  board: { p: { x: 300, y: 0 } },
} as unknown as Design;

it('a chosen part, or chosen lines of it, are a drawing in millimetres on the clipboard', () => {
  const whole = readSvg(svgOf(design, { kind: 'part', id: 'p' })!);
  expect(whole.sure).toBe(true);
  expect(whole.lines).toHaveLength(3);
  const some = readSvg(
    svgOf(design, {
      kind: 'several',
      of: [
        { kind: 'line', partId: 'p', id: 'c' },
        { kind: 'line', partId: 'p', id: 'b' },
      ],
    })!,
  );
  expect(some.lines.reduce((sum, { path }) => sum + pathLength(path), 0)).toBeCloseTo(40 + 12 * Math.PI, 2);
  expect(svgOf(design, { kind: 'instance', id: 'm' })).toBeUndefined();
  expect(isDrawing('<svg xmlns="x"></svg>')).toBe(true);
  expect(isDrawing('hello')).toBe(false);
});

it('a box chooses the lines inside it of the part that is chosen, else whole parts', () => {
  const layout = boardLayout(expand(design), design.board);
  const box = { minX: 310, minY: 10, maxX: 350, maxY: 30 };
  expect(insideBox(design, layout, 'p', box)).toEqual({ kind: 'line', partId: 'p', id: 'c' });
  expect(insideBox(design, layout, undefined, box)).toBeNull();
  const round = { minX: 290, minY: -10, maxX: 370, maxY: 60 };
  expect(insideBox(design, layout, 'p', round)).toEqual({ kind: 'part', id: 'p' });
});
