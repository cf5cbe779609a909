/**
 * Insert. A folded sheet a little smaller than the card, glued into it by its outer edges: its fold lies in the card's, and
 * mechanisms are built on it, or cut into it, before it goes in.
 *
 * With the fold in the gutter the two creases are one line: the insert opens and closes with the card exactly, whatever
 * its size. It is glued by bands along its far edges, so that what is cut into it between them comes up free.
 */
import type { Gutter } from '../design/frames.ts';
import { workOf } from '../dieline/part.ts';
import { IDENTITY, shift } from '../geometry/isometry.ts';
import { straight } from '../geometry/path.ts';
import { USUAL_TAB_MM } from '../stock/stock.ts';
import { HOST_PART, type Constraint, type Family, type Params } from './family.ts';
import { handlesOf } from './handles.ts';
import { Making } from './making.ts';
import { rectangle, round } from './pieces.ts';
import { length, measures } from './specs.ts';

const SIZES = measures({
  edgeMm: length('Inside the edges by', 'Smaller than the card all round by so much.', 3, 0, 100),
  bandMm: length('Glued by', 'Width of the band of glue along each far edge.', 10, 2, 200),
});

/** The measures of an insert in mm: how far it reaches on either side of the fold, and how high it is. */
export function insertMeasures(params: Params, gutter: Gutter) {
  const { edgeMm: edge, bandMm: band } = SIZES.read(params);
  const depth = Math.min(gutter.left.depthMm, gutter.right.depthMm) - edge;
  return { edge, band, depth, tall: gutter.lengthMm - 2 * edge };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = insertMeasures(params, gutter);
  return [
    { overMm: 10 - Math.min(m.depth, m.tall), reason: 'Hardly anything would be left of the insert.' },
    {
      overMm: marginMm - m.edge,
      reason: `It would reach into the ${round(marginMm)} mm that stay free at the open edges.`,
    },
    { overMm: USUAL_TAB_MM - m.band, reason: `It would be glued by less than ${USUAL_TAB_MM} mm.` },
    { overMm: m.band - m.depth + 2, reason: 'The bands of glue would reach across its fold.' },
  ];
}

export const insert: Family = {
  id: 'insert',
  on: 'fold',
  title: 'Insert',
  purpose: 'A folded sheet glued into the card by its edges: build on it, or cut into it, before it goes in.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const { gutter } = context;
    const m = insertMeasures(params, gutter);
    const made = new Making(context);
    const part = made.part('insert', rectangle(-m.depth, 0, 2 * m.depth, m.tall), {
      title: 'insert',
      grainRad: Math.PI / 2,
      lines: [{ id: 'fold', ...workOf('valley'), path: straight([0, 0], [0, m.tall]) }],
      glue: {
        'glue-left': rectangle(-m.depth + 0.3, 0.3, m.band, m.tall - 0.6),
        'glue-right': rectangle(m.depth - 0.3 - m.band, 0.3, m.band, m.tall - 0.6),
      },
      panels: [
        ['left', 'left half', [-m.depth + 0.5, 0.6]],
        ['right', 'right half', [m.depth - 0.5, 0.6]],
      ],
    });
    for (const side of ['left', 'right'] as const)
      made.glue(part, shift(0, m.edge), { zone: `glue-${side}`, side });
    const own = { partId: part.id, frame: IDENTITY, depthMm: m.depth };
    return made.done({
      flat: [part.id],
      gutters: [
        {
          kind: 'fold',
          partId: part.id,
          lineId: 'fold',
          name: `${context.name}: its fold`,
          lengthMm: m.tall,
          left: own,
          right: own,
          reachMm: m.depth,
          lowMm: 0,
          highMm: m.tall,
        },
      ],
    });
  },
  handles(params, context) {
    const m = insertMeasures(params, context.gutter);
    const handle = handlesOf(context, params);
    return [handle(HOST_PART, 'edge', 'size', [m.depth, m.edge + m.tall / 2], { edgeMm: [-1, 0] })];
  },
  advice(params, gutter) {
    const m = insertMeasures(params, gutter);
    return [
      `Cut it ${round(2 * m.depth)} mm wide and ${round(m.tall)} mm high, and score it in the middle.`,
      'Glue its far edges only, the fold pushed well into the card’s.',
    ];
  },
};
