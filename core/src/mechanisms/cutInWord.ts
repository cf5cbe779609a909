/**
 * Cut-in word or silhouette. Letters (or one shape) cut from the card itself stand up as it opens: each hangs on its foot
 * fold on the right half and on strips that run from its top over the gutter to a fold on the left half.
 *
 * It is the cut-in step with its front panel cut to the letter's shape. Closed-form limits (step.ts): with the feet on the
 * left a and on the right b from the gutter the letter is a high, its top fold lies at b - a; closed, the top lies a + b from
 * the gutter. Every top that the letter has gets its own strip. Loose middles (of an O) fall out, unless bridges hold them
 * to the letter; letters hold themselves.
 */
import type { Layer } from '../dieline/part.ts';
import { isOneSheet, type Gutter } from '../design/frames.ts';
import { USUAL_WEB_MM } from '../stock/stock.ts';
import { compose, shift, type Isometry } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { allRings, type Region } from '../geometry/polygon.ts';
import { blockLetter, hasLetter } from './blockLetters.ts';
import { choice, HOST_PART, type Constraint, type Contribution, type Family, type Params } from './family.ts';
import { ALONG_FOLD, handlesOf } from './handles.ts';
import { Making } from './making.ts';
import { alongRules, round } from './pieces.ts';
import { ALONG, length, letters, measures, pick, usually, shareOf } from './specs.ts';

/** Shapes that stand on a foot of full width, as outlines in the unit square. */
const SILHOUETTES: Readonly<Record<string, readonly Point[]>> = {
  dome: [
    [0, 0],
    [1, 0],
    [1, 0.45],
    [0.93, 0.68],
    [0.8, 0.86],
    [0.62, 1],
    [0.38, 1],
    [0.2, 0.86],
    [0.07, 0.68],
    [0, 0.45],
  ],
  tower: [
    [0.1, 0],
    [0.9, 0],
    [0.8, 0.7],
    [0.95, 0.7],
    [0.95, 1],
    [0.72, 1],
    [0.72, 0.86],
    [0.6, 0.86],
    [0.6, 1],
    [0.4, 1],
    [0.4, 0.86],
    [0.28, 0.86],
    [0.28, 1],
    [0.05, 1],
    [0.05, 0.7],
    [0.2, 0.7],
  ],
  hill: [
    [0, 0],
    [1, 0],
    [1, 0.3],
    [0.82, 0.62],
    [0.66, 1],
    [0.46, 1],
    [0.3, 0.66],
    [0.16, 0.5],
    [0, 0.2],
  ],
};

interface Glyph {
  readonly regions: readonly Region[];
  readonly fromMm: number;
  readonly widthMm: number;
}

const isWord = (params: Params): boolean => choice(params, 'shape') === 'word';

const SIZES = measures({
  shape: pick('Shape', 'A word, or one silhouette.', {
    word: 'Word',
    dome: 'Dome',
    tower: 'Tower',
    hill: 'Hill',
  }),
  text: letters('Word', 'A to Z and 0 to 9; a space leaves a gap.', 'MOON', 12, isWord),
  heightMm: length(
    'Height',
    'Of the letters; also from the gutter to the fold on the left half.',
    shareOf('depth', 0.22),
    5,
  ),
  footMm: length(
    'Feet',
    'From the gutter to the foot of the letters on the right half.',
    shareOf('depth', 0.34),
  ),
  letterMm: length(
    'Letter width',
    'Of each letter, or of the silhouette.',
    ({ tall }) => Math.max(6, Math.round((tall * 0.7) / 4 - 4)),
    5,
  ),
  gapMm: length('Gap', 'Between letters.', 4, 1, 60, isWord),
  alongMm: usually(ALONG, ({ tall }, { letterMm }) => Math.round((tall - 4 * letterMm - 12) / 2)),
});

/** The measures of a cut-in word in mm, and its letters side by side along the fold. */
export function cutInWordMeasures(params: Params) {
  const sizes = SIZES.read(params);
  const { heightMm: a, footMm: b, alongMm: along, letterMm: letterWidth, gapMm: gap } = sizes;
  const text = isWord(params) ? sizes.text.toUpperCase() : '*';
  const glyphs: Glyph[] = [...text].flatMap((letter, i) => {
    if (letter === ' ') return [];
    const outline = SILHOUETTES[choice(params, 'shape')] ?? SILHOUETTES.dome;
    return [
      {
        // A letter that the alphabet has not takes its room; the constraints tell.
        regions: !isWord(params)
          ? [{ outer: outline, holes: [] }]
          : hasLetter(letter)
            ? blockLetter(letter)
            : [],
        fromMm: along + i * (letterWidth + gap),
        widthMm: letterWidth,
      },
    ];
  });
  return { a, b, along, letterWidth, gap, text, glyphs, span: text.length * (letterWidth + gap) - gap };
}

/** What is wrong with the word, in a sentence; undefined when it can be cut. */
function wrongLetter(params: Params): string | undefined {
  if (!isWord(params)) return undefined;
  const text = choice(params, 'text').toUpperCase();
  const wrong = [...text].find((letter) => letter !== ' ' && !hasLetter(letter));
  if (wrong !== undefined) return `There is no block letter for “${wrong}”: use A to Z and 0 to 9.`;
  return text.trim() === '' ? 'Write at least one letter.' : undefined;
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const wrong = wrongLetter(params);
  if (wrong) return [{ overMm: 1, reason: wrong }];
  const m = cutInWordMeasures(params);
  return [
    {
      overMm: m.a + m.b - (gutter.reachMm - marginMm),
      reason: `Closed, the tops would reach past the open edge (${round(gutter.reachMm)} mm deep, ${marginMm} mm margin).`,
      shownBy: 'overhang',
    },
    {
      overMm: m.a + 2 - m.b,
      reason: 'The tops would lie on the gutter or beyond it: the feet must be further out.',
    },
    { overMm: 2 - m.along, reason: 'It would run into the edge of the card.' },
    ...strokeRules(params, m.letterWidth, m.a, m.gap),
    ...alongRules(gutter, m.along, m.span + 2),
  ];
}

