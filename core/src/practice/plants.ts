/**
 * How to plant each rule's fault on a sound design, at a size and a place drawn at random. A plant has a size: at its
 * limit the rule changes its mind. `planted(beyond)` gives the design with the fault so much beyond its limit, as a share of it
 * (0.05: found; -0.05: silent), and what a finding must measure there.
 */
import { CLOSES_MM } from '../checks/closing.ts';
import { newDesign, type Design, type Joint } from '../design/design.ts';
import { workOf, type DieLine, type Layer } from '../dieline/part.ts';
import { circle, polyline, straight, type Path } from '../geometry/path.ts';
import { turn } from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import {
  AREA_TOLERANCE_MM2,
  CATCH_TOLERANCE_MM,
  DOUBLED_MM,
  EDGE_TOLERANCE_MM,
  JOINT_TOLERANCE_MM,
  OVERHANG_TOLERANCE_MM,
  SNAP_MM,
} from '../geometry/tolerances.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Params } from '../mechanisms/family.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { rectangle } from '../mechanisms/pieces.ts';
import { familyById } from '../mechanisms/registry.ts';
import { drafted, driveTo, glueAt, hangAt, sheetOf, stripOver } from './drafts.ts';
import { packingFingerprint } from '../sheets/packingFingerprint.ts';
import { boxNet, closes } from './boxNet.ts';
import { BRAD, stockById } from '../stock/stock.ts';
import { BAND_HANGS_MM } from '../checks/bandFit.ts';
import { checkContext } from '../checks/context.ts';
import type { SavedCut } from '../checks/finding.ts';

export interface Planted {
  readonly design: Design;
  /** What the finding measures, where it measures anything; and what its key holds. */
  readonly measured?: number;
  readonly key?: string;
  readonly cuts?: readonly SavedCut[];
}

export interface Plant {
  readonly rule: string;
  readonly what: string;
  /** Whether the fault has a size: else `beyond` only says whether it is there. */
  readonly sized: boolean;
  planted(random: () => number, beyond: number): Planted;
}

const stock = stockById('slate-240');
const between = (random: () => number, low: number, high: number) => low + (high - low) * random();

/** A rectangle somewhere, glued nowhere: lines are judged on their own. */
const alone = (lines: readonly (readonly [Layer, Path])[], w = 80, h = 60): Design =>
  drafted([sheetOf('Sheet', w, h, { lines })]);

const mechanism = (id: string, params: Params = {}, brief: Partial<Design['brief']> = {}): Design => {
  const design = { ...newDesign('Plant', { closedWidthMm: 148, closedHeightMm: 150, ...brief }) };
  const family = familyById(id)!;
  const host = usualHost(family, expand(design).gutters);
  return { ...design, instances: { m: newInstance(family, host, 'm', { params }) } };
};

const sized = (rule: string, what: string, planted: Plant['planted']): Plant => ({
  rule,
  what,
  sized: true,
  planted,
});
const there = (
  rule: string,
  what: string,
  planted: (random: () => number, bad: boolean) => Planted,
): Plant => ({
  rule,
  what,
  sized: false,
  planted: (random, beyond) => planted(random, beyond > 0),
});

/** A part glued whole to the right half, so that it is judged together with the card. */
const onCard = (part: ReturnType<typeof sheetOf>, at: Point, joints: readonly Joint[] = []): Design =>
  drafted([part], [glueAt(part.id, 'z', at), ...joints]);

