/**
 * Drawings from PDF: the lines of the first page, its forms among them, with their colours, dashes and layers. Words and pictures
 * are left out, and said to be.
 */
import {
  decodePDFRawStream,
  PDFArray,
  PDFDict,
  PDFDocument,
  PDFHexString,
  PDFName,
  PDFNumber,
  PDFRawStream,
  PDFRef,
  PDFString,
  type PDFContext,
  type PDFObject,
} from 'pdf-lib';
import { after, UNMOVED, type Affine } from '../../geometry/affine.ts';
import type { Path } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';
import {
  Counted,
  isPlain,
  isPlainMap,
  Notes,
  NotReadable,
  READ_LIMITS,
  type Drawing,
  type DrawnLine,
} from './drawing.ts';
import { pdfCommands, type Operand } from './pdfContent.ts';
import { Pen } from './pen.ts';
import type { Unpack } from './readDrawing.ts';

/** A point of a PDF, mm. */
const POINT_MM = 25.4 / 72;
/** Streams in other forms than the usual one are unpacked only up to this size, bytes. */
const MOST_ODD_BYTES = 500_000;
const MOST_FORMS_DEEP = 12;

interface State {
  readonly map: Affine;
  readonly stroke: string;
  readonly fill: string;
  readonly dash: readonly number[];
  readonly widthPt: number;
}

const START: State = { map: UNMOVED, stroke: '#000000', fill: '#000000', dash: [], widthPt: 1 };

const hex = (share: number): string =>
  Math.round(255 * Math.min(1, Math.max(0, share)))
    .toString(16)
    .padStart(2, '0');

/** A colour by its shares: one of grey, three of light, four of ink; undefined where it is none of these. */
function colourOf(shares: readonly number[]): string | undefined {
  if (shares.length === 1) return `#${hex(shares[0]).repeat(3)}`;
  if (shares.length === 3) return `#${shares.map(hex).join('')}`;
  if (shares.length !== 4) return undefined;
  const [c, m, y, k] = shares;
  return `#${[c, m, y].map((ink) => hex((1 - ink) * (1 - k))).join('')}`;
}

const numbersOf = (operands: readonly Operand[]): number[] =>
  operands.flatMap((each) => (each.kind === 'number' ? [each.value] : []));

/** Reads the page of one document. */
class Page {
  readonly lines: DrawnLine[] = [];
  readonly hidden: DrawnLine[] = [];
  readonly notes = new Notes();
  private readonly segments = new Counted(READ_LIMITS.segments, 'lines');
  private readonly commands = new Counted(READ_LIMITS.elements * 10, 'commands');

  constructor(
    private readonly context: PDFContext,
    private readonly off: ReadonlySet<string>,
    private readonly unpack: Unpack,
  ) {}

  private dict(object: PDFObject | undefined): PDFDict | undefined {
    const found = object instanceof PDFRef ? this.context.lookup(object) : object;
    return found instanceof PDFDict ? found : found instanceof PDFRawStream ? found.dict : undefined;
  }

  /** The bytes of a stream, unpacked up to a limit. */
  bytesOf(stream: PDFRawStream): Uint8Array {
    const filter = stream.dict.lookup(PDFName.of('Filter'));
    const names = (filter instanceof PDFArray ? filter.asArray() : filter ? [filter] : []).map(String);
    const parms = stream.dict.has(PDFName.of('DecodeParms'));
    if (names.length === 0) return stream.contents;
    if (names.length === 1 && names[0] === '/FlateDecode' && !parms) {
      const unpacked = this.unpack(stream.contents, READ_LIMITS.bytes);
      if (!unpacked) throw new NotReadable('A page of it cannot be unpacked, or is too large: save it anew.');
      return unpacked;
    }
    if (stream.contents.length > MOST_ODD_BYTES)
      throw new NotReadable('It is packed in an uncommon way: save it anew, or as SVG or DXF.');
    return decodePDFRawStream(stream).decode();
  }

  /** The name of a layer that marked contents belong to, and whether it is switched off. */
  private layerOf(resources: PDFDict | undefined, operands: readonly Operand[]) {
    const [tag, key] = operands;
    if (tag?.kind !== 'name' || tag.value !== 'OC' || key?.kind !== 'name') return undefined;
    const properties = this.dict(resources?.get(PDFName.of('Properties')));
    const ref = properties?.get(PDFName.of(key.value));
    const name = this.dict(ref)?.lookup(PDFName.of('Name'));
    const text = name instanceof PDFString || name instanceof PDFHexString ? name.decodeText() : '';
    return { name: text.slice(0, 80), off: ref !== undefined && this.off.has(String(ref)) };
  }

