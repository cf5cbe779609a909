/** What mechanisms may stand on: folds and panels of the card, of drafted parts and of other mechanisms. */
import type { Design } from '../design/design.ts';
import {
  CARD_ID,
  cardDoors,
  cardFrame,
  cardGutters,
  cardMeasures,
  panelGutter,
  type Gutter,
} from '../design/frames.ts';
import { panelPlan, type Panel } from '../dieline/panels.ts';
import { isRuling, type Part } from '../dieline/part.ts';
import {
  compose,
  IDENTITY,
  inverse,
  place,
  placing,
  turn,
  TURNED_ABOUT_X,
  TURNED_ABOUT_Y,
  type Isometry,
} from '../geometry/isometry.ts';
import { boxOf, type Box } from '../geometry/path.ts';
import { subtract } from '../geometry/point.ts';
import type { Contribution } from './family.ts';
import { panelName } from './names.ts';

/** The box of a part's panel with the given mark, in the mark's frame. */
function panelBox(part: Part, panelId: string, frame: Isometry): Box | undefined {
  const panel = panelPlan(part).panels.find((p) => p.id === panelId);
  const back = inverse(frame);
  return panel && boxOf(panel.region.outer.map(placing(back)));
}

/** Both faces of a panel as something to stand on. */
const bothFaces = (partId: string, panelId: string, name: string, frame: Isometry, box: Box): Gutter[] => [
  panelGutter(partId, panelId, name, frame, box),
  panelGutter(partId, panelId, `${name}, back`, frame, box, true),
];

/** Panels of a mechanism's parts that planar mechanisms may stand on, on either face. */
export function panelsOf({ parts, panelFrames, flat = [] }: Contribution): Gutter[] {
  return parts.flatMap((part) =>
    Object.entries(panelFrames[part.id] ?? {}).flatMap(([panelId, frame]) => {
      const box = panelBox(part, panelId, frame);
      const name = part.marks.find((mark) => mark.id === panelId)?.name ?? panelId;
      if (!box) return [];
      const faces = bothFaces(part.id, panelId, panelName(part.name, name), frame, box);
      return flat.includes(part.id) ? faces.slice(0, 1) : faces;
    }),
  );
}

/**
 * The box of a panel; of one on which something stands, the box about the place from which that is measured: what is cut off on
 * one side is lost on both, and nothing that stands there moves.
 */
function pinnedBox(part: Part, panel: Panel): Box {
  const box = boxOf(panel.region.outer);
  const origin = part.marks.find((mark) => mark.id === panel.id)?.origin;
  if (!origin) return box;
  const half = Math.max(0, Math.min(origin[0] - box.minX, box.maxX - origin[0]));
  return {
    minX: origin[0] - half,
    maxX: origin[0] + half,
    minY: origin[1],
    maxY: Math.max(origin[1], box.maxY),
  };
}

/** What a drafted part offers to stand on: its folds, and its panels. */
export const draftedHosts = (part: Part): Gutter[] => [
  ...foldsOf(part, () => true),
  ...panelPlan(part).panels.flatMap((panel) =>
    bothFaces(part.id, panel.id, panelName(part.name, panel.name), IDENTITY, pinnedBox(part, panel)),
  ),
];

/**
 * The folds of a part as something to stand on, each from the side on which it closes: a valley from the front, a mountain
 * from behind.
 *
 * @param bears whether a panel can bear anything: a fold between two that can is offered
 */
