/** Islands among the cuts of a part, and the bridges that hold them, as one edit. */
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design } from '@hollow-finch/core/design/design';
import { withBridges } from '@hollow-finch/core/drafting/bridgedCuts';
import { autoBridges, islandsAmong } from '@hollow-finch/core/drafting/bridges';
import type { NotShaped } from '@hollow-finch/core/drafting/corners';
import { isCut, type DieLine } from '@hollow-finch/core/dieline/part';
import { isClosedPath } from '@hollow-finch/core/geometry/curve';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { replacing } from './bridgeEdits.ts';
import { changeableLines } from './shaping.ts';

/** So many cuts are looked through for islands. */
const MOST_CUTS = 2_000;

/** The closed cuts of a part. */
const closedCuts = (design: Design, partId: string): readonly DieLine[] => {
  const part = expand(design).parts.find(({ id }) => id === partId);
  const cuts = part?.lines.filter((line) => isCut(line) && isClosedPath(line.path)) ?? [];
  return cuts.length > MOST_CUTS ? [] : cuts;
};

/** How many islands would fall out of a part. */
export const islandsOf = (design: Design, partId: string): number =>
  islandsAmong(closedCuts(design, partId).map(({ path }) => path));

export interface BridgesMade {
  readonly command: Command;
  readonly bridges: number;
  /** Islands that could not be reached. */
  readonly unreached: number;
}

/** Holds all islands of a part by bridges of a width. */
export function bridged(design: Design, partId: string, widthMm: number): BridgesMade | NotShaped {
  const cuts = closedCuts(design, partId);
  const found = autoBridges(
    cuts.map(({ path }) => path),
    widthMm,
  );
  if (found.islands === 0) return { refused: 'Nothing falls out of it: there is no island.' };
  if (found.bridges.length === 0)
    return { refused: 'No bridge of this width finds a place: make it narrower, or draw it by hand.' };
  const paths = cuts.map(({ path }) => path);
  const made = withBridges(paths, found.bridges);
  if ('refused' in made) return made;
  const kept = new Set(made);
  const touched = cuts.filter(({ path }) => !kept.has(path));
  const changeable = new Set(changeableLines(design, partId).map(({ id }) => id));
  if (touched.some(({ id }) => !changeable.has(id)))
    return { refused: 'A cut of a mechanism lies round an island: change the mechanism instead.' };
  const fresh = made.filter((path) => !paths.includes(path));
  // Each cut takes one of the outlines that come of them; the last takes all that are left.
  const last = touched.length - 1;
  const command = replacing(
    design,
    partId,
    new Map(touched.map(({ id }, i) => [id, fresh.slice(i, i < last ? i + 1 : undefined)])),
  );
  if ('refused' in command) return command;
  return {
    command,
    bridges: found.bridges.length,
    unreached: found.unreached.length,
  };
}
