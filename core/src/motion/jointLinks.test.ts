/** Every kind of joint as links: their frames meet where the joint is drawn, and what cannot be hung is said with its place. */
import { describe, expect, it } from 'vitest';
import type { Design, Joint } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { compose, place, shift, turn, type Isometry } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { move, rigidIdentity } from '../geometry/rigid.ts';
import { seededRandom } from '../geometry/random.ts';
import { expand } from '../mechanisms/expand.ts';
import { linkageOf } from './linkage.ts';
import { motionAfter, senseOf, type Link } from './links.ts';
import { drafted, driveTo, glueAt, hangAt, sheetOf } from '../practice/drafts.ts';

const random = seededRandom(2024);
const between = (low: number, high: number) => low + random() * (high - low);
const RAD = Math.PI / 180;

/** A card with one loose plate of 40 by 30, and a joint. */
const withJoint = (joint: Joint, more: Parameters<typeof drafted>[0] = []): Design =>
  drafted([sheetOf('plate', 40, 30), ...more], [joint]);
/** The plate's pin in a slit of the card, drawn where the pin is at (105, 55). */
const pinIn = (slit: [Point, Point]): Joint => ({
  id: 'j',
  kind: 'pin',
  partId: 'plate',
  hostPartId: CARD_ID,
  placement: shift(100, 50),
  at: [5, 5],
  face: 'front',
  slit,
});
const linked = (design: Design) => linkageOf(expand(design));
const linksOf = (design: Design, jointId: string): Link[] =>
  linked(design).links.filter((l) => l.jointId === jointId);

/** Where a point of a joint's frame lies in the planes of its two bodies, once the joint has moved by a value. */
function images(link: Link, value: number, [x, y]: Point): [Point, Point] {
  const moved = rigidIdentity();
  motionAfter(moved, link.kind, rigidIdentity(), senseOf(link.kind) * value);
  const onLeft = move(link.inLeft, move(moved, [x, y, 0]));
  const onRight = move(link.inRight, [x, y, 0]);
  return [
    [onLeft[0], onLeft[1]],
    [onRight[0], onRight[1]],
  ];
}

const near = ([x, y]: Point) => [expect.closeTo(x, 8) as number, expect.closeTo(y, 8) as number];

