/** Sheets that fold up, put into a mechanism that stands by itself. */
import type { DieLine, Part } from '../../dieline/part.ts';
import type { Path } from '../../geometry/path.ts';
import type { Making } from '../making.ts';
import type { FoldedSheet, Glued } from './foldedSheet.ts';
import { ringPath, type Corner } from './sheetEdges.ts';

/** Adds a sheet as a part, with holes and further lines, and glue that is laid on it later. */
export const sheetPart = (
  made: Making,
  id: string,
  sheet: FoldedSheet,
  rest: {
    readonly title?: string;
    /** What is cut where the outline is not that of its panels: round where they are straight. */
    readonly outline?: readonly Corner[];
    readonly cuts?: Readonly<Record<string, Path>>;
    readonly lines?: readonly DieLine[];
    readonly stockId?: string;
    readonly grainRad?: number;
  } = {},
): Part => {
  const [outline, ...holes] = rest.outline ? [ringPath(rest.outline)] : sheet.outlines();
  return made.part(id, outline, {
    ...rest,
    cuts: { ...Object.fromEntries(holes.map((hole, i) => [`hole-${i + 1}`, hole])), ...rest.cuts },
    lines: [...sheet.lines(), ...(rest.lines ?? [])],
    zones: sheet.zones,
    panels: sheet.panels(),
  });
};

/** Joins the tabs of one part, numbered, onto itself or another part. */
export const glueTabs = (made: Making, id: string, part: Part, glued: readonly Glued[], onto = part): void =>
  glueAll(made, Object.fromEntries(glued.map((glue, i) => [`${id}-${i + 1}`, [part, glue, onto] as const])));

/** Joins what is glued: by id, each glued place with its part and what it is glued onto. */
export function glueAll(made: Making, glued: Readonly<Record<string, readonly [Part, Glued, Part]>>): void {
  for (const [id, [part, { zone, placement }, onto]] of Object.entries(glued))
    made.glue(part, placement, { zone: zone.id, id: `glue-${id}`, onto });
}
