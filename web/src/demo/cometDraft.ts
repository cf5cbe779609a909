import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { CARD_ID } from '@hollow-finch/core/design/frames';
import { circle, polyline, straight } from '@hollow-finch/core/geometry/path';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { line, mechanism, part } from './making.ts';

/** A draft with one of each fault that the inspection knows, for learning to read it. */
export function cometDraft(): Design {
  const design = newDesign('Comet Draft', {
    closedWidthMm: 130,
    closedHeightMm: 100,
    envelopeId: 'c7',
    note: 'A faulty draft on purpose: one of each fault.',
  });
  const tail = part('p1', 'Tail', 'slate-240', [
    line(
      'l1',
      'cut',
      polyline([
        [0, 0.6],
        [0, 30],
        [70, 22],
        [70, 8],
        [0, 0],
      ]),
    ),
    line('l2', 'valley', straight([35, 4], [35, 24.5])),
  ]);
  const head = part(
    'p2',
    'Head',
    'ember-160',
    [
      line(
        'l1',
        'cut',
        polyline(
          [
            [0, 0],
            [44, 0],
            [44, 34],
            [0, 34],
          ],
          true,
        ),
      ),
      line('l2', 'cut', circle([22, 20], 12.8)),
      line('l3', 'cut', straight([0, 6], [0, 26])),
      line('l4', 'valley', straight([0, 4], [44, 4])),
    ],
    {
      glueZones: {
        foot: {
          id: 'foot',
          outline: [
            [0, 0],
            [44, 0],
            [44, 4],
            [0, 4],
          ],
          face: 'back',
          kind: 'glue',
        },
      },
    },
  );
  return {
    ...design,
    parts: { p1: tail, p2: head },
    instances: {
      m1: {
        ...mechanism(design, 'm1', 'step', 'Comet step', 'slate-240', {
          leftMm: 64,
          rightMm: 74,
          parallel: true,
          alongMm: 8,
          widthMm: 46,
          tabMm: 8,
        }),
        beyondLimits: true,
      },
      m2: {
        ...mechanism(design, 'm2', 'step', 'Second step', 'slate-240', {
          leftMm: 60,
          rightMm: 60,
          alongMm: 46,
          widthMm: 40,
          tabMm: 8,
        }),
        beyondLimits: true,
      },
    },
    joints: {
      j1: {
        id: 'j1',
        kind: 'glue',
        partId: 'p2',
        zoneId: 'foot',
        hostPartId: CARD_ID,
        placement: { ...shift(-16, 88), angleRad: 0 },
        mate: null,
      },
      j2: {
        id: 'j2',
        kind: 'glue',
        partId: 'p2',
        zoneId: 'foot',
        hostPartId: CARD_ID,
        placement: shift(20, 90),
        mate: { lineId: 'l4', hostLineId: 'm1/landing-left' },
      },
    },
  };
}