export const PLANTS: readonly Plant[] = [
  sized('bandFit', 'a band for a thicker card', (random, beyond) => {
    const opening = random() < 0.5 ? 'side' : 'top';
    const plain = mechanism('bellyBand', {}, { opening });
    const { bulkMm } = checkContext(plain).closed;
    const thickMm = bulkMm + BAND_HANGS_MM * (1 + beyond);
    return {
      design: {
        ...plain,
        instances: { m: { ...plain.instances.m, params: { ...plain.instances.m.params, thickMm } } },
      },
      measured: thickMm,
    };
  }),
  sized('leftWhole', 'a perforation that tears by itself', (random, beyond) => {
    const gapMm = stock.thicknessMm * (1 - beyond / 2);
    const design = holed(random, { process: 'perforate', pattern: { cutMm: 3, gapMm } });
    return { design, measured: gapMm, key: ':gap' };
  }),
  sized('leftWhole', 'nicks that are too weak', (random, beyond) => {
    const widthMm = stock.thicknessMm * (1 - beyond / 4);
    const design = holed(random, { process: 'cut', nicks: { count: 3, widthMm } });
    return { design, measured: widthMm, key: ':weak' };
  }),
  sized('leftWhole', 'nicks that leave burrs', (random, beyond) => {
    const widthMm = 1.5 * (1 + beyond);
    const design = holed(random, { process: 'cut', nicks: { count: 2, widthMm } });
    return { design, measured: widthMm, key: ':burr' };
  }),
  there('leftWhole', 'a piece that hangs on one nick', (random, bad) => ({
    design: holed(random, { process: 'cut', nicks: { count: bad ? 1 : 2, widthMm: 0.6 } }),
    key: ':single',
  })),
  sized('leftWhole', 'nicks too far apart', (random, beyond) => {
    const count = 2 + Math.floor(3 * random());
    const farMm = 80 * (1 + beyond);
    // On a circle they are even.
    const radiusMm = (count * farMm) / (2 * Math.PI);
    const sheet = sheetOf('Sheet', 2 * radiusMm + 20, 2 * radiusMm + 20);
    const path = circle([radiusMm + 10, radiusMm + 10], radiusMm);
    const nicks = { count, widthMm: 0.6 };
    const hole: DieLine = { id: 'h', ...workOf('cut'), nicks, path };
    return {
      design: drafted([{ ...sheet, lines: { ...sheet.lines, h: hole } }]),
      measured: farMm,
      key: ':sparse',
    };
  }),
  sized('openOutline', 'an open outline', (random, beyond) => {
    const gap = SNAP_MM * (1 + beyond);
    const [w, h] = [between(random, 30, 80), between(random, 20, 60)];
    const ring: Point[] = [
      [0, gap],
      [0, h],
      [w, h],
      [w, 0],
      [0, 0],
    ];
    const sheet = sheetOf('Sheet', w, h);
    const lines = { o: { id: 'o', ...workOf('cut'), path: polyline(ring) } };
    return { design: drafted([{ ...sheet, lines }]), measured: gap, key: ':open:' };
  }),
  sized('openOutline', 'a fold that ends short', (random, beyond) => {
    const gap = SNAP_MM * (1 + beyond);
    const x = between(random, 20, 60);
    return {
      design: alone([['valley', straight([x, 0], [x, 60 - gap])]]),
      measured: gap,
      key: ':short:',
    };
  }),
  sized('openOutline', 'a fold that runs beyond the edge', (random, beyond) => {
    const over = SNAP_MM * (1 + beyond);
    const x = between(random, 20, 60);
    return { design: alone([['mountain', straight([x, 0], [x, 60 + over])]]), measured: over, key: ':long:' };
  }),
  sized('openOutline', 'a slit that runs past the end of its fold', (random, beyond) => {
    const over = SNAP_MM * (1 + beyond);
    const [y, x] = [between(random, 15, 40), between(random, 20, 40)];
    return {
      design: alone([
        ['cut', straight([x, y], [x + 20 + over, y])],
        ['valley', straight([x, y], [x, 0])],
        ['valley', straight([x + 20, y], [x + 20, 0])],
      ]),
      measured: over,
      key: ':overrun:',
    };
  }),
  sized('closing', 'a tab that misses its landing', (random, beyond) => {
    const [a, b, h] = [between(random, 40, 90), between(random, 30, 60), between(random, 15, 30)];
    const close = closes(a);
    const off = CLOSES_MM * (1 + beyond);
    const placement = { ...close.placement, dy: close.placement.dy + off };
    return {
      design: {
        ...newDesign('Box'),
        base: { kind: 'structure', rootPartId: null },
        parts: { net: boxNet(a, b, h, 90) },
        joints: { close: { ...close, placement } },
      },
      measured: off,
    };
  }),
  sized('doubledLine', 'a stretch drawn twice', (random, beyond) => {
    const length = 0.5 * (1 + beyond);
    const y = between(random, 5, 50);
    return {
      design: alone([['cut', straight([0, y], [0, y + length])]]),
      measured: length,
    };
  }),
  sized('doubledLine', 'two lines too near to be two', (random, beyond) => {
    const off = DOUBLED_MM / (1 + beyond);
    const x = between(random, 20, 60);
    return {
      design: alone([
        ['cut', straight([x, 10], [x, 40])],
        ['cut', straight([x + off, 10], [x + off, 40])],
      ]),
    };
  }),
  there('wholePieces', 'a fold on the cut layer', (random, bad) => {
    const x = between(random, 20, 60);
    return { design: alone([[bad ? 'cut' : 'valley', straight([x, 0], [x, 60])]]), key: ':two:' };
  }),
  there('wholePieces', 'an island without a bridge', (random, bad) => {
    const [x, y] = [between(random, 30, 50), between(random, 25, 35)];
    const bridge: (readonly [Layer, Path])[] = bad
      ? [
          ['cut', circle([x, y], 15)],
          ['cut', circle([x, y], 6)],
        ]
      : [['cut', circle([x, y], 15)]];
    return { design: alone(bridge), key: ':island:' };
  }),
  there('wholePieces', 'a closed cut round what should stay', (random, bad) => {
    const [x, y] = [between(random, 20, 30), between(random, 15, 25)];
    const inside: (readonly [Layer, Path])[] = bad ? [['kiss', circle([x + 10, y + 10], 3)]] : [];
    return { design: alone([['cut', polyline(rectangle(x, y, 20, 20), true)], ...inside]), key: ':loose:' };
  }),
  there('foldFaults', 'two folds that cross', (random, bad) => {
    const [x, y] = [between(random, 20, 60), between(random, 20, 40)];
    return {
      design: alone([
        ['valley', straight([x, 0], [x, 60])],
        ...(bad ? [['mountain', straight([0, y], [80, y])] as const] : []),
      ]),
      key: ':crossing:',
    };
  }),
  sized('foldFaults', 'angles at a vertex that do not sum to half a turn', (random, beyond) => {
    const off = ((1 + beyond) * Math.PI) / 180;
    const [a, b] = [between(random, 0.7, 1.1), between(random, 0.7, 1.2)];
    // Spokes so that every other angle, a and the third, sums to 180 degrees plus `off`.
    const third = Math.PI + off - a;
    const spokes = [0, a, a + b, a + b + third];
    const centre: Point = [40, 30];
    const to = (angle: number): Point => {
      const [c, s] = [Math.cos(angle), Math.sin(angle)];
      const far = Math.min(
        c > 0 ? 40 / c : c < 0 ? -40 / c : Infinity,
        s > 0 ? 30 / s : s < 0 ? -30 / s : Infinity,
      );
      return [40 + far * c, 30 + far * s];
    };
    const layers = ['valley', 'valley', 'valley', 'mountain'] as const;
    return {
      design: alone(spokes.map((angle, i) => [layers[i], straight(centre, to(angle))] as const)),
      measured: 1 + beyond,
      key: ':angles:',
    };
  }),
  there('foldFaults', 'mountains and valleys that do not differ by two', (random, bad) => {
    const [x, alpha] = [between(random, 35, 45), between(random, 0.5, 1)];
    const centre: Point = [x, 30];
    const dx = 30 / Math.tan(alpha);
    const layers = bad
      ? (['valley', 'valley', 'mountain', 'mountain'] as const)
      : (['valley', 'valley', 'mountain', 'valley'] as const);
    const ends: Point[] = [
      [x, 60],
      [x + dx > 80 ? 80 : x + dx, x + dx > 80 ? 30 + (80 - x) * Math.tan(alpha) : 60],
      [x, 0],
      [x - dx < 0 ? 0 : x - dx, x - dx < 0 ? 30 + x * Math.tan(alpha) : 60],
    ];
    return {
      design: alone(ends.map((end, i) => [layers[i], straight(centre, end)] as const)),
      key: ':senses:',
    };
  }),
  there('foldFaults', 'a fold that changes its sense', (random, bad) => {
    const [x, y] = [between(random, 20, 60), between(random, 20, 40)];
    return {
      design: alone([
        ['valley', straight([x, 0], [x, y])],
        [bad ? 'mountain' : 'valley', straight([x, y], [x, 60])],
      ]),
      key: ':mixed:',
    };
  }),
  sized('foldFaults', 'scores too near to each other', (random, beyond) => {
    const limit = 2 * stock.thicknessMm;
    const off = limit / (1 + beyond);
    const x = between(random, 20, 60);
    return {
      design: alone([
        ['valley', straight([x, 0], [x, 60])],
        ['mountain', straight([x + off, 0], [x + off, 60])],
      ]),
      measured: off,
      key: ':close:',
    };
  }),
  sized('motionFaults', 'a strip whose fold lies off the card’s', (random, beyond) => {
    // Torn by twice as much when closed.
    const off = (JOINT_TOLERANCE_MM / 2) * (1 + beyond);
    const strip = sheetOf('Strip', 80, 20, {
      folds: [[40, 'valley']],
      zones: { a: [1, 1, 20, 18], b: [59, 1, 20, 18] },
    });
    const at: Point = [-40 + off, between(random, 5, 120)];
    return {
      design: drafted([strip], [glueAt('Strip', 'a', at), glueAt('Strip', 'b', at)]),
      measured: 2 * off,
      key: ':torn:',
    };
  }),
  sized('motionFaults', 'glue in two places that differ', (random, beyond) => {
    const off = JOINT_TOLERANCE_MM * (1 + beyond);
    const part = sheetOf('Plate', 60, 30, { zones: { z: [2, 2, 10, 20], y: [40, 2, 10, 20] } });
    const [x, y] = [between(random, 10, 60), between(random, 10, 100)];
    return {
      design: drafted([part], [glueAt('Plate', 'z', [x, y]), glueAt('Plate', 'y', [x + off, y])]),
      measured: off,
      key: ':joint:',
    };
  }),
  sized('motionFaults', 'ways round a step that differ', (random, beyond) => {
    const off = JOINT_TOLERANCE_MM * (1 + beyond);
    const [a, b] = [between(random, 25, 40), between(random, 25, 40)];
    const p = b + between(random, 1, 15);
    return { design: stripOver([a + off, b, p, a + p - b]), measured: off, key: ':locked:' };
  }),
  sized('catching', 'a plate glued over a valley', (random, beyond) => {
    const over = CATCH_TOLERANCE_MM * (1 + beyond);
    const height = between(random, 15, 60);
    const plate = sheetOf('Plate', 40, height, { zones: { z: [1, 1, 38 - over, height - 2] } });
    return {
      design: drafted([plate], [glueAt('Plate', 'z', [over - 40, between(random, 10, 80)])]),
      measured: over,
    };
  }),
  there('heldPull', 'a wheel left so that it catches', (random, bad) => {
    // A pointer on a pivot beside the card's fold: turned over it, the card cannot close on it.
    const reach = bad ? 60 : 14;
    const pointer = sheetOf('Pointer', reach + 8, 8, { lines: [['cut', circle([4, 4], 1.5)]] });
    const [x, y] = [between(random, 18, 22), between(random, 60, 90)];
    const design = drafted(
      [pointer],
      [hangAt('pivot', 'p', 'Pointer', [4, 4], [x - 4, y - 4], { drive: driveTo(360, 'Pointer') })],
    );
    return {
      design: {
        ...design,
        additions: {
          h: {
            id: 'h',
            partId: 'card',
            panelId: 'right',
            line: { id: 'h', ...workOf('cut'), path: circle([x, y], 1.5) },
          },
        },
      },
      key: 'heldPull:',
    };
  }),
  sized('stops', 'a stop before the end of the travel', (random, beyond) => {
    const travel = between(random, 10, 40);
    const early = 1e-3 * (1 + beyond);
    const slide = hangAt('slide', 's', 'Slider', [10, 10], [between(random, 10, 60), 60], {
      drive: driveTo(travel),
    });
    const stopped = { ...slide, stops: { from: 0, to: travel - early } } as Joint;
    return { design: drafted([sheetOf('Slider', 20, 20)], [stopped]), measured: early, key: ':early:' };
  }),
  sized('stops', 'a stop beyond the travel', (random, beyond) => {
    const travel = between(random, 10, 40);
    const late = 1e-3 * (1 + beyond);
    const slide = hangAt('slide', 's', 'Slider', [10, 10], [between(random, 10, 60), 60], {
      drive: driveTo(travel),
    });
    const stopped = { ...slide, stops: { from: 0, to: travel + late } } as Joint;
    return { design: drafted([sheetOf('Slider', 20, 20)], [stopped]), measured: late, key: ':late:' };
  }),
  sized('slotFit', 'a slot too short for its tongue', (random, beyond) => {
    const lack = EDGE_TOLERANCE_MM * (1 + beyond);
    const [w, x] = [between(random, 14, 30), between(random, 40, 90)];
    return { design: tongueThrough(w, x, w - lack, 0.8), measured: lack, key: ':short:' };
  }),
  sized('slotFit', 'a slot narrower than the paper', (random, beyond) => {
    const narrow = stock.thicknessMm / (1 + beyond);
    const [w, x] = [between(random, 14, 30), between(random, 40, 90)];
    return { design: tongueThrough(w, x, w + 0.5, narrow), measured: narrow, key: ':narrow:' };
  }),
  sized('pivotFit', 'a hole that lets the head through', (random, beyond) => {
    const radius = BRAD.radiusMm * (1 + beyond);
    return { design: pivoted(random, radius), measured: 2 * radius, key: ':wide:' };
  }),
  sized('pivotFit', 'a hole that is too tight', (random, beyond) => {
    const radius = BRAD.legRadiusMm / (1 + beyond);
    return { design: pivoted(random, radius), key: ':tight:' };
  }),
  there('pivotFit', 'no hole', (random, bad) => ({ design: pivoted(random, bad ? 0 : 1.5), key: ':none:' })),
  sized('closedOverhang', 'a piece that pokes out', (random, beyond) => {
    const over = OVERHANG_TOLERANCE_MM * (1 + beyond);
    const part = sheetOf('Flag', 40, 20, { zones: { z: [1, 1, 20, 18] } });
    return { design: onCard(part, [148 - 40 + over, between(random, 10, 100)]), measured: over };
  }),
  sized('standsUp', 'an easel whose weight lies behind its fold', (_random, beyond) =>
    easelWithSign(mechanism('easel', {}, { closedHeightMm: 170 }), beyond),
  ),
  sized('measures', 'a wheel that shows two pictures', (_random, beyond) => {
    // The aperture against d sin(pi / n), a mechanism's own limit; it keeps clear of everything else.
    const [d, n] = [40, 12];
    const c = d * Math.sin(Math.PI / n) * (1 + 0.1 * beyond);
    return {
      design: mechanism('wheel', { distanceMm: d, pictures: n, apertureMm: 2 * c, radiusMm: 62 }),
      measured: c - d * Math.sin(Math.PI / n),
    };
  }),
  there('showThrough', 'a tab seen through a window', (random, bad) => {
    // A step's left foot is glued beside a window in the card, or over it.
    const design = mechanism('step', { alongMm: 50, widthMm: 50 });
    const { leftMm } = design.instances.m.params as { leftMm: number };
    const x = bad ? -leftMm - 8 : -leftMm - 40;
    const window = polyline(rectangle(x, between(random, 58, 66), 7, 20), true);
    return {
      design: {
        ...design,
        additions: {
          w: { id: 'w', partId: 'card', panelId: 'left', line: { id: 'w', ...workOf('cut'), path: window } },
        },
      },
      key: 'showThrough:',
    };
  }),
  sized('glueZones', 'a zone that hangs over its own part', (random, beyond) => {
    const over = (AREA_TOLERANCE_MM2 / 18) * (1 + beyond);
    const part = sheetOf('Tag', 40, 20, { zones: { z: [20, 1, 20 + over, 18] } });
    return {
      design: onCard(part, [between(random, 10, 100), between(random, 10, 100)]),
      measured: over,
      key: ':off:',
    };
  }),
  sized('glueZones', 'a zone across its own fold', (random, beyond) => {
    const over = CATCH_TOLERANCE_MM * (1 + beyond);
    const part = sheetOf('Tag', 60, 20, { folds: [[20, 'valley']], zones: { z: [1, 1, 19 + over, 18] } });
    return {
      design: onCard(part, [between(random, 10, 80), between(random, 10, 100)]),
      measured: over,
      key: ':fold:',
    };
  }),
  sized('glueZones', 'glue in a place to keep free', (random, beyond) => {
    const into = CATCH_TOLERANCE_MM * (1 + beyond);
    const host = sheetOf('Host', 80, 40, { zones: { z: [1, 1, 10, 38] } });
    const kept = {
      ...host,
      glueZones: {
        ...host.glueZones,
        k: { id: 'k', outline: rectangle(30, 0, 20, 40), face: 'front' as const, kind: 'keepOut' as const },
      },
    };
    const tag = sheetOf('Tag', 12, 20, { zones: { z: [0, 0, 12, 20] } });
    return {
      design: drafted(
        [kept, tag],
        [glueAt('Host', 'z', [20, between(random, 20, 100)]), glueAt('Tag', 'z', [18 + into, 5], 'Host')],
      ),
      measured: into,
      key: ':keepOut:',
    };
  }),
  there('glueZones', 'a tab glued by the wrong face', (random, bad) => {
    const design = stripOver(
      [between(random, 28, 34), 30, 30, 30].map((v, i, all) => (i === 3 ? all[0] : v)) as [
        number,
        number,
        number,
        number,
      ],
    );
    const { Strip } = design.parts;
    const { left } = Strip.glueZones;
    const zones = {
      ...Strip.glueZones,
      left: { ...left, face: bad ? ('front' as const) : ('back' as const) },
    };
    return { design: { ...design, parts: { Strip: { ...Strip, glueZones: zones } } }, key: ':face:' };
  }),
  there('glueZones', 'a part with glue that is glued to nothing', (random, bad) => {
    const part = sheetOf('Tag', between(random, 20, 40), 20, { zones: { z: [1, 1, 10, 18] } });
    return { design: bad ? drafted([part]) : onCard(part, [20, 20]), key: ':nothing:' };
  }),
  there('glueZones', 'a one-sided stock face down', (random, bad) => {
    const part = sheetOf('Plate', between(random, 20, 40), 20, {
      zones: { z: [1, 1, 18, 18] },
      front: bad ? ['z'] : [],
      stockId: 'brass-foil',
    });
    return { design: onCard(part, [20, 20]), key: ':faceDown:' };
  }),
  sized('glueLanding', 'a tab over the edge of its landing', (random, beyond) => {
    const over = (AREA_TOLERANCE_MM2 / 20) * (1 + beyond);
    const part = sheetOf('Tag', 12, 20, { zones: { z: [0, 0, 12, 20] } });
    return { design: onCard(part, [136 + over, between(random, 10, 100)]), measured: over, key: ':edge:' };
  }),
  sized('glueLanding', 'a tab that is too narrow', (random, beyond) => {
    const width = stock.minTabMm / (1 + beyond);
    const part = sheetOf('Tag', width, 20, { zones: { z: [0, 0, width, 20] } });
    return { design: onCard(part, [between(random, 10, 100), 40]), measured: width, key: ':width:' };
  }),
  there('glueInTheWay', 'a block on the way of a slider', (random, bad) => {
    const slider = sheetOf('Slider', 20, 10);
    const block = sheetOf('Block', 8, 8, { zones: { z: [0, 0, 8, 8] } });
    const x = between(random, 12, 20);
    return {
      design: drafted(
        [slider, block],
        [
          hangAt('slide', 's', 'Slider', [10, 5], [x, 60], { drive: driveTo(30) }),
          glueAt('Block', 'z', [x + (bad ? 45 : 55), 61]),
        ],
      ),
    };
  }),
  sized('tabsColliding', 'two tabs on each other', (random, beyond) => {
    const over = (AREA_TOLERANCE_MM2 / 20) * (1 + beyond);
    const tag = (id: string) => sheetOf(id, 12, 20, { zones: { z: [0, 0, 12, 20] } });
    const [x, y] = [between(random, 20, 90), between(random, 20, 90)];
    return {
      design: drafted(
        [tag('One'), tag('Two')],
        [glueAt('One', 'z', [x, y]), glueAt('Two', 'z', [x + 12 - over, y])],
      ),
      measured: over,
    };
  }),
  sized('matingEdges', 'an edge longer than the one it meets', (random, beyond) => {
    const more = EDGE_TOLERANCE_MM * (1 + beyond);
    const length = between(random, 20, 40);
    const host = sheetOf('Host', 60, length + 20, {
      zones: { z: [1, 1, 20, 18] },
      lines: [['mark', straight([30, 5], [30, 5 + length])]],
    });
    const wall = sheetOf('Wall', 12, length + more, {
      zones: { z: [1, 1, 10, length - 2] },
      lines: [['mark', straight([0, 0], [0, length + more])]],
    });
    const glue = { ...glueAt('Wall', 'z', [30, 5], 'Host'), mate: { lineId: 'l0', hostLineId: 'l0' } };
    return { design: drafted([host, wall], [glueAt('Host', 'z', [20, 20]), glue]), measured: more };
  }),
  sized('thinWeb', 'two cuts too near to each other', (random, beyond) => {
    const width = stock.minWebMm / (1 + beyond);
    const angle = between(random, 0, Math.PI);
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const at = (u: number, v: number): Point => [40 + c * u - s * v, 30 + s * u + c * v];
    return {
      design: alone([
        ['cut', straight(at(-12, 0), at(12, 0))],
        ['cut', straight(at(-10, width), at(14, width))],
      ]),
      measured: width,
    };
  }),
  sized('sheetFaults', 'a part larger than the printable area', (random, beyond) => {
    // 420 x 297 less 8 all round.
    const [w, h] = [404 * (1 + 0.02 * beyond), between(random, 200, 281)];
    return { design: drafted([sheetOf('Poster', w, h)]), measured: 404 * 0.02 * beyond, key: ':large:' };
  }),
  there('sheetFaults', 'a stock that is not in the store', (random, bad) => ({
    design: drafted([
      sheetOf('Tag', between(random, 20, 60), 20, { stockId: bad ? 'gone-99' : 'slate-240' }),
    ]),
    key: ':stock:',
  })),
  sized('sheetFaults', 'a long fold across the grain', (random, beyond) => {
    const length = 80 * (1 + beyond);
    const sheet = sheetOf('Wall', between(random, 40, 60), length, { folds: [[20, 'valley']] });
    return { design: drafted([{ ...sheet, grainRad: 0 }]), measured: length, key: ':grain:' };
  }),
  there('sheetFaults', 'a packing of an older design', (random, bad) => {
    const design = drafted([sheetOf('Tag', between(random, 20, 60), 20)]);
    const fingerprint = bad ? 'of an older design' : packingFingerprint(expand(design), design.settings);
    const sheet = { stockId: 'slate-240', widthMm: 420, heightMm: 297, pieces: [] };
    return { design: { ...design, sheetPlan: { fingerprint, seed: 1, sheets: [sheet] } }, key: ':packed' };
  }),
  there('sheetFaults', 'a cut file of an older design', (_random, bad) => ({
    design: drafted([]),
    cuts: [{ number: 3, title: 'Sheet 1', current: !bad }],
    key: ':cut:',
  })),
  sized('envelopeFit', 'a card too large for its envelope', (random, beyond) => {
    const design = drafted([]);
    const clearance = between(random, 2, 6);
    // C5 is 229 x 162, made for a plain card of 210: what is left for the card along its long side.
    const room = 229 - clearance;
    return {
      design: {
        ...design,
        brief: {
          ...design.brief,
          closedWidthMm: room * (1 + 0.01 * beyond),
          envelopeId: 'c5',
          clearanceMm: clearance,
        },
      },
      measured: room * 0.01 * beyond,
    };
  }),
  sized('smallParts', 'a piece that a young child can swallow', (random, beyond) => {
    const size = 31.7 / (1 + beyond);
    const part = sheetOf('Gem', size, between(random, 10, size - 1), { zones: { z: [1, 1, 8, 8] } });
    const design = onCard(part, [40, 40]);
    return {
      design: { ...design, brief: { ...design.brief, audience: 'young children' } },
      measured: size,
      key: ':piece:',
    };
  }),
];

