import type { Instance } from '../design/design.ts';
import type { Gutter } from '../design/frames.ts';
import type { Family, Params } from './family.ts';

/** A mechanism on a fold, with the family's measures for that fold except where `params` says otherwise. */
export function newInstance(
  family: Family,
  gutter: Gutter,
  id: string,
  rest: { name?: string; stockId?: string; params?: Params; beyondLimits?: boolean } = {},
): Instance {
  return {
    id,
    name: rest.name ?? family.title,
    family: family.id,
    stockId: rest.stockId ?? 'slate-240',
    params: { ...family.defaults(gutter), ...rest.params },
    host: { partId: gutter.partId, gutterId: gutter.lineId },
    beyondLimits: rest.beyondLimits ?? false,
  };
}
