/**
 * A cut file as a cutter reads it: strokes in the order of the file, with the tool by the name of their layer. What it cannot be
 * sure of it refuses: a file that is cut short, that does not say how large it is, or of a version that it does not know.
 */
import type { Stroke, Tool } from '../cutting/cutter.ts';
import { mapPath } from '../geometry/affine.ts';
import { boxOfPaths, type Path } from '../geometry/path.ts';
import { NotReadable, type DrawnLine } from './bringIn/drawing.ts';
import { readDrawing, type Decode, type Unpack } from './bringIn/readDrawing.ts';

export interface CutFile {
  readonly strokes: readonly Stroke[];
  /** The sheet that the file was made for; that of its lines where it does not say. */
  readonly widthMm: number;
  readonly heightMm: number;
  /** What was left out, or taken for something, in sentences. */
  readonly notes: readonly string[];
}

/** What a layer is made with, by its name. */
const TOOL_OF: readonly (readonly [RegExp, Tool])[] = [
  [/kiss/i, 'kiss'],
  [/perfo|tear|dash/i, 'perforate'],
  [/score|mountain|valley|fold|crease/i, 'score'],
  [/mark|regist|guide|text/i, 'mark'],
  [/cut|outline|contour/i, 'cut'],
];

/** Strokes in one file beyond which it is refused. */
const MOST_STROKES = 20_000;
const SVG_VERSIONS = /^(1(\.[012])?|2(\.0)?)$/;
/** Versions of DXF from R12 to the newest known. */
const DXF_VERSIONS = /^AC10(09|12|14|15|18|21|24|27|32)$/;

/**
 * Reads a cut file.
 *
 * @param bytes SVG or DXF; packed or not
 * @throws NotReadable with what is wrong and what to do
 */
export function readCutFile(bytes: Uint8Array, unpack: Unpack, decode: Decode): CutFile {
  const head = Array.from(bytes.subarray(0, 6000), (b) => String.fromCharCode(b)).join('');
  const svg = /<svg\b[^>]*>/i.exec(head)?.[0];
  const version = svg && /\sversion\s*=\s*["']([^"']*)["']/i.exec(svg)?.[1];
  if (version && !SVG_VERSIONS.test(version.trim()))
    throw new NotReadable(
      `It is SVG of version ${version.slice(0, 20)}, which is not known: save it as SVG 1.1.`,
    );
  const acad = !svg && /\$ACADVER\s+1\s+(\S+)/i.exec(head)?.[1];
  if (acad && !DXF_VERSIONS.test(acad.toUpperCase()))
    throw new NotReadable(
      `It is DXF of version ${acad.slice(0, 20)}, which is not known: save it as DXF R12 or 2000.`,
    );
  const drawing = readDrawing(bytes, unpack, decode);
  if (drawing.notes.some((note) => note.startsWith('It has no end mark')))
    throw new NotReadable('It is cut short: it has no end mark. Save it anew.');
  if (!drawing.sure)
    throw new NotReadable(
      'It does not say how large it is: a cutter would have to guess. Save it with its size in mm or inches.',
    );
  if (drawing.lines.length > MOST_STROKES)
    throw new NotReadable(
      `It has ${drawing.lines.length} strokes, more than ${MOST_STROKES}: cut it in several files.`,
    );
  const mm = drawing.sizes[0].mmPerUnit;
  const size = svg && sizeOf(svg);
  // An SVG counts from the top of its page.
  const up = size ? size[1] : 0;
  const scaled = (path: Path) => mapPath({ a: mm, b: 0, c: 0, d: mm, e: 0, f: up }, path);
  const unknown = new Set<string>();
  const toolOf = ({ layer, dash }: DrawnLine): Tool => {
    const known = TOOL_OF.find(([pattern]) => pattern.test(layer));
    if (known) return known[1];
    unknown.add(layer || 'no layer');
    return dash.length > 0 ? 'score' : 'cut';
  };
  const drawn = drawing.lines.filter(({ filled }) => !filled);
  const strokes = drawn.map((line): Stroke => ({
    path: scaled(line.path),
    tool: toolOf(line),
    ...(line.pass === undefined ? {} : { pass: line.pass }),
  }));
  if (strokes.length === 0) throw new NotReadable('There is nothing in it to cut.');
  const box = boxOfPaths(strokes.map(({ path }) => path));
  return {
    strokes,
    widthMm: size ? size[0] : box.maxX,
    heightMm: size ? size[1] : box.maxY,
    notes: [
      ...drawing.notes,
      ...[...unknown].map(
        (name) => `“${name}” is no layer that is known: solid lines are cut, dashed ones scored.`,
      ),
      ...(drawn.length < drawing.lines.length ? ['What is only filled is not cut.'] : []),
    ],
  };
}

const UNITS: Readonly<Record<string, number>> = { mm: 1, cm: 10, in: 25.4, pt: 25.4 / 72, px: 25.4 / 96 };

/** Width and height that an SVG says of itself, mm. */
function sizeOf(root: string): readonly [number, number] | undefined {
  const of = (name: string): number => {
    const said = new RegExp(`\\s${name}\\s*=\\s*["']\\s*([\\d.]+)\\s*([a-z]*)\\s*["']`, 'i').exec(root);
    return said ? Number(said[1]) * (UNITS[said[2].toLowerCase() || 'px'] ?? NaN) : NaN;
  };
  const size = [of('width'), of('height')] as const;
  return size.every(Number.isFinite) ? size : undefined;
}
