/** Our own files read back as a cutter reads them, cut short anywhere, and those of which a cutter cannot be sure. */
import { describe, expect, it } from 'vitest';
import { cutOrder } from '../cutting/order.ts';
import { playCutter, usualCutter } from '../cutting/cutter.ts';
import { PROFILES } from '../cutting/profile.ts';
import { newDesign, type Design } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { nearestOn } from '../geometry/curve.ts';
import { IDENTITY, shift, turn } from '../geometry/isometry.ts';
import { circle, flatten, pathLength } from '../geometry/path.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { vfold } from '../mechanisms/vfold.ts';
import { readCutFile } from './cutFile.ts';
import { writeDxfR12 } from './dxfR12Write.ts';
import { writeDxf } from './dxfWrite.ts';
import { writeSvg } from './svgWrite.ts';

const card = newDesign('Cut', { closedWidthMm: 100, closedHeightMm: 80 });
const design: Design = { ...card, instances: { m1: newInstance(vfold, cardGutter(card), 'm1') } };
const pieces = expand(design).parts.map((part, i) => ({
  part,
  copy: 1,
  placement: i === 0 ? shift(110, 20) : turn(0.2, 60, 150 + 40 * i),
}));
const svg = writeSvg(pieces, { title: 'Cut & try', widthMm: 305, heightMm: 300, profile: PROFILES[0] });
const dxf = writeDxf(pieces, false);
const r12 = writeDxfR12(pieces, false);
// Plain letters only.
const bytes = (text: string) => Uint8Array.from(text, (c) => c.charCodeAt(0));
const read = (text: string) =>
  readCutFile(
    bytes(text),
    () => undefined,
    (data) => Array.from(data, (code) => String.fromCharCode(code)).join(''),
  );

describe.each([
  ['SVG', svg],
  ['DXF', dxf],
  ['DXF R12', r12],
])('a cut file as %s', (_, text) => {
  const wanted = cutOrder(pieces);

  it('is read back stroke by stroke, in its order, with the tools of its layers, where it lies on the sheet', () => {
    const { strokes, notes } = read(text);
    expect(notes).toEqual([]);
    const long = (list: readonly { readonly path: Parameters<typeof pathLength>[0] }[]) =>
      list.reduce((sum, { path }) => sum + pathLength(path), 0);
    for (const [tool, layers] of [
      ['cut', ['cut']],
      ['score', ['mountain', 'valley', 'score']],
      ['perforate', ['perforation']],
    ] as const)
      expect(long(strokes.filter((stroke) => stroke.tool === tool))).toBeCloseTo(
        long(wanted.filter(({ layer }) => (layers as readonly string[]).includes(layer))),
        2,
      );
    expect(strokes[0].path.start[0]).toBeCloseTo(wanted[0].path.start[0], 3);
    expect(strokes[0].path.start[1]).toBeCloseTo(wanted[0].path.start[1], 3);
    const { faults, loosened } = playCutter(strokes, usualCutter('blade', [305, 305]));
    expect(faults).toEqual([]);
    // Every piece comes loose, the holes before it.
    expect(loosened.length).toBeGreaterThanOrEqual(pieces.length);
  });

  it('cut short anywhere is refused, or is whole', () => {
    const whole = read(text).strokes.length;
    for (let i = 1; i < 80; i++) {
      const short = text.slice(0, Math.floor((text.length * i) / 80));
      let strokes: number | string;
      try {
        strokes = read(short).strokes.length;
      } catch (fault) {
        strokes = (fault as Error).message;
      }
      if (typeof strokes === 'number') expect(strokes, String(i)).toBe(whole);
      else expect(strokes).toMatch(/\.$/);
    }
  });
});

describe('what a cutter cannot be sure of is refused', () => {
  const one = '<path id="cut" d="M0 0L10 0"/>';
  it.each([
    ['no size', `<svg xmlns="http://www.w3.org/2000/svg">${one}</svg>`, /does not say how large/],
    ['another version', `<svg version="7" xmlns="http://www.w3.org/2000/svg">${one}</svg>`, /version 7/],
    ['nothing', '', /empty/],
    [
      'no line',
      '<svg xmlns="http://www.w3.org/2000/svg" width="10mm" height="10mm" viewBox="0 0 10 10"/>',
      /nothing in it/,
    ],
    ['an old DXF', '0\nSECTION\n2\nHEADER\n9\n$ACADVER\n1\nAC1004\n0\nENDSEC\n0\nEOF\n', /version AC1004/],
  ])('%s', (_, text, words) => {
    expect(() => read(text)).toThrow(words);
  });

  it('and layers that it does not know are told', () => {
    const { strokes, notes } = read(
      `<svg xmlns="http://www.w3.org/2000/svg" width="50mm" height="50mm" viewBox="0 0 50 50"><g id="Ebene 3" fill="none" stroke="#000"><path d="M0 0L10 0"/><path stroke-dasharray="2 1" d="M0 5L10 5"/></g></svg>`,
    );
    expect(strokes.map(({ tool }) => tool)).toEqual(['cut', 'score']);
    expect(strokes[0].path.start).toEqual([0, 50]);
    expect(notes.join(' ')).toMatch(/“Ebene 3” is no layer that is known/);
  });
});

describe('DXF R12', () => {
  it('is pairs of a code and a value, with layer names as it wants them, arcs as bulges, and curves as near chords', () => {
    const lines = r12.trimEnd().split('\n');
    expect(lines.length % 2).toBe(0);
    for (let i = 0; i < lines.length; i += 2) expect(lines[i]).toMatch(/^ *\d{1,3}$/);
    expect(lines.slice(-1)).toEqual(['EOF']);
    for (let i = 0; i < lines.length; i += 2)
      if (lines[i].trim() === '8') expect(lines[i + 1]).toMatch(/^[A-Z0-9_$-]{1,31}$/);
    const round = {
      ...pieces[0].part,
      lines: [
        { id: 'o', process: 'cut', path: circle([30, 20], 12) },
        {
          id: 'c',
          process: 'cut',
          path: {
            start: [25, 20],
            segments: [{ kind: 'cubic', c1: [25, 26], c2: [35, 14], to: [35, 20] }],
          },
        },
      ],
    } as const;
    const text = writeDxfR12([{ part: round, copy: 1, placement: IDENTITY }]);
    const { strokes } = read(text);
    const arcs = strokes.find(({ path }) => path.segments.some(({ kind }) => kind === 'arc'))!;
    expect(pathLength(arcs.path)).toBeCloseTo(2 * Math.PI * 12, 4);
    const curve = strokes.find((stroke) => stroke !== arcs)!;
    for (const p of flatten(curve.path)) expect(nearestOn(round.lines[1].path, p).mm).toBeLessThan(1e-4);
    for (const p of flatten(round.lines[1].path)) expect(nearestOn(curve.path, p).mm).toBeLessThan(0.0101);
  });
});
