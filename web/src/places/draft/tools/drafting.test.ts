/** The place that a hand means: lines of the part, then other parts' edges, then guides and the grid. */
import { expect, it } from 'vitest';
import { workOf, type Part } from '@hollow-finch/core/dieline/part';
import { roundedRectangle } from '@hollow-finch/core/drafting/shapes';
import { straight } from '@hollow-finch/core/geometry/path';
import { meantPlace } from './drafting.ts';

const frame: Part = {
  id: 'f',
  name: 'Frame',
  stockId: 'ember-160',
  grainRad: null,
  quantity: 1,
  lines: [{ id: 'o', ...workOf('cut'), path: roundedRectangle([0.3, 0.2], 40, 30) }],
  glueZones: [],
  marks: [],
};

it('is drawn to another part beside it, by its name, in the plane of the part that is drawn on', () => {
  const beside = [{ part: frame, offset: [50, 10] as const }];
  expect(meantPlace([50.5, 9.9], [], 1.5, [], undefined, beside)).toEqual({
    at: [50.3, 10.2],
    kind: 'end',
    of: 'Frame',
  });
  expect(meantPlace([50.9, 25.4], [], 1.5, [], undefined, beside)).toMatchObject({
    kind: 'middle',
    of: 'Frame',
  });
  // What is drawn on goes before; far from both there is the grid.
  expect(meantPlace([50.5, 9.9], [straight([50, 10], [60, 30])], 1.5, [], undefined, beside)).toEqual({
    at: [50, 10],
    kind: 'end',
  });
  expect(meantPlace([20.4, 9.9], [], 1.5, [], undefined, beside)).toEqual({ at: [20, 10], kind: 'grid' });
});
