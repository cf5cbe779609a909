/** PDF drawings: what we print is read back in its place, what a library draws, and 1,500 mangled files. */
import { PDFDocument, PDFName, PDFString, rgb, StandardFonts } from 'pdf-lib';
import { unzlibSync } from 'fflate';
import { describe, expect, it } from 'vitest';
import type { CutPath } from '../../cutting/order.ts';
import {
  boxOfPaths,
  circle,
  pathLength,
  placePath,
  polyline,
  straight,
  type Path,
} from '../../geometry/path.ts';
import { shift, turn } from '../../geometry/isometry.ts';
import { seededRandom } from '../../geometry/random.ts';
import { writePdf } from '../pdfWrite.ts';
import { NotReadable, type Drawing } from './drawing.ts';
import { pdfCommands } from './pdfContent.ts';
import { readPdf } from './readPdf.ts';

const PT = 72 / 25.4;
const unpack = (bytes: Uint8Array, most: number): Uint8Array | undefined => {
  try {
    const out = unzlibSync(bytes);
    return out.length > most ? undefined : out;
  } catch {
    return undefined;
  }
};
const read = (bytes: Uint8Array): Promise<Drawing> => readPdf(bytes, unpack);
const bytesOf = (text: string): Uint8Array => Uint8Array.from(text, (c) => c.charCodeAt(0));

/** A document of one page with raw commands on it. */
async function page(
  commands: string,
  change: (pdf: PDFDocument) => void = () => undefined,
): Promise<Uint8Array> {
  const pdf = await PDFDocument.create();
  const own = pdf.addPage([300, 200]);
  own.node.set(PDFName.of('Contents'), pdf.context.register(pdf.context.flateStream(commands)));
  change(pdf);
  return pdf.save();
}
const box = ({ lines }: Drawing) => boxOfPaths(lines.map(({ path }) => path));

describe('a page', () => {
  it('that was printed in true size is read in its place, to a thousandth of a millimetre', async () => {
    const cut = (path: Path, i: number): CutPath => ({
      stage: 'outer',
      layer: 'cut',
      partId: 'p',
      copy: 1,
      lineId: `l${i}`,
      path,
    });
    const paths = [
      polyline(
        [
          [0, 0],
          [120, 0],
          [90, 70],
          [0, 60],
        ],
        true,
      ),
      placePath(turn(0.3, 40, 30), circle([0, 0], 12)),
      straight([10, 10], [100, 50]),
    ].map((path) => placePath(shift(5, 5), path));
    const pdf = await writePdf(paths.map(cut), { title: 'Printed', paper: 'a4', unit: 'mm' });
    const drawing = await read(pdf);
    expect(drawing.sure).toBe(true);
    const [{ mmPerUnit }] = drawing.sizes;
    expect(mmPerUnit).toBeCloseTo(1 / PT, 12);
    const lengths = drawing.lines.map(({ path }) => pathLength(path) * mmPerUnit);
    for (const path of paths) {
      const long = pathLength(path);
      expect(Math.min(...lengths.map((mm) => Math.abs(mm - long)))).toBeLessThan(0.01);
    }
    // The bar that tells whether the printer has scaled is among them.
    expect(Math.min(...lengths.map((mm) => Math.abs(mm - 100)))).toBeLessThan(1e-3);
    expect(drawing.notes.join(' ')).toMatch(/Words are left out/);
  });

  it('drawn by a library keeps colours, dashes and curves', async () => {
    const pdf = await PDFDocument.create();
    const own = pdf.addPage([400, 300]);
    own.drawLine({ start: { x: 10, y: 20 }, end: { x: 210, y: 20 }, color: rgb(1, 0, 0), dashArray: [6, 3] });
    own.drawRectangle({ x: 30, y: 40, width: 100, height: 50, borderColor: rgb(0, 0, 1), borderWidth: 1 });
    own.drawEllipse({ x: 200, y: 150, xScale: 40, yScale: 40, borderColor: rgb(0, 0.5, 0), borderWidth: 1 });
    own.drawText('Not a line', { x: 10, y: 280, font: await pdf.embedFont(StandardFonts.Helvetica) });
    pdf.addPage([100, 100]).drawLine({ start: { x: 0, y: 0 }, end: { x: 50, y: 50 } });
    const { lines, notes } = await read(await pdf.save());
    const of = (colour: string) => lines.filter((line) => line.colour === colour && !line.filled);
    expect(of('#ff0000')).toHaveLength(1);
    expect(of('#ff0000')[0].dash).toEqual([6, 3]);
    expect(boxOfPaths(of('#0000ff').map(({ path }) => path))).toEqual({
      minX: 30,
      maxX: 130,
      minY: 40,
      maxY: 90,
    });
    expect(pathLength(of('#008000')[0].path)).toBeCloseTo(80 * Math.PI, 0);
    expect(notes.join(' ')).toMatch(/Of its 2 pages the first was taken/);
  });

  it('is moved by its matrices, which are put back; forms are drawn where they are placed', async () => {
    const drawing = await read(
      await page('q 2 0 0 2 10 20 cm 0 0 m 10 0 l S Q 0 0 m 0 7 l S /Fm0 Do', (pdf) => {
        const form = pdf.context.register(
          pdf.context.flateStream('0 0 m 5 5 l S', {
            Type: 'XObject',
            Subtype: 'Form',
            Matrix: [1, 0, 0, 1, 100, 100],
          }),
        );
        pdf.getPages()[0].node.set(PDFName.of('Resources'), pdf.context.obj({ XObject: { Fm0: form } }));
      }),
    );
    expect(drawing.lines.map(({ path }) => [path.start, path.segments.at(-1)!.to])).toEqual([
      [
        [10, 20],
        [30, 20],
      ],
      [
        [0, 0],
        [0, 7],
      ],
      [
        [100, 100],
        [105, 105],
      ],
    ]);
  });

  it('has layers by their names; those that are switched off are hidden', async () => {
    const { lines, hidden } = await read(
      await page('/OC /A BDC 0 0 m 10 0 l S EMC /OC /B BDC 0 5 m 10 5 l S EMC 0 9 m 9 9 l S', (pdf) => {
        const [a, b] = ['Scores', 'Notes'].map((name) =>
          pdf.context.register(pdf.context.obj({ Type: 'OCG', Name: PDFString.of(name) })),
        );
        pdf.getPages()[0].node.set(PDFName.of('Resources'), pdf.context.obj({ Properties: { A: a, B: b } }));
        pdf.catalog.set(PDFName.of('OCProperties'), pdf.context.obj({ OCGs: [a, b], D: { OFF: [b] } }));
      }),
    );
    expect(lines.map(({ layer }) => layer)).toEqual(['Scores', '']);
    expect(hidden.map(({ layer }) => layer)).toEqual(['Notes']);
  });

  it('closes, clips and fills as it says; pictures within it are passed over', async () => {
    const { lines, notes } = await read(
      await page(
        '% a remark ( not text\n10 10 20 30 re W n 0 0 1 RG 0 0 m 10 0 l 10 10 l s 1 0 0 rg 0 0 5 5 re f (S \\) m) Tj BI /W 1 ID S S 0 0 m EI 0.2 0.4 0.6 0 K 3 3 m 4 4 l S',
      ),
    );
    expect(lines.map(({ colour, filled }) => [colour, filled])).toEqual([
      ['#0000ff', false],
      ['#ff0000', true],
      ['#cc9966', false],
    ]);
    expect(lines[0].path.segments.at(-1)!.to).toEqual(lines[0].path.start);
    expect(notes.join(' ')).toMatch(/Pictures/);
  });

  it('in larger units is as large as it says', async () => {
    const drawing = await read(
      await page('0 0 m 72 0 l S', (pdf) =>
        pdf.getPages()[0].node.set(PDFName.of('UserUnit'), pdf.context.obj(2)),
      ),
    );
    const { minX, maxX } = box(drawing);
    expect((maxX - minX) * drawing.sizes[0].mmPerUnit).toBeCloseTo(50.8, 9);
  });
});