  /** Draws what a stream says. */
  run(
    bytes: Uint8Array,
    resources: PDFDict | undefined,
    first: State,
    within: string,
    isOff: boolean,
    depth: number,
  ): void {
    let state = first;
    const saved: State[] = [];
    const marked: ({ readonly name: string; readonly off: boolean } | undefined)[] = [];
    const layerNow = (): string => within || (marked.find((each) => each?.name)?.name ?? '');
    const offNow = (): boolean => isOff || marked.some((each) => each?.off);
    const penNow = () => new Pen(state.map, this.segments, this.notes);
    let pen = penNow();
    // What is drawn before the map changes stays where it was drawn, until it is painted.
    let before: Path[] = [];
    const remap = () => {
      pen.end();
      before.push(...pen.paths);
      pen = penNow();
    };
    const paint = (stroked: boolean, filled: boolean) => {
      pen.end();
      const layer = layerNow();
      const size = Math.sqrt(Math.abs(state.map.a * state.map.d - state.map.b * state.map.c));
      const hides = offNow();
      if (stroked || filled)
        for (const path of [...before, ...pen.paths])
          (hides ? this.hidden : this.lines).push({
            path,
            layer,
            colour: stroked ? state.stroke : state.fill,
            dash: stroked ? state.dash.map((long) => long * size) : [],
            filled: !stroked,
          });
      before = [];
      pen = penNow();
    };
    for (const { name, operands } of pdfCommands(bytes)) {
      this.commands.add();
      const n = numbersOf(operands);
      const p = (i: number): Point => [n[i], n[i + 1]];
      const has = (count: number): boolean => n.length >= count && isPlain(...n);
      switch (name) {
        case 'q':
          if (saved.length < READ_LIMITS.depth) saved.push(state);
          break;
        case 'Q':
          state = saved.pop() ?? state;
          remap();
          break;
        case 'cm': {
          if (!has(6)) break;
          const map = after(state.map, { a: n[0], b: n[1], c: n[2], d: n[3], e: n[4], f: n[5] });
          if (isPlainMap(map)) state = { ...state, map };
          remap();
          break;
        }
        case 'w':
          if (has(1)) state = { ...state, widthPt: n[0] };
          break;
        case 'd': {
          const [list] = operands;
          const dash = list?.kind === 'list' ? numbersOf(list.items) : [];
          const some = dash.every((long) => long >= 0) && dash.some((long) => long > 0);
          state = { ...state, dash: some ? (dash.length % 2 === 1 ? [...dash, ...dash] : dash) : [] };
          break;
        }
        case 'G':
        case 'RG':
        case 'K':
        case 'SC':
        case 'SCN':
          state = { ...state, stroke: colourOf(n) ?? state.stroke };
          break;
        case 'g':
        case 'rg':
        case 'k':
        case 'sc':
        case 'scn':
          state = { ...state, fill: colourOf(n) ?? state.fill };
          break;
        case 'm':
          if (has(2)) pen.move(p(0));
          break;
        case 'l':
          if (has(2)) pen.line(p(0));
          break;
        case 'c':
          if (has(6)) pen.cubic(p(0), p(2), p(4));
          break;
        case 'v':
          if (has(4)) pen.cubic(pen.at, p(0), p(2));
          break;
        case 'y':
          if (has(4)) pen.cubic(p(0), p(2), p(2));
          break;
        case 'h':
          pen.close();
          break;
        case 're': {
          if (!has(4)) break;
          const [x, y, w, h] = n;
          pen.move([x, y]);
          for (const corner of [
            [x + w, y],
            [x + w, y + h],
            [x, y + h],
          ] as Point[])
            pen.line(corner);
          pen.close();
          break;
        }
        case 's':
        case 'b':
        case 'b*':
          pen.close();
          paint(true, name !== 's');
          break;
        case 'S':
          paint(true, false);
          break;
        case 'B':
        case 'B*':
          paint(true, true);
          break;
        case 'f':
        case 'F':
        case 'f*':
          paint(false, true);
          break;
        case 'n':
          paint(false, false);
          break;
        case 'BDC':
          marked.push(this.layerOf(resources, operands));
          break;
        case 'BMC':
          marked.push(undefined);
          break;
        case 'EMC':
          marked.pop();
          break;
        case 'BT':
          this.notes.add('Words are left out: turn them into outlines before it is saved');
          break;
        case 'EI':
        case 'sh':
          this.notes.add('Pictures and shadings are left out');
          break;
        case 'Do': {
          const [key] = operands;
          if (key?.kind !== 'name') break;
          this.form(resources, key.value, state, layerNow(), offNow(), depth);
          break;
        }
      }
    }
    pen.end();
  }

