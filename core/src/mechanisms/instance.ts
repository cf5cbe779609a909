import type { Instance } from '../design/design.ts';
import {
  CARD_ID,
  GUTTER_ID,
  panelHostId,
  turnedGutter,
  type Gutter,
  type Quarters,
} from '../design/frames.ts';
import type { Family, Params } from './family.ts';

/** What a family says about measures that may be wrong altogether: the fallback then, for a finding tells why. */
export function saidOf<T>(ask: () => T, fallback: T): T {
  try {
    return ask();
  } catch (fault) {
    if (!(fault instanceof RangeError)) throw fault;
    return fallback;
  }
}

/** Whether a family can stand there: what stands by itself can be glued onto a panel as well. */
export const standsOn = (family: Family, gutter: Gutter): boolean =>
  gutter.kind === 'doors'
    ? family.acrossDoors === true
    : family.on === gutter.kind || (family.on === 'table' && gutter.kind === 'panel');

/**
 * Where a family goes unless told otherwise: from door to door if it can, on the card's fold, on the half that holds still,
 * on a sheet; without a card on the first fold or panel that there is. Undefined where it can stand on nothing.
 */
export function possibleHost(family: Family, gutters: readonly Gutter[]): Gutter | undefined {
  const doors = gutters.find((g) => g.kind === 'doors');
  if (doors && standsOn(family, doors)) return doors;
  if (family.on === 'table') return gutters.find(({ kind }) => kind === 'table');
  const wanted = family.on === 'fold' ? GUTTER_ID : panelHostId('right');
  return (
    gutters.find((g) => g.partId === CARD_ID && g.lineId === wanted) ??
    gutters.find((g) => standsOn(family, g))
  );
}

/** As `possibleHost`; that there is nothing to stand on is a RangeError that says so. */
export function usualHost(family: Family, gutters: readonly Gutter[]): Gutter {
  const host = possibleHost(family, gutters);
  if (!host) throw new RangeError(nowhere(family));
  return host;
}

/** That a family can stand on nothing that there is, in words. */
export const nowhere = ({ on, title }: Family): string =>
  on === 'table'
    ? `${title} stands by itself.`
    : on === 'fold'
      ? `${title} stands on a fold, and there is none: draft a part with a fold, or begin from a folded card.`
      : `${title} lies on a panel, and there is none: draft a part first.`;

/** How a family is turned where it stands unless told otherwise: upright, or towards the open edge that it goes round. */
export const usualTurn = (family: Family, { facing }: Gutter): Quarters =>
  family.roundOpenEdge && facing?.openAt === 0 ? 270 : 0;

/** A mechanism on a fold or a panel, with the family's measures for that fold except where `params` says otherwise. */
export function newInstance(
  family: Family,
  gutter: Gutter,
  id: string,
  rest: {
    name?: string;
    stockId?: string;
    params?: Params;
    beyondLimits?: boolean;
    turnDeg?: Quarters;
  } = {},
): Instance {
  const turnDeg = rest.turnDeg ?? usualTurn(family, gutter);
  return {
    id,
    name: rest.name ?? family.title,
    family: family.id,
    stockId: rest.stockId ?? 'slate-240',
    params: { ...family.defaults(turnedGutter(gutter, turnDeg)), ...rest.params },
    host: { partId: gutter.partId, gutterId: gutter.lineId },
    beyondLimits: rest.beyondLimits ?? false,
    ...(turnDeg === 0 ? {} : { turnDeg }),
  };
}
