/** Demo jobs of what makers do most: mats, pieces, both faces of a sheet, a sleeve without a card. */
import { layPiece } from '@hollow-finch/core/checks/layPiece';
import { scaledPart } from '@hollow-finch/core/checks/pieceScale';
import { atDistance, pieceMeasures } from '@hollow-finch/core/checks/pieceMeasures';
import { applyCommand } from '@hollow-finch/core/design/commands';
import { gluesOf, newDesign, type Design } from '@hollow-finch/core/design/design';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { polyline, straight } from '@hollow-finch/core/geometry/path';
import type { Params } from '@hollow-finch/core/mechanisms/family';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance } from '@hollow-finch/core/mechanisms/instance';
import { rectangle } from '@hollow-finch/core/mechanisms/pieces';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { shapeOutline, type Shape } from '@hollow-finch/core/mechanisms/shapes';
import { line, part } from './making.ts';

/** A design with one more mechanism, on the place with an id. */
function standing(
  design: Design,
  id: string,
  familyId: string,
  gutterId: string,
  name: string,
  stockId: string,
  params: Params = {},
): Design {
  const host = expand(design).gutters.find((g) => g.lineId === gutterId);
  if (!host) throw new Error(`The demo has no place called ${gutterId}.`);
  const made = newInstance(familyById(familyId)!, host, id, { name, stockId, params });
  return { ...design, instances: { ...design.instances, [id]: made } };
}

/** A design with a piece laid on a panel at a share of its largest size, so far beyond the panel's upper edge, mm. */
function laid(
  design: Design,
  partId: string,
  panelId: string,
  drawn: { readonly name: string; readonly stockId: string; readonly shape: Shape },
  share: number,
  beyondMm: number,
): Design {
  const lines = { l1: line('l1', 'cut', shapeOutline(drawn.shape)) };
  const piece = layPiece(design, partId, panelId, { ...drawn, lines });
  if ('refused' in piece) throw new Error(piece.refused);
  const whole = applyCommand(design, piece.command).design;
  const smaller = scaledPart(whole.parts[piece.partId], [0, 0], share);
  const next = { ...whole, parts: { ...whole.parts, [piece.partId]: smaller } };
  const joint = gluesOf(Object.values(next.joints)).find((glue) => glue.partId === piece.partId)!;
  const measures = pieceMeasures(next, joint)!;
  const value = atDistance(next, joint, measures, 'high', -beyondMm);
  return { ...next, joints: { ...next.joints, [joint.id]: value } };
}

/** A top-fold card with a mat on each half, a step on both, and a star that stands above it. */
export function hilltopEvening(): Design {
  let design = newDesign('Hilltop Evening', {
    opening: 'top',
    closedWidthMm: 150,
    closedHeightMm: 110,
    note: 'Invitation to an evening on the hill: mats first, then the step on the mats, then the stars.',
  });
  design = standing(design, 'm1', 'mats', 'panel:left', 'Sky mats', 'slate-240', {
    mats: 2,
    stock2: 'ember-160',
  });
  design = standing(design, 'm2', 'mats', 'panel:right', 'Ground mat', 'brass-foil', { radiusMm: 6 });
  design = standing(design, 'm3', 'mats', 'panel:left@back', 'Front mat', 'slate-240', {
    aperture: 'circle',
    openMm: 46,
  });
  design = standing(design, 'm4', 'step', 'gutter@m1/mat-2|m2/mat-1', 'Terrace', 'chalk-300');
  const star = { name: 'Star', stockId: 'brass-foil', shape: 'star' } as const;
  return laid(design, 'm4/strip', 'front', star, 0.5, 8);
}

/** A flat sheet, pulled on its front, with a layered picture on its back. */
export function cometSlide(): Design {
  let design: Design = {
    ...newDesign('Comet Slide', {
      closedWidthMm: 150,
      closedHeightMm: 105,
      note: 'One sheet, two faces, no fold.',
    }),
    base: { kind: 'sheet' },
  };
  design = { ...design, settings: { ...design.settings, cardStockId: 'slate-240' } };
  design = standing(design, 'm1', 'slider', 'panel:right', 'Comet', 'ember-160');
  return standing(design, 'm2', 'layered', 'panel:right@back', 'Picture', 'chalk-300');
}

/** A sleeve for a pass: no card; five panels in a row, the last glued behind the first. */
export function passSleeve(): Design {
  const [wide, deep, tall, tab] = [92, 4, 58, 10];
  const folds = [wide, wide + deep, 2 * wide + deep, 2 * (wide + deep)];
  const length = folds[3] + tab;
  const sleeve = part(
    'p1',
    'Sleeve',
    'ember-160',
    [
      line('outline', 'cut', polyline(rectangle(0, 0, length, tall), true)),
      ...folds.map((x, i) => line(`fold-${i + 1}`, 'valley', straight([x, 0], [x, tall]))),
    ],
    {
      glueZones: {
        seam: {
          id: 'seam',
          outline: rectangle(folds[3] + 1, 1, tab - 2, tall - 2),
          face: 'back',
          kind: 'glue',
        },
      },
    },
  );
  return {
    ...newDesign('Pass Sleeve', {
      note: 'Holds one pass of 85.6 by 54 mm. No card: the part folds up by itself.',
    }),
    base: { kind: 'structure', rootPartId: 'p1' },
    parts: { p1: sleeve },
    joints: {
      j1: {
        id: 'j1',
        kind: 'glue',
        partId: 'p1',
        hostPartId: 'p1',
        zoneId: 'seam',
        placement: shift(-folds[3], 0),
        mate: null,
      },
    },
  };
}