  /** Draws a form that a page, or another form, refers to. */
  private form(
    resources: PDFDict | undefined,
    key: string,
    state: State,
    layer: string,
    isOff: boolean,
    depth: number,
  ): void {
    const forms = this.dict(resources?.get(PDFName.of('XObject')));
    const stream = forms?.lookup(PDFName.of(key));
    if (!(stream instanceof PDFRawStream)) return;
    if (String(stream.dict.get(PDFName.of('Subtype'))) !== '/Form') {
      this.notes.add('Pictures and shadings are left out');
      return;
    }
    if (depth >= MOST_FORMS_DEEP)
      throw new NotReadable('Its parts refer to each other too deep: it is refused.');
    const matrix = stream.dict.lookup(PDFName.of('Matrix'));
    const m =
      matrix instanceof PDFArray
        ? matrix.asArray().map((each) => (each instanceof PDFNumber ? each.asNumber() : NaN))
        : [];
    const own =
      m.length === 6 && isPlain(...m) ? { a: m[0], b: m[1], c: m[2], d: m[3], e: m[4], f: m[5] } : UNMOVED;
    const map = after(state.map, own);
    if (!isPlainMap(map)) return;
    const inner = this.dict(stream.dict.get(PDFName.of('Resources'))) ?? resources;
    this.run(this.bytesOf(stream), inner, { ...state, map }, layer, isOff, depth + 1);
  }
}

/** Layers that are switched off when the document is opened, by their references. */
function switchedOff(pdf: PDFDocument): ReadonlySet<string> {
  const layers = pdf.catalog.lookup(PDFName.of('OCProperties'));
  const usual = layers instanceof PDFDict ? layers.lookup(PDFName.of('D')) : undefined;
  const off = usual instanceof PDFDict ? usual.lookup(PDFName.of('OFF')) : undefined;
  return new Set(off instanceof PDFArray ? off.asArray().map(String) : []);
}

/**
 * Reads the lines of the first page of a PDF, in points, y upwards.
 *
 * @throws NotReadable with what is wrong and what to do
 */
export async function readPdf(bytes: Uint8Array, unpack: Unpack): Promise<Drawing> {
  if (bytes.length > READ_LIMITS.bytes)
    throw new NotReadable(`It is larger than ${READ_LIMITS.bytes / 1e6} MB: bring in a part of it.`);
  try {
    const pdf = await PDFDocument.load(bytes, { updateMetadata: false, throwOnInvalidObject: true });
    const pages = pdf.getPages();
    if (pages.length === 0) throw new NotReadable('It has no pages.');
    const [{ node }] = pages;
    const page = new Page(pdf.context, switchedOff(pdf), unpack);
    const contents = node.Contents();
    const streams =
      contents instanceof PDFArray ? contents.asArray().map((ref) => pdf.context.lookup(ref)) : [contents];
    const pieces = streams.flatMap((stream) =>
      stream instanceof PDFRawStream ? [page.bytesOf(stream)] : [],
    );
    // Together they are one text; a line end keeps what ends one from what begins the next.
    const whole = new Uint8Array(pieces.reduce((sum, piece) => sum + piece.length + 1, 0));
    if (whole.length > READ_LIMITS.bytes)
      throw new NotReadable(
        `Unpacked it is larger than ${READ_LIMITS.bytes / 1e6} MB: bring in a part of it.`,
      );
    let at = 0;
    for (const piece of pieces) {
      whole.set(piece, at);
      whole[at + piece.length] = 10;
      at += piece.length + 1;
    }
    page.run(whole, node.Resources(), START, '', false, 0);
    if (pages.length > 1) page.notes.add(`Of its ${pages.length} pages the first was taken`);
    const unit = node.lookup(PDFName.of('UserUnit'));
    const perPoint = unit instanceof PDFNumber && unit.asNumber() > 0 ? unit.asNumber() : 1;
    if (page.lines.length === 0 && page.hidden.length === 0)
      throw new NotReadable('There are no lines on its first page: words and pictures are not taken.');
    return {
      lines: page.lines,
      hidden: page.hidden,
      sizes: [{ label: 'As the file says', mmPerUnit: POINT_MM * perPoint }],
      sure: true,
      notes: page.notes.list(),
    };
  } catch (fault) {
    if (fault instanceof NotReadable) throw fault;
    const why = fault instanceof Error ? fault.message.replace(/\s+/g, ' ').slice(0, 100) : '';
    if (/encrypt/i.test(why)) throw new NotReadable('It is locked by a password: save it without one.');
    throw new NotReadable('It is a broken PDF: save it anew, or as SVG or DXF.');
  }
}
