/**
 * Words as outlines, from open font files: true curves with kerning, on one line or several, in millimetres. Letters that
 * overlap (a script face) are one outline.
 */
// The library ships no types: these are seen by every program that compiles this file.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./opentype-js.d.ts" />
import { parse, type Font, type Glyph, type PathCommand } from 'opentype.js';
import { compose, shift, turn, type Isometry } from '../geometry/isometry.ts';
import { boxOf, flatten, placePath, polyline, type Box, type Path, type Segment } from '../geometry/path.ts';
import { between, type Point } from '../geometry/point.ts';
import { allRings, areaOfRegions, insideRing, ringArea, type Region } from '../geometry/polygon.ts';
import { union } from '../geometry/regions.ts';

export type { Font } from 'opentype.js';

/** A font file may be this large. */
const LARGEST_BYTES = 20_000_000;
/** Words longer than this are no words. */
export const LONGEST_TEXT = 200;
/** Outlines that are put together are flattened so closely, mm. */
const FLAT_MM = 0.005;

/**
 * A font from the bytes of a file (TrueType, OpenType, or those compressed as WOFF).
 *
 * @throws RangeError with a sentence that says what is wrong with the file
 */
export function readFont(bytes: ArrayBuffer): Font {
  if (bytes.byteLength > LARGEST_BYTES)
    throw new RangeError(
      `The font file is ${(bytes.byteLength / 1e6).toFixed(0)} MB; up to 20 MB can be read.`,
    );
  try {
    const font = parse(bytes);
    if (!(font.unitsPerEm > 0)) throw new RangeError('it has no scale');
    return font;
  } catch (fault) {
    const why = fault instanceof Error ? fault.message : String(fault);
    throw new RangeError(
      `This is no font that can be read (${why}). Choose a file that ends in .ttf, .otf or .woff.`,
    );
  }
}

/** How words are set. */
export interface Setting {
  /** The height of a line's letters, ascender to descender, mm. */
  readonly sizeMm: number;
  readonly align?: 'left' | 'centre' | 'right';
  /** From one line's foot to the next one's, in sizes. */
  readonly lineGap?: number;
  /** Added between letters, mm. */
  readonly spacingMm?: number;
  /** Set on the outside of a circle of this radius, mm, or on its inside when it is negative; on a straight line unless said. */
  readonly arcMm?: number;
}

/** Words as outlines. */
export interface WordOutline {
  /** What is paper: outlines with their holes. */
  readonly regions: readonly Region[];
  /** The same as closed paths, outer ones left-turning: true curves where no two letters overlap. */
  readonly paths: readonly Path[];
  readonly box: Box;
  /** Characters that no face has; the rest is there without them. */
  readonly missing: readonly string[];
}

/** A closed contour of a glyph; the curve of a quadratic is the cubic with its handles two thirds towards the middle one. */
function contoursOf(commands: readonly PathCommand[]): Path[] {
  const paths: Path[] = [];
  let start: Point = [0, 0];
  let at: Point = start;
  let segments: Segment[] = [];
  const close = () => {
    if (segments.length === 0) return;
    if (Math.hypot(at[0] - start[0], at[1] - start[1]) > 1e-9) segments.push({ kind: 'line', to: start });
    paths.push({ start, segments });
    segments = [];
  };
  for (const command of commands) {
    if (command.type === 'Z') {
      close();
      at = start;
      continue;
    }
    // Font files count upwards from the foot of the letters; drawings of them count downwards.
    const to: Point = [command.x, -command.y];
    if (command.type === 'M') {
      close();
      start = to;
    } else if (command.type === 'L') {
      if (Math.hypot(to[0] - at[0], to[1] - at[1]) > 1e-9) segments.push({ kind: 'line', to });
    } else if (command.type === 'Q') {
      const middle: Point = [command.x1, -command.y1];
      segments.push({ kind: 'cubic', c1: between(at, middle, 2 / 3), c2: between(to, middle, 2 / 3), to });
    } else if (command.type === 'C')
      segments.push({
        kind: 'cubic',
        c1: [command.x1, -command.y1],
        c2: [command.x2, -command.y2],
        to,
      });
    at = to;
  }
  close();
  return paths;
}

/** A stretch of a line that one face sets. */
interface Run {
  readonly font: Font;
  readonly text: string;
}

/** A line in stretches by the first face that has each character; those that none has are told. */
function runsOf(line: string, fonts: readonly Font[], missing: Set<string>): Run[] {
  const runs: { font: Font; text: string }[] = [];
  for (const character of line) {
    const font =
      fonts.find((each) => each.charToGlyphIndex(character) > 0) ??
      (/\s/u.test(character) ? (runs[runs.length - 1]?.font ?? fonts[0]) : undefined);
    if (!font) {
      missing.add(character);
      continue;
    }
    const last = runs[runs.length - 1];
    if (last?.font === font) last.text += character;
    else runs.push({ font, text: character });
  }
  return runs;
}

/** The glyphs of a text; where a face asks for what cannot be done with it (rare joins), each character by itself. */
function glyphsOf(font: Font, text: string): Glyph[] {
  try {
    return font.stringToGlyphs(text);
  } catch {
    return [...text].map((character) => font.charToGlyph(character));
  }
}

