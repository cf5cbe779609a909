/** Drawings with measures: read back by an XML parser; every length said is that of what it stands at. */
import { SaxesParser } from 'saxes';
import { describe, expect, it } from 'vitest';
import { newDesign, type Dimension } from '../design/design.ts';
import { boxOfPaths } from '../geometry/path.ts';
import { seededRandom } from '../geometry/random.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { drafted, sheetOf } from '../practice/drafts.ts';
import { formatLength } from '../units/length.ts';
import { writeDrawing } from './drawingWrite.ts';

/** The texts of a drawing, its page, and the boxes of what is drawn, by a parser. */
function read(svg: string) {
  const texts: string[] = [];
  const points: [number, number][] = [];
  let [page, inText]: [Record<string, string>, boolean] = [{}, false];
  const parser = new SaxesParser();
  parser.on('opentag', ({ name, attributes }) => {
    const a = attributes as Record<string, string>;
    if (name === 'svg') page = a;
    if (name === 'path')
      for (const [, x, y] of a.d.matchAll(/[ML ](-?[\d.]+) (-?[\d.]+)/g)) points.push([Number(x), Number(y)]);
    if (name === 'text') points.push([Number(a.x), Number(a.y)]);
    inText = name === 'text';
  });
  parser.on('text', (text) => {
    if (inText) texts.push(text);
    inText = false;
  });
  parser.on('error', (error) => {
    throw error;
  });
  parser.write(svg).close();
  return { texts, points, width: Number.parseFloat(page.width), height: Number.parseFloat(page.height) };
}

describe('a drawing with measures', () => {
  it.each(FAMILIES.map((family) => [family.id, family] as const))(
    'of %s has all on its page, sizes and all',
    (_, family) => {
      const base = newDesign('Drawn & measured <1>');
      const host = usualHost(family, expand(base).gutters);
      const { parts } = expand({ ...base, instances: { m: newInstance(family, host, 'm') } });
      for (const unit of ['mm', 'in'] as const) {
        const { texts, points, width, height } = read(writeDrawing(parts, [], { title: base.name, unit }));
        expect(texts[0]).toBe('Drawn & measured <1>');
        for (const part of parts.filter(({ lines }) => lines.length > 0)) {
          const box = boxOfPaths(part.lines.map(({ path }) => path));
          expect(texts).toContain(formatLength(box.maxX - box.minX, unit));
          expect(texts).toContain(formatLength(box.maxY - box.minY, unit));
        }
        for (const [x, y] of points) {
          expect(x).toBeGreaterThanOrEqual(0);
          expect(x).toBeLessThanOrEqual(width);
          expect(y).toBeGreaterThanOrEqual(0);
          expect(y).toBeLessThanOrEqual(height);
        }
      }
    },
  );

  it('has the measures that are kept, and leaves out those whose line is gone', () => {
    const random = seededRandom(3);
    const [w, h] = [40 + 50 * random(), 30 + 40 * random()];
    const { parts } = expand(drafted([sheetOf('Sign', w, h)]));
    const sign = parts.find(({ id }) => id === 'Sign')!;
    const [line] = sign.lines;
    const base = { partId: 'Sign', along: 'straight', offsetMm: 6 } as const;
    const dimensions: Dimension[] = [
      { ...base, id: 'd1', from: { lineId: line.id, corner: 0 }, to: { lineId: line.id, corner: 2 } },
      { ...base, id: 'd2', from: { at: [0, 0] }, to: { at: [12.5, 0] } },
      { ...base, id: 'd3', from: { lineId: 'gone', corner: 0 }, to: { at: [77, 0] } },
    ];
    const { texts } = read(writeDrawing([sign], dimensions, { title: 'Sign', unit: 'mm' }));
    expect(texts).toContain(formatLength(Math.hypot(w, h), 'mm'));
    expect(texts).toContain('12.5 mm');
    expect(texts.filter((text) => /mm$/.test(text))).toHaveLength(4);
  });

  it('says that there is nothing to draw', () => {
    expect(() => writeDrawing([], [], { title: 'Nothing', unit: 'mm' })).toThrow(/nothing to draw/);
  });
});
