/** A family's picture: its own build on a plain card, moved by the solver; made once each. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { openingOf } from '@hollow-finch/core/design/frames';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { linkageOf } from '@hollow-finch/core/motion/linkage';
import { sweep, type Sweep } from '@hollow-finch/core/motion/sweep';
import type { Opening } from '@hollow-finch/core/motion/view';

interface Picture {
  readonly sweep: Sweep;
  readonly deg: number;
  readonly opening: Opening;
}

const pictures = new Map<string, Picture>();

/** Where a family's movement shows best: the opening, or its pull drawn out some way. */
const OPEN_DEG = 115;
const PULLED = 118;
/** Where what stands by itself shows best on its way up (0 is closed): nearly closed unless said. */
const SHOWN_AT: Readonly<Record<string, number>> = {
  twistedPrism: 90,
  pillowBox: 0,
  petalBox: 0,
  explodingBox: 38,
  bag: 0,
  rolledCone: 0,
};
const NEARLY_CLOSED = 24;

/** A family's picture: its own build on a plain card, moved by the solver. */
export function pictureOf(familyId: string): Picture {
  const known = pictures.get(familyId);
  if (known) return known;
  const family = familyById(familyId)!;
  const card = newDesign('picture', { closedWidthMm: 110, closedHeightMm: 105 });
  const design: Design =
    family.on === 'table' ? { ...card, base: { kind: 'structure', rootPartId: null } } : card;
  const host = usualHost(family, expand(design).gutters);
  const linkage = linkageOf(
    expand({ ...design, instances: { m: newInstance(family, host, 'm', { stockId: 'ember-160' }) } }),
  );
  const opened = sweep(linkage);
  const opening = openingOf(design);
  const made =
    linkage.drivers.length > 1
      ? { sweep: sweep(linkage, 1, opened), deg: PULLED, opening }
      : {
          sweep: opened,
          deg:
            family.on === 'table'
              ? (SHOWN_AT[familyId] ?? NEARLY_CLOSED)
              : family.on === 'panel'
                ? 180
                : OPEN_DEG,
          opening,
        };
  pictures.set(familyId, made);
  return made;
}