/** A part on a pivot with a hole of a radius; none when it is 0. */
function pivoted(random: () => number, radius: number): Design {
  const [x, y] = [between(random, 40, 100), between(random, 40, 100)];
  const part = sheetOf('Disc', 40, 40, radius > 0 ? { lines: [['cut', circle([20, 20], radius)]] } : {});
  const design = drafted(
    [part],
    [hangAt('pivot', 'p', 'Disc', [20, 20], [x - 20, y - 20], { drive: driveTo(90, 'Turn') })],
  );
  const hole = { id: 'h', ...workOf('cut'), path: circle([x, y], 1.5) };
  return { ...design, additions: { h: { id: 'h', partId: 'card', panelId: 'right', line: hole } } };
}

/** A tongue w wide that stands in a slot of the right half at x, of a length and width. */
function tongueThrough(w: number, x: number, length: number, width: number): Design {
  const part = sheetOf('Tongue', 30, w);
  const slot = polyline(rectangle(x - width / 2, 60 + (w - length) / 2, width, length), true);
  const through: Joint = {
    id: 't',
    kind: 'tongue',
    partId: 'Tongue',
    hostPartId: 'card',
    slot: [
      [x, 60],
      [x, 60 + w],
    ],
    on: [
      [10, 0],
      [10, w],
    ],
    within: [20, w / 2],
    leanDeg: 90,
    stops: { from: -5, to: 5 },
    drive: null,
  };
  const design = drafted([part], [through]);
  return {
    ...design,
    additions: {
      s: { id: 's', partId: 'card', panelId: 'right', line: { id: 's', ...workOf('cut'), path: slot } },
    },
  };
}