describe('a joint in place', () => {
  it('has its frames at the same place of both parts, wherever and however the part lies', () => {
    for (let n = 0; n < 60; n++) {
      const turned = turn(between(-4, 4), between(90, 140), between(20, 130));
      const placement: Isometry = { ...turned, flip: n % 3 === 0 };
      const at: Point = [between(2, 38), between(2, 28)];
      for (const kind of ['pivot', 'slide'] as const) {
        const design = withJoint(
          hangAt(kind, 'j', 'plate', at, placement, { directionDeg: between(0, 360) }),
        );
        const { links, panels } = linked(design);
        const [link, ...more] = links.filter((l) => l.jointId === 'j');
        expect([link.kind, more]).toEqual([kind, []]);
        expect(images(link, 0, [0, 0])[1]).toEqual(near(at));
        const card = panels.find((panel) => panel.body === link.left)!;
        for (const p of [
          [0, 0],
          [7, 0],
          [0, -5],
        ] as const) {
          // Both are points of planes that the placement carries into each other.
          const [onHost, onPart] = images(link, 0, p);
          expect(onHost).toEqual(near(place(card.placement, place(placement, onPart))));
        }
      }
    }
  });

  it('turns or runs by what its drive says, left-turning on the host and along its direction', () => {
    for (let n = 0; n < 40; n++) {
      const placement = turn(between(-4, 4), between(95, 140), between(20, 130));
      const at: Point = [between(5, 35), between(5, 25)];
      const probe: Point = [between(0, 40), between(0, 30)];
      const value = between(-60, 60);
      const directionDeg = between(0, 360);
      const moved: Record<'pivot' | 'slide', Isometry> = {
        pivot: (() => {
          const about = place(placement, at);
          return compose(
            compose(shift(...about), turn(value * RAD)),
            compose(shift(-about[0], -about[1]), placement),
          );
        })(),
        slide: compose(
          shift(value * Math.cos(directionDeg * RAD), value * Math.sin(directionDeg * RAD)),
          placement,
        ),
      };
      for (const kind of ['pivot', 'slide'] as const) {
        const [link] = linksOf(withJoint(hangAt(kind, 'j', 'plate', at, placement, { directionDeg })), 'j');
        const by = kind === 'pivot' ? value * RAD : value;
        // The probe in the joint's frame, seen from the part.
        const frame = compose(
          turn(-(kind === 'slide' ? directionDeg * RAD : 0)),
          shift(...(place(placement, at).map((v) => -v) as [number, number])),
        );
        const inFrame = place(frame, place(placement, probe));
        const [onHost, onPart] = images(link, by, inFrame);
        expect(onPart).toEqual(near(probe));
        expect(onHost).toEqual(near(place(moved[kind], probe)));
      }
    }
  });

  const lined = (
    kind: 'tongue' | 'cross' | 'rest',
    rest: { leanDeg?: number; stops?: { from: number; to: number } } = {},
  ): Joint =>
    ({
      id: 'j',
      kind,
      partId: 'plate',
      hostPartId: CARD_ID,
      slot: [
        [100, 40],
        [100, 70],
      ],
      on: [
        [20, 0],
        [20, 30],
      ],
      within: [20, 15],
      leanDeg: 90,
      stops: null,
      drive: null,
      ...rest,
    }) as Joint;

  it('of two motions is a chain with a body of no paper between', () => {
    const plain = linked(drafted([sheetOf('plate', 40, 30)]));
    for (const [joint, kinds] of [
      [lined('cross'), ['fold']],
      [lined('tongue'), ['fold', 'slide']],
      [lined('rest'), ['slide', 'fold']],
      [
        pinIn([
          [90, 55],
          [130, 55],
        ]),
        ['slide', 'pivot'],
      ],
    ] as const) {
      const { links, bodyCount, faults } = linked(withJoint(joint));
      const chain = links.filter((l) => l.jointId === 'j');
      expect(faults).toEqual([]);
      expect(chain.map((l) => l.kind)).toEqual(kinds);
      expect(bodyCount).toBe(plain.bodyCount + kinds.length - 1);
      chain.slice(1).forEach((link, i) => expect(link.left).toBe(chain[i].right));
    }
  });

  it('keeps its stops and the way it leans', () => {
    const [pin] = linksOf(
      withJoint(
        pinIn([
          [90, 55],
          [130, 55],
        ]),
      ),
      'j',
    );
    // The slit is as long as the pin may run, and it is drawn 15 mm from its beginning.
    expect([pin.stops, pin.seed]).toEqual([[0, 40], expect.closeTo(15, 9)]);
    const [, slide] = linksOf(withJoint(lined('tongue', { stops: { from: -3, to: 9 } })), 'j');
    expect(slide.stops).toEqual([-3, 9]);
    for (const leanDeg of [-130, -20, 20, 130]) {
      const [fold] = linksOf(withJoint(lined('cross', { leanDeg })), 'j');
      expect([fold.sign, fold.seed, fold.halfMm]).toEqual([Math.sign(leanDeg), leanDeg * RAD, 15]);
      // Pieces in half slots that lean by more than a right angle lie face to face when they are unbent.
      expect(fold.unbent).toBe(Math.abs(leanDeg) > 90 ? Math.sign(leanDeg) * Math.PI : 0);
    }
    const turning = {
      ...hangAt('pivot', 'j', 'plate', [5, 5], [100, 50]),
      stops: { from: -45, to: 90 },
    } as Joint;
    expect(linksOf(withJoint(turning), 'j')[0].stops).toEqual([-Math.PI / 4, Math.PI / 2]);
  });

  it('that is driven has a driver of its own, in its own unit; the opening stays the first', () => {
    const joints = [
      hangAt('pivot', 'turn', 'plate', [5, 5], [100, 50], { drive: driveTo(120, 'Turn') }),
      hangAt('slide', 'run', 'other', [5, 5], [100, 100], { drive: driveTo(25, 'Run') }),
    ];
    const { drivers, links } = linked(drafted([sheetOf('plate', 40, 30), sheetOf('other', 20, 10)], joints));
    expect(drivers.map(({ id, unit, from, to }) => [id, unit, from, to])).toEqual([
      ['opening', 'deg', 0, 180],
      ['turn', 'deg', 0, 120],
      ['run', 'mm', 0, 25],
    ]);
    expect(links.find((l) => l.jointId === 'turn')!.drive).toEqual({ driver: 1, offset: 0, factor: RAD });
    expect(links.find((l) => l.jointId === 'run')!.drive).toEqual({ driver: 2, offset: 0, factor: 1 });
  });
});