/** How much nearer two glyphs stand, in the font's units: from its pair positions where it has them, else from its kerning table. */
function kerningOf(font: Font): (left: Glyph, right: Glyph) => number {
  try {
    const tables = font.position.getKerningTables(font.position.getDefaultScriptName());
    if (tables)
      return (left, right) => {
        try {
          return font.position.getKerningValue(tables, left.index, right.index);
        } catch {
          return 0;
        }
      };
  } catch {
    // A face whose pair positions cannot be read is set without them.
  }
  return (left, right) => font.getKerningValue(left, right);
}

/** The contours of one line from x = 0 on its foot, and how far it runs. */
function lineOf(
  runs: readonly Run[],
  sizeMm: number,
  spacingMm: number,
): { glyphs: Path[][]; width: number } {
  const glyphs: Path[][] = [];
  let x = 0;
  for (const { font, text } of runs) {
    const em = sizeMm / ((font.ascender - font.descender) / font.unitsPerEm || 1);
    const unit = em / font.unitsPerEm;
    const set = glyphsOf(font, text);
    const kern = kerningOf(font);
    set.forEach((glyph, i) => {
      const contours = contoursOf(glyph.getPath(x, 0, em).commands);
      if (contours.length > 0) glyphs.push(contours);
      x += (glyph.advanceWidth ?? 0) * unit + spacingMm;
      const next = set[i + 1];
      if (next) x += kern(glyph, next) * unit;
    });
  }
  return { glyphs, width: Math.max(0, x - spacingMm) };
}

/** Where a letter of a line stands on a circle: its middle as far round as it was along, upright to the circle. */
function onArc(
  contours: readonly Path[],
  dx: number,
  dy: number,
  middleMm: number,
  radiusMm: number,
): Isometry {
  const { minX, maxX } = boxOf(contours.flatMap((path) => flatten(path)));
  const x = (minX + maxX) / 2;
  const angle = (x + dx - middleMm) / radiusMm;
  // Lines above or below the first stand on larger or smaller circles about the same centre.
  const r = radiusMm + dy;
  const foot: Point = [middleMm + r * Math.sin(angle), -radiusMm + r * Math.cos(angle)];
  return compose(turn(-angle, ...foot), shift(-x, 0));
}

/** A ring of a path, closed by itself. */
const ringOf = (path: Path): Point[] => [...flatten(path, FLAT_MM)].slice(0, -1);

/** What of contours is paper: an outline less those that lie inside it and turn the other way. */
function regionsOf(contours: readonly Path[]): Region[] {
  const rings = contours.map(ringOf).filter((ring) => ring.length > 2);
  // Outer contours turn the way of the largest one.
  const largest = rings.reduce(
    (a, b) => (Math.abs(ringArea(b)) > Math.abs(ringArea(a)) ? b : a),
    rings[0] ?? [],
  );
  const way = Math.sign(ringArea(largest)) || 1;
  const holes = rings.filter((ring) => ringArea(ring) * way < 0);
  return rings
    .filter((ring) => ringArea(ring) * way > 0)
    .map((outer) => ({
      outer: way > 0 ? outer : [...outer].reverse(),
      holes: holes
        .filter(([p]) => insideRing(p, outer))
        .map((hole) => (way > 0 ? hole : [...hole].reverse())),
    }));
}

/** Letters as one: true curves where they lie apart, else the outline of all of them together. */
function together(glyphs: readonly (readonly Path[])[]): { regions: Region[]; paths: Path[] } {
  const each = glyphs.map(regionsOf);
  const all = each.flat();
  if (all.length === 0) return { regions: [], paths: [] };
  const whole = union(all);
  const apart = Math.abs(areaOfRegions(all) - areaOfRegions(whole)) < 1e-6 * areaOfRegions(whole);
  return {
    regions: whole,
    paths: apart ? glyphs.flat() : allRings(whole).map((ring) => polyline(ring, true)),
  };
}

/**
 * Words as outlines.
 *
 * @param fonts faces in the order in which they are asked for each character
 * @throws RangeError for a text that is too long, or a size that is none
 */
export function wordOutline(
  fonts: readonly Font[],
  text: string,
  { sizeMm, align = 'centre', lineGap = 1, spacingMm = 0, arcMm }: Setting,
): WordOutline {
  if (fonts.length === 0) throw new RangeError('Choose a face to write with.');
  if (text.length > LONGEST_TEXT)
    throw new RangeError(`The text has ${text.length} characters; up to ${LONGEST_TEXT} can be set.`);
  if (!(sizeMm > 0.5 && sizeMm <= 2000)) throw new RangeError('Letters can be 0.5 to 2000 mm high.');
  const missing = new Set<string>();
  const lines = text
    .split(/\r?\n/)
    .map((line) => lineOf(runsOf(line.normalize('NFC'), fonts, missing), sizeMm, spacingMm));
  const wide = Math.max(...lines.map(({ width }) => width));
  const share = { left: 0, centre: 0.5, right: 1 }[align];
  const glyphs = lines.flatMap(({ glyphs: own, width }, i) => {
    const [dx, dy] = [(wide - width) * share, -i * lineGap * sizeMm];
    return own.map((contours) => {
      const at = arcMm ? onArc(contours, dx, dy, wide / 2, arcMm) : shift(dx, dy);
      return contours.map((path) => placePath(at, path));
    });
  });
  const { regions, paths } = together(glyphs);
  return { regions, paths, box: boxOf(regions.flatMap(({ outer }) => outer)), missing: [...missing] };
}
