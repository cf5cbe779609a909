/**
 * What something on a panel may be placed by along one way: the panel's sides and middle, what lies beside it, middles and gaps between
 * two of these, guides. Each has a name of its own.
 */
import type { Box } from '../geometry/path.ts';
import type { PieceMeasures } from './pieceMeasures.ts';

export type Way = 'across' | 'up';
/** Which place of the piece is measured: its lower or left side, its upper or right one, its middle. */
export type Held = 'min' | 'mid' | 'max';

/** Something that a piece is placed by: its side or middle lies so far from a level, counted away from what is named. */
export interface Reference {
  readonly id: string;
  /** In words, after a distance: “from the left edge”. */
  readonly name: string;
  readonly held: Held;
  /** Where it is, in the upright axes of the piece's measures, mm. */
  readonly at: number;
  readonly sign: 1 | -1;
  /** What the distance is said to be drawn to when it is nothing. */
  readonly snap: string;
}

/** What something can be placed by, along each way. */
export interface References {
  readonly across: readonly Reference[];
  readonly up: readonly Reference[];
}

/** Another thing on the panel: its box in the axes of the piece's measures. */
export interface Neighbour {
  readonly id: string;
  readonly name: string;
  readonly box: Box;
}

/** By which sides of a box something lies along a way. */
export const SPANS = {
  across: { low: 'minX', high: 'maxX', k: 0, sides: ['left', 'right'] },
  up: { low: 'minY', high: 'maxY', k: 1, sides: ['low', 'high'] },
} as const;

const EDGE = { across: ['left edge', 'right edge'], up: ['lower edge', 'upper edge'] } as const;

const FROM = { across: 'from the left', up: 'from below' } as const;

/** Neighbours in the order in which they lie along a way; those of one name are numbered in it. */
function inOrder(neighbours: readonly Neighbour[], way: Way): Neighbour[] {
  const { low } = SPANS[way];
  const other = SPANS[way === 'across' ? 'up' : 'across'].low;
  const ordered = [...neighbours].sort((a, b) => a.box[low] - b.box[low] || a.box[other] - b.box[other]);
  return ordered.map((each) => {
    const alike = ordered.filter(({ name }) => name === each.name);
    const number = alike.indexOf(each) + 1;
    return alike.length === 1 ? each : { ...each, name: `${each.name}, number ${number} ${FROM[way]}` };
  });
}

/** References along one way: sides and middle of the panel, sides of neighbours, the middle between two of them. */
export function referencesAlong(
  way: Way,
  under: Pick<PieceMeasures, 'panel' | 'names'> | undefined,
  beside: readonly Neighbour[],
  guides: readonly { readonly id: string; readonly at: number }[],
): Reference[] {
  const { low, high, sides } = SPANS[way];
  const neighbours = inOrder(beside, way);
  const words = way === 'across' ? ['right of', 'left of'] : ['above', 'below'];
  const references: Reference[] = [];
  if (under) {
    const { panel, names } = under;
    const [lowName, highName] = sides.map((side) => names[side]);
    references.push(
      {
        id: 'middle',
        name: 'from the middle',
        held: 'mid',
        at: (panel[low] + panel[high]) / 2,
        sign: 1,
        snap: way === 'across' ? 'centred across' : 'centred upwards',
      },
      {
        id: sides[0],
        name: `from the ${lowName}`,
        held: 'min',
        at: panel[low],
        sign: 1,
        snap: `on the ${lowName}`,
      },
      {
        id: sides[1],
        name: `from the ${highName}${highName === lowName ? ' on the other side' : ''}`,
        held: 'max',
        at: panel[high],
        sign: -1,
        snap: `on the ${highName}`,
      },
    );
  }
  for (const { id, name, box } of neighbours)
    references.push(
      {
        id: `after:${id}`,
        name: `${words[0]} ${name}`,
        held: 'min',
        at: box[high],
        sign: 1,
        snap: `against ${name}`,
      },
      {
        id: `before:${id}`,
        name: `${words[1]} ${name}`,
        held: 'max',
        at: box[low],
        sign: -1,
        snap: `against ${name}`,
      },
      {
        id: `with:${id}`,
        name: `from the middle of ${name}`,
        held: 'mid',
        at: (box[low] + box[high]) / 2,
        sign: 1,
        snap: `in line with ${name}`,
      },
      {
        id: `low:${id}`,
        name: `from the ${EDGE[way][0]} of ${name}, in line`,
        held: 'min',
        at: box[low],
        sign: 1,
        snap: `${EDGE[way][0]} in line with ${name}`,
      },
      {
        id: `high:${id}`,
        name: `from the ${EDGE[way][1]} of ${name}, in line`,
        held: 'max',
        at: box[high],
        sign: -1,
        snap: `${EDGE[way][1]} in line with ${name}`,
      },
    );
  // Between two neighbours that follow each other, and between a neighbour and the panel's side.
  const side = (k: 0 | 1): { id: string; name: string; low: number; high: number }[] => {
    if (!under) return [];
    const at = under.panel[k === 0 ? low : high];
    return [{ id: sides[k], name: `the ${under.names[sides[k]]}`, low: at, high: at }];
  };
  const ends = [
    ...side(0),
    ...neighbours.map(({ id, name, box }) => ({ id, name, low: box[low], high: box[high] })),
    ...side(1),
  ];
  if (neighbours.length > 0)
    ends.slice(1).forEach((next, i) => {
      const before = ends[i];
      if (next.low <= before.high) return;
      references.push({
        id: `between:${before.id}:${next.id}`,
        name: `from the middle between ${before.name} and ${next.name}`,
        held: 'mid',
        at: (before.high + next.low) / 2,
        sign: 1,
        snap: `centred between ${before.name} and ${next.name}`,
      });
    });
  // As far from a neighbour as that is from the next one.
  neighbours.slice(1).forEach((next, i) => {
    const before = neighbours[i];
    const gap = next.box[low] - before.box[high];
    if (gap <= 0) return;
    const ids = `${before.id}:${next.id}`;
    const name = `from the gap between ${before.name} and ${next.name}, once more`;
    const snap = `equal gaps with ${before.name} and ${next.name}`;
    references.push(
      {
        id: `equalAfter:${ids}`,
        name: `${name}, ${words[0]} them`,
        held: 'min',
        at: next.box[high] + gap,
        sign: 1,
        snap,
      },
      {
        id: `equalBefore:${ids}`,
        name: `${name}, ${words[1]} them`,
        held: 'max',
        at: before.box[low] - gap,
        sign: -1,
        snap,
      },
    );
  });
  const inTurn = [...guides].sort((a, b) => a.at - b.at);
  for (const [k, { id, at }] of inTurn.entries()) {
    const guide = guides.length > 1 ? `guide ${k + 1}, counted ${FROM[way]},` : 'a guide';
    references.push(
      {
        id: `guide:${id}`,
        name: `from ${guide} to its middle`,
        held: 'mid',
        at,
        sign: 1,
        snap: 'centred on a guide',
      },
      {
        id: `guideLow:${id}`,
        name: `from ${guide} to its ${EDGE[way][0]}`,
        held: 'min',
        at,
        sign: 1,
        snap: `${EDGE[way][0]} on a guide`,
      },
      {
        id: `guideHigh:${id}`,
        name: `from ${guide} to its ${EDGE[way][1]}`,
        held: 'max',
        at,
        sign: -1,
        snap: `${EDGE[way][1]} on a guide`,
      },
    );
  }
  return references;
}