describe('a joint that cannot be hung', () => {
  const pivotAt = (at: Point, host: Point, hostPartId = CARD_ID) =>
    hangAt('pivot', 'j', 'plate', at, [host[0] - at[0], host[1] - at[1]], { hostPartId });
  const faultsOf = (design: Design) =>
    linked(design).faults.map(({ kind, jointId, partId, message }) => ({ kind, jointId, partId, message }));

  it('is told for the part on whose side the paper is missing', () => {
    expect(faultsOf(withJoint(pivotAt([5, 5], [100, 50])))).toEqual([]);
    // A hole within reach of paper is the pivot's own.
    expect(faultsOf(withJoint(pivotAt([-3, 5], [100, 50])))).toEqual([]);
    expect(faultsOf(withJoint(pivotAt([200, 5], [100, 50])))).toEqual([
      {
        kind: 'jointNowhere',
        jointId: 'j',
        partId: 'plate',
        message: expect.stringMatching(/^The pivot “j” holds .* where there is no paper/) as string,
      },
    ]);
    expect(faultsOf(withJoint(pivotAt([5, 5], [100, 900])))).toMatchObject([{ partId: CARD_ID }]);
    // What hangs on a part that is gone is told before there are any links.
    const gone = withJoint(pivotAt([5, 5], [5, 5], 'gone'));
    expect([faultsOf(gone), expand(gone).faults.length]).toEqual([[], 1]);
  });

  it('is told when glue has made its two ends one', () => {
    const plate = sheetOf('plate', 40, 30, { zones: { z: [2, 2, 10, 10] } });
    const design = drafted([plate], [glueAt('plate', 'z', [95, 45]), pivotAt([30, 20], [125, 65])]);
    expect(faultsOf(design)).toMatchObject([
      { jointId: 'j', message: expect.stringMatching(/cannot move: glue makes it one/) as string },
    ]);
  });

  it('is told when a slit, a slot, a line to rest on or an edge has no length', () => {
    const none: [Point, Point] = [
      [100, 50],
      [100, 50.001],
    ];
    const line: [Point, Point] = [
      [20, 0],
      [20, 30],
    ];
    const base = {
      id: 'j',
      partId: 'plate',
      hostPartId: CARD_ID,
      within: [20, 15] as Point,
      leanDeg: 90,
      stops: null,
      drive: null,
    };
    for (const [joint, words, partId] of [
      [
        { ...base, kind: 'tongue', slot: none, on: line },
        /^The slot for the tongue of plate has no length/,
        CARD_ID,
      ],
      [{ ...base, kind: 'cross', slot: none, on: line }, /^The slot for the half slot of plate/, CARD_ID],
      [
        { ...base, kind: 'rest', slot: none, on: line },
        /^The line to rest on for the stop of plate/,
        CARD_ID,
      ],
      [
        {
          ...base,
          kind: 'wrap',
          slot: none,
          on: line,
          bandMm: 10,
          startMm: 0,
          layers: 1,
          drive: driveTo(10),
        },
        /^The edge for the wrapped band of plate/,
        CARD_ID,
      ],
      [
        {
          ...base,
          kind: 'tongue',
          slot: [
            [100, 40],
            [100, 70],
          ],
          on: [
            [20, 0],
            [20, 0],
          ],
        },
        /^The line for the tongue of plate/,
        'plate',
      ],
      [pinIn(none), /^The slit for the pin of plate/, CARD_ID],
    ] as const) {
      const { faults, links } = linked(withJoint(joint as unknown as Joint));
      expect(faults).toMatchObject([{ partId, message: expect.stringMatching(words) as string }]);
      expect(links.filter((l) => l.jointId === 'j')).toEqual([]);
    }
  });

  it('is told when a handle turns a fold that is not there, or that glue holds', () => {
    const hand = (lineId: string): Joint => ({
      id: 'j',
      kind: 'hand',
      partId: 'plate',
      hostPartId: CARD_ID,
      folds: [{ lineId, factor: 1 }],
      drive: driveTo(90, 'Lift'),
    });
    const zones = { z: [2, 2, 10, 10], y: [25, 2, 10, 10] } as const;
    const folded = sheetOf('plate', 40, 30, { folds: [[20, 'valley']], zones });
    const free = drafted([folded], [glueAt('plate', 'z', [95, 45]), hand('f0')]);
    expect(faultsOf(free)).toEqual([]);
    expect(linked(free).links.filter((l) => l.drive && l.drive.driver > 0)).toHaveLength(1);
    expect(faultsOf(drafted([folded], [glueAt('plate', 'z', [95, 45]), hand('none')]))).toMatchObject([
      { message: expect.stringMatching(/^“Lift” should turn the fold “none”, which is not there/) as string },
    ]);
    const held = drafted(
      [folded],
      [glueAt('plate', 'z', [95, 45]), glueAt('plate', 'y', [95, 45]), hand('f0')],
    );
    expect(faultsOf(held)).toMatchObject([
      { message: expect.stringMatching(/glue holds both its sides/) as string },
    ]);
  });
});
