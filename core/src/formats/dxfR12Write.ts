/**
 * Cut files as DXF R12, for old programs and cutters: lines and arcs as polylines with bulges; curves, which R12 does not know, as
 * chords within a hundredth of a millimetre. Names of layers are as R12 wants them: capitals, digits and strokes.
 */
import type { Making } from '../cutting/making.ts';
import { cutOrder, type CutPiece, type MadeOn } from '../cutting/order.ts';
import { isClosedPath, legsOf } from '../geometry/curve.ts';
import { boxOf, boxOfPaths, flatten, type Path } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { LAYER_OF, LINE_TYPES } from './dxfLayers.ts';

/** A name as R12 takes it. */
const nameOf = (name: string): string => name.toUpperCase().replaceAll(' ', '_');

const TYPES = { CONTINUOUS: ['Solid line', []], ...LINE_TYPES } as const;

/** Curves are chords within so much, mm. */
const CHORD_MM = 0.01;

type Pair = readonly [code: number, value: string | number];

const numberOf = (value: number): string => {
  const text = value.toFixed(6).replace(/0+$/, '').replace(/\.$/, '.0');
  return text === '-0.0' ? '0.0' : text;
};

/** Corners of a path, each with the bulge of the edge that begins there. */
function cornersOf(path: Path): { readonly at: Point; readonly bulge: number }[] {
  const corners = legsOf(path).flatMap(({ from, segment }) =>
    segment.kind === 'cubic'
      ? flatten({ start: from, segments: [segment] }, CHORD_MM)
          .slice(0, -1)
          .map((at) => ({ at, bulge: 0 }))
      : [{ at: from, bulge: segment.kind === 'arc' ? segment.bulge : 0 }],
  );
  const last = path.segments[path.segments.length - 1];
  return isClosedPath(path) ? corners : [...corners, { at: last.to, bulge: 0 }];
}

const entity = (path: Path, layer: string): Pair[] => [
  [0, 'POLYLINE'],
  [8, layer],
  [66, 1],
  [10, 0],
  [20, 0],
  [30, 0],
  [70, isClosedPath(path) ? 1 : 0],
  ...cornersOf(path).flatMap(({ at: [x, y], bulge }): Pair[] => [
    [0, 'VERTEX'],
    [8, layer],
    [10, x],
    [20, y],
    [30, 0],
    ...(bulge === 0 ? [] : ([[42, bulge]] as const)),
  ]),
  [0, 'SEQEND'],
  [8, layer],
];

const table = (name: string, entries: readonly (readonly Pair[])[]): Pair[] => [
  [0, 'TABLE'],
  [2, name],
  [70, entries.length],
  ...entries.flat(),
  [0, 'ENDTAB'],
];

/** Codes whose values are lengths, angles or shares. */
const isReal = (code: number): boolean => (code >= 10 && code < 60) || (code >= 140 && code < 148);

/**
 * The DXF R12 cut file of pieces placed on a sheet.
 *
 * @param withMarks whether marks are in it, on their own layer
 * @param making how lines are made, and on which sheet
 */
export function writeDxfR12(
  pieces: readonly CutPiece[],
  withMarks = false,
  making: Making = {},
  on?: MadeOn,
): string {
  const cuts = cutOrder(pieces, withMarks, making, on);
  const layers = new Set(cuts.map(({ stage }) => LAYER_OF[stage]));
  const { minX, minY, maxX, maxY } =
    cuts.length > 0 ? boxOfPaths(cuts.map(({ path }) => path)) : boxOf([[0, 0]]);
  const pairs: Pair[] = [
    [0, 'SECTION'],
    [2, 'HEADER'],
    [9, '$ACADVER'],
    [1, 'AC1009'],
    // Metric, and millimetres for readers that ask.
    [9, '$MEASUREMENT'],
    [70, 1],
    [9, '$INSUNITS'],
    [70, 4],
    [9, '$EXTMIN'],
    [10, minX],
    [20, minY],
    [30, 0],
    [9, '$EXTMAX'],
    [10, maxX],
    [20, maxY],
    [30, 0],
    [0, 'ENDSEC'],
    [0, 'SECTION'],
    [2, 'TABLES'],
    ...table(
      'LTYPE',
      Object.entries(TYPES).map(([name, [words, lengths]]): Pair[] => [
        [0, 'LTYPE'],
        [2, name],
        [70, 0],
        [3, words],
        [72, 65],
        [73, lengths.length],
        [40, lengths.reduce<number>((sum, mm) => sum + Math.abs(mm), 0)],
        ...lengths.map((mm): Pair => [49, mm]),
      ]),
    ),
    ...table(
      'LAYER',
      [...layers].map(({ name, colour, type }): Pair[] => [
        [0, 'LAYER'],
        [2, nameOf(name)],
        [70, 0],
        [62, colour],
        [6, type],
      ]),
    ),
    [0, 'ENDSEC'],
    [0, 'SECTION'],
    [2, 'ENTITIES'],
    ...cuts.flatMap(({ stage, path }) => entity(path, nameOf(LAYER_OF[stage].name))),
    [0, 'ENDSEC'],
    [0, 'EOF'],
  ];
  return `${pairs
    .map(([code, value]) => `${String(code).padStart(3)}\n${isReal(code) ? numberOf(Number(value)) : value}`)
    .join('\n')}\n`;
}