describe('what cannot be read', () => {
  it('is refused in words', async () => {
    await expect(read(await page('BT (only words) Tj ET'))).rejects.toThrow(/no lines on its first page/);
    await expect(read(bytesOf('%PDF-1.7\nnothing'))).rejects.toThrow(NotReadable);
    const loop = page('/Fm0 Do', (pdf) => {
      const ref = pdf.context.nextRef();
      pdf.context.assign(
        ref,
        pdf.context.flateStream('/Fm0 Do', { Subtype: 'Form', Resources: { XObject: { Fm0: ref } } }),
      );
      pdf.getPages()[0].node.set(PDFName.of('Resources'), pdf.context.obj({ XObject: { Fm0: ref } }));
    });
    await expect(read(await loop)).rejects.toThrow(/too deep/);
  });

  it('mangled in 1,500 ways ends at once: read, or refused in words', async () => {
    const random = seededRandom(31);
    const whole = await page(
      'q 1 0 0 1 5 5 cm 0 0 m 10 0 l 10 20 30 40 50 60 c h S Q 1 0 0 RG [3 2] 0 d 0 0 9 9 re S',
    );
    for (let k = 0; k < 1500; k++) {
      const bytes = whole.slice(0, random() < 0.2 ? Math.floor(random() * whole.length) : whole.length);
      for (let n = Math.floor(random() * 15); n > 0 && bytes.length > 8; n--)
        bytes[5 + Math.floor(random() * (bytes.length - 5))] = Math.floor(random() * 256);
      try {
        expect((await read(bytes)).lines.length).toBeGreaterThanOrEqual(0);
      } catch (fault) {
        expect(fault).toBeInstanceOf(NotReadable);
      }
    }
    // Commands of any letters end, too.
    for (let k = 0; k < 300; k++) {
      const text = Array.from(
        { length: 80 },
        () => '()<>[]{}/% \n0123.-mlchSqQ'[Math.floor(random() * 26)],
      ).join('');
      expect([...pdfCommands(bytesOf(text))].length).toBeLessThan(100);
    }
  });
});