function foldsOf(part: Part, bears: (panel: Panel) => boolean): Gutter[] {
  const { panels, hinges } = panelPlan(part);
  const stretches = new Map<string, number>();
  return hinges.flatMap((hinge, i): Gutter[] => {
    // A line that is several folds, one after the other: each is a stretch of it.
    const stretch = (stretches.get(hinge.id) ?? 0) + 1;
    stretches.set(hinge.id, stretch);
    const sides = [panels[hinge.left], panels[hinge.right]];
    if (!sides.every(bears)) return [];
    const d = subtract(hinge.to, hinge.from);
    const lengthMm = Math.hypot(...d);
    // Mechanism coordinates: the fold along +y, its left side at x < 0; from behind, left and right change places.
    const behind = hinge.fold.sense === 'mountain';
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
        lineId: stretch === 1 ? hinge.id : `${hinge.id}~${stretch}`,
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
    .flatMap((part) => foldsOf(part, (panel) => panel.role !== 'tab'))
    .filter(
      (fold) =>
        !parts.some(
          ({ id, lines }) =>
            id === fold.partId && lines.some((line) => isRuling(line) && fold.lineId.startsWith(line.id)),
        ),
    )
    .filter((fold) => !gutters.some((g) => g.partId === fold.partId && g.lineId === fold.lineId));

/** Everything of the base itself that can be built on: folds, pairs of doors, panels inside and outside. */
export function baseHosts(design: Design): Gutter[] {
  switch (design.base.kind) {
    case 'card': {
      const doors = cardDoors(design);
      return [...cardGutters(design), ...(doors ? [doors] : []), ...cardPanels(design)];
    }
    case 'sheet':
      return sheetPanels(design);
    case 'structure':
      return [];
  }
}

/** The two faces of a flat sheet. */
const sheetPanels = ({ brief }: Design): Gutter[] => {
  const box = { minX: 0, minY: 0, maxX: brief.closedWidthMm, maxY: brief.closedHeightMm };
  return [
    panelGutter(CARD_ID, 'right', 'the sheet’s front', IDENTITY, box),
    panelGutter(CARD_ID, 'right', 'the sheet’s back', IDENTITY, box, true),
  ];
};

/** What is said of the outside of a leaf: that it is the front, where it is. */
const outsideName = (design: Design, said: string, leaf: string): string =>
  `the outside of ${said}${design.base.kind === 'card' && design.base.front === leaf ? ', the front' : ''}`;

/** The two halves of the card as panels, or the doors and the back of a gatefold; and their outsides. */
function cardPanels(design: Design): Gutter[] {
  const { brief } = design;
  const frame = cardFrame(brief);
  const { depthMm, gutterLengthMm } = cardMeasures(brief);
  const panel = (id: string, name: string, minX: number, maxX: number, behind = false) =>
    panelGutter(CARD_ID, id, name, frame, { minX, maxX, minY: 0, maxY: gutterLengthMm }, behind);
  if (brief.opening === 'gate') {
    const leaves = [
      ['left', 'the left door', -depthMm, -depthMm / 2],
      ['right', 'the card’s back', -depthMm / 2, depthMm / 2],
      ['door', 'the right door', depthMm / 2, depthMm],
    ] as const;
    return [
      ...leaves.map(([id, said, low, high]) => panel(id, said, low, high)),
      // Both doors together are the front of a gatefold.
      ...leaves.map(([id, said, low, high]) => panel(id, `the outside of ${said}`, low, high, true)),
    ];
  }
  const halves = (['left', 'right'] as const).map((side) => {
    const top = brief.opening === 'top';
    const said = top ? (side === 'left' ? 'upper' : 'lower') : side;
    const name = `the card’s ${said} half`;
    const open = side === 'left' ? -1 : 1;
    // Upright for the reader: a top-fold card's halves lie above and below its fold.
    const box: Box = top
      ? { minX: 0, maxX: gutterLengthMm, minY: open < 0 ? 0 : -depthMm, maxY: open < 0 ? depthMm : 0 }
      : { minX: open < 0 ? -depthMm : 0, maxX: open < 0 ? 0 : depthMm, minY: 0, maxY: gutterLengthMm };
    const half = panelGutter(CARD_ID, side, name, IDENTITY, box);
    // Where a place on one half lies on the other when the card is closed.
    const mirror = top ? TURNED_ABOUT_X : TURNED_ABOUT_Y;
    const inside: Gutter = {
      ...half,
      facing: {
        ...half.left,
        frame: compose(mirror, half.left.frame),
        ...(top ? { openAt: 0, openEnd: open < 0 ? 1 : -1 } : { openAt: open }),
      },
    };
    return {
      inside,
      outside: panelGutter(CARD_ID, side, outsideName(design, name, side), IDENTITY, box, true),
    };
  });
  return [...halves.map(({ inside }) => inside), ...halves.map(({ outside }) => outside)];
}