/** Strokes of letters are a fifth of their width and of their height; between letters the card must hold. */
const strokeRules = (params: Params, widthMm: number, heightMm: number, gapMm: number): Constraint[] =>
  isWord(params)
    ? [
        {
          overMm: 5 * USUAL_WEB_MM - Math.min(widthMm, heightMm),
          reason: `The strokes of the letters would be thinner than ${USUAL_WEB_MM} mm.`,
        },
        {
          overMm: USUAL_WEB_MM - gapMm,
          reason: `Less than ${USUAL_WEB_MM} mm would be left between two letters.`,
        },
      ]
    : [];

/** The edges of a glyph as stretches along the fold at a height, merged, and all other edges. */
function edgesOf(glyph: Glyph, xAt: (height: number) => number) {
  const [foot, top]: [number, number][][] = [[], []];
  const cuts: [Point, Point][] = [];
  for (const ring of allRings(glyph.regions))
    ring.forEach((p, i) => {
      const q = ring[(i + 1) % ring.length];
      const level = (h: number) => Math.abs(p[1] - h) < 1e-6 && Math.abs(q[1] - h) < 1e-6;
      const y = (u: number) => glyph.fromMm + u * glyph.widthMm;
      if (level(0) || level(1))
        (level(0) ? foot : top).push([y(Math.min(p[0], q[0])), y(Math.max(p[0], q[0]))]);
      else
        cuts.push([
          [xAt(p[1]), y(p[0])],
          [xAt(q[1]), y(q[0])],
        ]);
    });
  return { foot, top, cuts };
}

export const cutInWord: Family = {
  id: 'cutInWord',
  on: 'fold',
  title: 'Cut-in word',
  purpose: 'Letters or a silhouette cut from the card itself stand up as it opens; nothing is glued.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const { gutter } = context;
    if (!isOneSheet(gutter)) throw new RangeError('A cut-in word needs one sheet that runs across the fold.');
    const wrong = wrongLetter(params);
    if (wrong) throw new RangeError(wrong);
    const m = cutInWordMeasures(params);
    const made = new Making(context);
    const ridge = m.b - m.a;
    const line = (id: string, layer: Layer, p: Point, q: Point) => made.line(id, layer, straight(p, q));
    const gutterGaps: Contribution['gutterGaps'][number][] = [];
    const hostMarks: Contribution['hostMarks'][number][] = [];
    const frames: Record<string, Isometry> = {};
    const mark = (id: string, name: string, at: Point) =>
      hostMarks.push({ side: 'left', mark: { id, name, at } });
    m.glyphs.forEach((glyph, g) => {
      const { foot, top, cuts } = edgesOf(glyph, (h) => m.b - h * m.a);
      foot.forEach(([p, q], i) => line(`foot-${g}-${i}`, 'valley', [m.b, p], [m.b, q]));
      cuts.forEach(([p, q], i) => line(`cut-${g}-${i}`, 'cut', p, q));
      top.forEach(([p, q], i) => {
        line(`top-${g}-${i}`, 'mountain', [ridge, p], [ridge, q]);
        line(`low-${g}-${i}`, 'cut', [-m.a, p], [ridge, p]);
        line(`high-${g}-${i}`, 'cut', [-m.a, q], [ridge, q]);
        line(`back-${g}-${i}`, 'valley', [-m.a, p], [-m.a, q]);
        gutterGaps.push({ fromMm: p, toMm: q });
        mark(made.id(`strip-${g}-${i}`), `strip ${g + 1}`, [(ridge - m.a) / 2, (p + q) / 2]);
      });
      const [p, q] = foot[0];
      const id = made.id(`letter-${g}`);
      mark(id, isWord(params) ? `letter ${g + 1}` : 'silhouette', [m.b - 0.1, (p + q) / 2]);
      frames[id] = compose(gutter.left.frame, shift(ridge, glyph.fromMm));
    });
    return made.done({ hostMarks, gutterGaps, panelFrames: { [gutter.left.partId]: frames } });
  },
  handles(params, context) {
    const m = cutInWordMeasures(params);
    const middle = m.along + m.span / 2;
    const handle = handlesOf(context, params);
    return [
      handle(HOST_PART, 'height', 'height', [-m.a, middle], { heightMm: [-1, 0] }),
      handle(HOST_PART, 'foot', 'feet', [m.b, middle], { footMm: [1, 0] }),
      handle(HOST_PART, 'along', 'place along the fold', [0, m.along], ALONG_FOLD),
    ];
  },
  advice(params, gutter, marginMm) {
    const m = cutInWordMeasures(params);
    return [
      `With feet ${round(m.b)} mm from the gutter the letters may be ${round(Math.min(m.b - 2, gutter.reachMm - marginMm - m.b))} mm high at most.`,
      'The middle of an O or an A falls out; the thinnest stroke is a fifth of the letter’s width.',
    ];
  },
};
