/** What mechanisms may stand on: folds and panels of the card, of drafted parts and of other mechanisms. */
import type { Design } from '../design/design.ts';
import { CARD_ID, cardFrame, cardMeasures, panelGutter, type Gutter } from '../design/frames.ts';
import { panelPlan } from '../dieline/panels.ts';
import type { Part } from '../dieline/part.ts';
import { compose, IDENTITY, inverse, place, turn, type Isometry } from '../geometry/isometry.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import { subtract } from '../geometry/point.ts';
import type { Contribution } from './family.ts';

/** The box of a part's panel with the given mark, in the mark's frame. */
function panelBox(part: Part, panelId: string, frame: Isometry): Box | undefined {
  const panel = panelPlan(part).panels.find((p) => p.id === panelId);
  const back = inverse(frame);
  return panel && boxOf(panel.region.outer.map((p) => place(back, p)));
}

/** Panels of a mechanism's parts that planar mechanisms may stand on. */
export function panelsOf({ parts, panelFrames }: Contribution): Gutter[] {
  return parts.flatMap((part) =>
    Object.entries(panelFrames[part.id] ?? {}).flatMap(([panelId, frame]) => {
      const box = panelBox(part, panelId, frame);
      const name = part.marks.find((mark) => mark.id === panelId)?.name ?? panelId;
      return box ? [panelGutter(part.id, panelId, `${part.name}: ${name}`, frame, box)] : [];
    }),
  );
}

/** What a drafted part offers to stand on: its folds, and its panels. */
export const draftedHosts = (part: Part): Gutter[] => [
  ...foldsOf(part, () => true),
  ...panelPlan(part).panels.map((panel) =>
    panelGutter(part.id, panel.id, `${part.name}: ${panel.name}`, IDENTITY, boxOf(panel.region.outer)),
  ),
];

/**
 * The folds of a part as something to stand on, each from the side on which it closes: a valley from the front, a mountain
 * from behind.
 *
 * @param bears whether a panel can bear anything: a fold between two that can is offered
 */
function foldsOf(part: Part, bears: (panelId: string) => boolean): Gutter[] {
  const { panels, hinges } = panelPlan(part);
  return hinges.flatMap((hinge, i): Gutter[] => {
    const sides = [panels[hinge.left], panels[hinge.right]];
    if (!sides.every((panel) => bears(panel.id))) return [];
    const d = subtract(hinge.to, hinge.from);
    const lengthMm = Math.hypot(...d);
    // Mechanism coordinates: the fold along +y, its left side at x < 0; from behind, left and right change places.
    const behind = hinge.layer === 'mountain';
    const along = Math.atan2(d[1], d[0]) - Math.PI / 2;
    const frame: Isometry = behind
      ? { angleRad: along + Math.PI, flip: true, dx: hinge.from[0], dy: hinge.from[1] }
      : turn(along, ...hinge.from);
    const back = inverse(frame);
    const [left, right] = (behind ? [...sides].reverse() : sides).map((panel) => ({
      partId: part.id,
      frame,
      depthMm: Math.max(...panel.region.outer.map((p) => Math.abs(place(back, p)[0]))),
    }));
    return [
      {
        kind: 'fold',
        partId: part.id,
        lineId: hinge.id,
        name: `${part.name}: ${behind ? 'inside ' : ''}fold ${i + 1}`,
        lengthMm,
        left,
        right,
        reachMm: Math.min(left.depthMm, right.depthMm),
        lowMm: 0,
        highMm: lengthMm,
      },
    ];
  });
}

/**
 * Folds of a mechanism's parts that the family itself does not offer: between any two panels that are no tabs. Rulings stand
 * for a bend, not for folds.
 */
export const otherFolds = ({ parts, gutters }: Contribution): Gutter[] =>
  parts
    .flatMap((part) => foldsOf(part, (panelId) => !panelId.startsWith('tab-')))
    .filter((fold) => !fold.lineId.startsWith('ruling-'))
    .filter((fold) => !gutters.some((g) => g.partId === fold.partId && g.lineId === fold.lineId));

/** Mirrors in the card's fold: a place on one half to the place that it lies on when the card is closed. */
const OTHER_HALF: Isometry = { angleRad: Math.PI, flip: true, dx: 0, dy: 0 };

/** The two halves of the card as panels, or the doors and the back of a gatefold. */
export function cardPanels({ brief }: Design): Gutter[] {
  const frame = cardFrame(brief);
  const { depthMm, gutterLengthMm } = cardMeasures(brief);
  const panel = (id: string, name: string, minX: number, maxX: number) =>
    panelGutter(CARD_ID, id, name, frame, { minX, maxX, minY: 0, maxY: gutterLengthMm });
  if (brief.opening === 'gate')
    return [
      panel('left', 'the left door', -depthMm, -depthMm / 2),
      panel('right', 'the card’s back', -depthMm / 2, depthMm / 2),
      panel('door', 'the right door', depthMm / 2, depthMm),
    ];
  return (['left', 'right'] as const).map((side) => {
    const said = brief.opening === 'side' ? side : side === 'left' ? 'upper' : 'lower';
    const [minX, maxX] = side === 'left' ? [-depthMm, 0] : [0, depthMm];
    const half = panel(side, `the card’s ${said} half`, minX, maxX);
    const inCard = compose(inverse(frame), half.left.frame);
    return {
      ...half,
      facing: {
        ...half.left,
        frame: compose(frame, compose(OTHER_HALF, inCard)),
        openAt: side === 'left' ? -1 : 1,
      },
    };
  });
}
