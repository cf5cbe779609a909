import { workOf } from '@hollow-finch/core/dieline/part';
import type { DraftedPart } from '@hollow-finch/core/design/design';
import { polyline, straight } from '@hollow-finch/core/geometry/path';
import { rectangle } from '@hollow-finch/core/mechanisms/pieces';

/** A leaf of 40 by 24 with a valley at 15, hung on nothing yet. */
export const leaf: DraftedPart = {
  id: 'leaf',
  name: 'Leaf',
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  lines: {
    l1: { id: 'l1', ...workOf('cut'), path: polyline(rectangle(0, 0, 40, 24), true) },
    l2: { id: 'l2', ...workOf('valley'), path: straight([15, 0], [15, 24]) },
  },
  glueZones: {},
  marks: {},
};
