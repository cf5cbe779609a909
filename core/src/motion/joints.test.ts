/** Joints of drafted parts, through the same code as any family: pivots, channels, pins in slits, stops, and what goes wrong. */
import { describe, expect, it } from 'vitest';
import { newDesign, type Design, type DraftedPart, type Joint } from '../design/design.ts';
import { shift } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { checkContext } from '../checks/context.ts';
import { runChecks } from '../checks/runChecks.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { waterfall } from '../mechanisms/waterfall.ts';
import { closedState } from './closed.ts';
import { stackAt } from './stack.ts';
import { linkageOf } from './linkage.ts';
import { driverValue } from './sweep.ts';
import { apart, at, draftedPiece, travels } from './testing/measure.ts';

const base = newDesign('Levers', { closedWidthMm: 160, closedHeightMm: 160 });

const bar = (id: string, x: number, y: number, w: number, h: number): DraftedPart =>
  draftedPiece(id, w, h, [x, y], 1);

const designOf = (parts: DraftedPart[], joints: Joint[]): Design => ({
  ...base,
  parts: Object.fromEntries(parts.map((p) => [p.id, p])),
  joints: Object.fromEntries(joints.map((j) => [j.id, j])),
});

const [radius, pivot]: [number, Point] = [25, [80, 80]];
const crank = (id: string): Joint => ({
  id,
  kind: 'pivot',
  partId: 'crank',
  hostPartId: 'card',
  placement: shift(...pivot),
  at: [0, 0],
  face: 'front',
  stops: null,
  drive: { name: 'Crank', from: 0, to: 180, rest: 0, atOpeningDeg: 180 },
});
const channel = (id: string, to: number): Joint => ({
  id,
  kind: 'slide',
  partId: 'yoke',
  hostPartId: 'card',
  placement: shift(pivot[0] + radius, pivot[1]),
  at: [0, 0],
  face: 'front',
  directionDeg: 180,
  stops: { from: 0, to },
  drive: null,
});
/** The crank's pin, `radius` from its pivot, runs in an upright slit of the yoke. */
const pin: Joint = {
  id: 'pin',
  kind: 'pin',
  partId: 'crank',
  hostPartId: 'yoke',
  placement: shift(-radius, 0),
  at: [radius, 0],
  face: 'front',
  slit: [
    [0, -40],
    [0, 40],
  ],
};
const levers = (stop: number) =>
  designOf(
    [bar('crank', -6, -6, radius + 12, 12), bar('yoke', -8, -45, 16, 90)],
    [crank('turn'), channel('run', stop), pin],
  );

describe('a crank with a pin in a slit', () => {
  it('moves its yoke by r (1 - cos phi), to 1e-6 mm, as one determined component', () => {
    const [opening, turning] = travels(levers(2 * radius));
    expect(opening.linkage.faults).toEqual([]);
    expect(turning.components.map((c) => [c.state, c.freedom])).toEqual([['moves', 0]]);
    for (let t = 0; t <= 180; t++) {
      const phi = (driverValue(turning.linkage.drivers[1], t) * Math.PI) / 180;
      const wanted = [pivot[0] + radius * Math.cos(phi), pivot[1], 0];
      expect(apart(at(turning, 'yoke', 'panel-1', [0, 0], t), wanted)).toBeLessThan(
        t === 0 || t === 180 ? 1e-3 : 1e-6,
      );
    }
  });

  it('runs beyond its stop by what is missing, and says where', () => {
    const [, turning] = travels(levers(2 * radius - 8));
    expect(turning.components[0].state).toBe('stopped');
    expect(turning.components[0].worstMm).toBeCloseTo(8, 3);
    const found = runChecks(checkContext(levers(2 * radius - 8))).find((f) =>
      /beyond its stop/.test(f.sentence),
    );
    expect(found?.sentence).toMatch(/runs 8 mm beyond its stop at 180° with “Crank”/);
  });

  it('is thicker by a brad where it turns, and piled up in the order of laying', () => {
    const design = levers(2 * radius);
    const [opening] = travels(design);
    const closed = closedState(opening);
    // At the pivot: two covers, the crank, and the brad.
    const stack = stackAt(opening, pivot).map((panel) => panel.part.id);
    expect(stack).toEqual(['card', 'crank', 'card']);
    expect(closed.bulkMm).toBeGreaterThan(1.4);
  });
});

describe('pulls', () => {
  it('are one for all bands of a strip, and one for each strip, whatever they are called', () => {
    const tall = newDesign('Two', { closedWidthMm: 160, closedHeightMm: 200 });
    const { gutters } = expand(tall);
    const on = (half: string) => gutters.find((g) => g.partId === 'card' && g.lineId === `panel:${half}`)!;
    const two = ['left', 'right'].map((half) => newInstance(waterfall, on(half), half, { name: 'Frames' }));
    const { drivers } = linkageOf(
      expand({ ...tall, instances: Object.fromEntries(two.map((i) => [i.id, i])) }),
    );
    expect(drivers.map((d) => d.name)).toEqual(['Opening', 'Frames', 'Frames']);
  });
});

describe('joints that cannot be', () => {
  const said = (design: Design) => linkageOf(expand(design)).faults.map((f) => f.message);

  it('are told with what to do: off the part, off the host, on one body', () => {
    const parts = [bar('crank', -6, -6, 40, 12)];
    expect(
      said(designOf(parts, [{ ...(crank('t') as Extract<Joint, { kind: 'pivot' }>), at: [500, 0] }])),
    ).toEqual(['The pivot “t” holds crank where there is no paper: move it onto the part.']);
    expect(
      said(
        designOf(parts, [{ ...(crank('t') as Extract<Joint, { kind: 'pivot' }>), placement: shift(900, 0) }]),
      ),
    ).toEqual(['The pivot “t” holds Card where there is no paper: move it onto the part.']);
    const glue: Joint = {
      id: 'g',
      kind: 'glue',
      partId: 'crank',
      zoneId: 'z',
      hostPartId: 'card',
      placement: shift(...pivot),
      mate: null,
    };
    expect(said(designOf(parts, [glue, crank('t')]))).toEqual([
      'The pivot of crank cannot move: glue makes it one with what it should move on. Take that glue away.',
    ]);
    expect(
      said(
        designOf(parts, [
          {
            id: 'h',
            kind: 'hand',
            partId: 'crank',
            hostPartId: 'card',
            folds: [{ lineId: 'nowhere', factor: 1 }],
            drive: { name: 'Flap', from: 0, to: 90, rest: 0, atOpeningDeg: 180 },
          },
        ]),
      ),
    ).toEqual([
      '“Flap” should turn the fold “nowhere”, which is not there: draw it or take the handle away.',
    ]);
  });

  it('that have lost their part are kept in the document and reported', () => {
    const design = designOf([], [crank('t')]);
    expect(expand(design).faults.map((f) => f.message)).toEqual([
      'A joint has lost its part (crank onto card).',
    ]);
    expect(design.joints.t).toBeDefined();
  });
});