/** A round hole in a sheet whose cut, or perforation, is left whole in places. */
function holed(random: () => number, work: Pick<DieLine, 'process' | 'nicks' | 'pattern'>): Design {
  const sheet = sheetOf('Sheet', 80, 60);
  const path = circle([between(random, 25, 55), 30], between(random, 8, 12));
  return drafted([{ ...sheet, lines: { ...sheet.lines, h: { id: 'h', ...work, path } } }]);
}

/**
 * The usual easel with a sign glued to its display so that the weight of both lies just behind the fold of the strut. In the
 * display's own plane, upwards from its lower edge: the fold lies under its upper edge, L up. The display's weight acts at
 * L / 2; a sign of area S centred at height z above balances over the fold when A (L - L / 2) = S (z - L).
 */
function easelWithSign(base: Design, beyond: number): Planted {
  const { displayMm: L, widthMm: w } = base.instances.m.params as { displayMm: number; widthMm: number };
  const tall = 120;
  // The sign reaches from 10 mm under the display's upper edge to tall - 10 above it.
  const over = tall / 2 - 10;
  const wide = ((w * L * (L / 2)) / (tall * over)) * (1 + beyond);
  // The flap of the strut, glued to the display's back, weighs at its middle: a quarter of L from the upper edge.
  const flap = L / 2 - 1;
  const more = (w * flap * (L - (L - flap / 2))) / (tall * over);
  const sign = sheetOf('Sign', tall, wide + more * (1 + beyond), { zones: { z: [0, 1, 9, 20] } });
  return {
    design: {
      ...base,
      parts: { Sign: sign },
      // The display runs from -L / 2 (its upper edge) to L / 2 along x.
      joints: { g: { ...glueAt('Sign', 'z', turn(Math.PI, -L / 2 + 10, w / 2), 'm/display'), id: 'g' } },
    },
    key: ':tips:',
  };
}
