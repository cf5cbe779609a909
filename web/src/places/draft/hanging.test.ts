/** Joints offered for a drafted part: each is a sound document, and holds in space what it says it holds. */
import { newDesign, type Design, type DraftedPart, type Joint } from '@hollow-finch/core/design/design';
import { designSchema } from '@hollow-finch/core/design/schema';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { workOf, type Part } from '@hollow-finch/core/dieline/part';
import { polyline, straight } from '@hollow-finch/core/geometry/path';
import { middle, type Point } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { rectangle } from '@hollow-finch/core/mechanisms/pieces';
import { linkageOf } from '@hollow-finch/core/motion/linkage';
import { pointAt } from '@hollow-finch/core/motion/pose';
import { pullSweeps, sweep, type Sweep } from '@hollow-finch/core/motion/sweep';
import { describe, expect, it } from 'vitest';
import {
  alongEdge,
  edgeUnder,
  HANGS,
  stretchOn,
  type Ends,
  movedByHand,
  newJoint,
  onHost,
  straightEdges,
  travelUnit,
  withTravel,
  type HangKind,
} from './hanging.ts';
import { leaf } from './testing/leaf.ts';

const sheet: DraftedPart = {
  ...leaf,
  id: 'sheet',
  name: 'Sheet',
  lines: {
    l1: { id: 'l1', ...workOf('cut'), path: polyline(rectangle(0, 0, 70, 60), true) },
    l2: { id: 'l2', ...workOf('cut'), path: straight([20, 10], [20, 40]) },
  },
  glueZones: { z: { id: 'z', outline: rectangle(1, 1, 8, 8), face: 'back', kind: 'glue' } },
};
const glued: Joint = {
  id: 'j0',
  kind: 'glue',
  partId: 'sheet',
  zoneId: 'z',
  hostPartId: 'card',
  placement: { angleRad: 0.3, flip: false, dx: 40, dy: 20 },
  mate: null,
};
const base: Design = {
  ...newDesign('Leaves', { closedWidthMm: 148, closedHeightMm: 120 }),
  parts: { leaf, sheet },
  joints: { j0: glued },
};
const partOf = (id: string): Part => expand(base).parts.find((p) => p.id === id)!;
const hung = (kind: HangKind): Joint => {
  const part = partOf('leaf');
  const joint = newJoint(kind, 'j1', part, panelPlan(part).panels.at(-1)!, partOf('sheet'));
  if ('refused' in joint) throw new Error(joint.refused);
  return joint;
};
const withJoint = (joint: Joint): Design => ({ ...base, joints: { j0: glued, j1: joint } });

/** A point of a part in space at a place of a travel. */
const inSpace = (motion: Sweep, partId: string, within: Point, p: Point, t: number) => {
  const part = motion.linkage.panels.filter((panel) => panel.part.id === partId);
  const plan = panelPlan(part[0].part);
  const best = plan.panels.findIndex(
    (panel) => panel.inside[0] === within[0] && panel.inside[1] === within[1],
  );
  return pointAt(
    motion,
    part.find((panel) => panel.panel === Math.max(0, best))!,
    p,
    t,
  );
};
/** How far points lie from the line through two others. */
const offLine = (a: readonly number[], b: readonly number[], p: readonly number[]): number => {
  const d = b.map((v, i) => v - a[i]);
  const e = p.map((v, i) => v - a[i]);
  const cross = [d[1] * e[2] - d[2] * e[1], d[2] * e[0] - d[0] * e[2], d[0] * e[1] - d[1] * e[0]];
  return Math.hypot(...cross) / Math.hypot(...d);
};
/** Distance of a point from the plane through three others. */
const offPlane = (
  o: readonly number[],
  x: readonly number[],
  y: readonly number[],
  p: readonly number[],
): number => {
  const [u, v, w] = [x, y, p].map((q) => q.map((c, i) => c - o[i]));
  const n = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
  return Math.abs(n[0] * w[0] + n[1] * w[1] + n[2] * w[2]) / Math.hypot(...n);
};

describe('a new joint', () => {
  it.each(HANGS.map((hang) => hang.kind))('%s is a sound document and holds paper on both sides', (kind) => {
    const design = withJoint(hung(kind));
    expect(designSchema.safeParse(design).success).toBe(true);
    const linkage = linkageOf(expand(design));
    expect(linkage.faults).toEqual([]);
    expect(linkage.links.some((link) => link.jointId === 'j1' || kind === 'hand')).toBe(true);
  });

  it('takes the slit inside the host, not its outline', () => {
    const joint = hung('tongue');
    expect('slot' in joint && middle(...joint.slot)).toEqual([20, 25]);
  });

  it('says what must be drawn first', () => {
    const plain: Part = {
      ...partOf('leaf'),
      lines: partOf('leaf').lines.filter((line) => line.process === 'cut'),
    };
    expect(newJoint('hand', 'j1', plain, panelPlan(plain).panels[0], partOf('sheet'))).toEqual({
      refused: 'Draw a score on Leaf first: that fold is what a hand turns.',
    });
    const bare: Part = { ...partOf('sheet'), lines: [] };
    for (const kind of ['pin', 'tongue', 'wrap', 'rest'] as const)
      expect(newJoint(kind, 'j1', plain, panelPlan(plain).panels[0], bare)).toHaveProperty('refused');
  });
});

describe('what a joint holds, in space', () => {
  const travel = (kind: HangKind, moved = false): { joint: Joint; motion: Sweep } => {
    const joint = moved ? movedByHand(hung(kind), 'Leaf', true) : hung(kind);
    const linkage = linkageOf(expand(withJoint(joint)));
    const opening = sweep(linkage);
    return { joint, motion: moved ? pullSweeps(linkage, opening)[0] : opening };
  };
  const PLACES = [0, 30, 90, 135, 180];

  it('the line of a half slot stays on the line of the host, whatever a hand turns', () => {
    const { joint, motion } = travel('cross', true);
    if (joint.kind !== 'cross') throw new Error('not crossed');
    for (const t of PLACES) {
      const [a, b] = joint.slot.map((p) => inSpace(motion, 'sheet', [0, 0], p, t));
      for (const p of joint.on)
        expect(offLine(a, b, inSpace(motion, 'leaf', joint.within, p, t))).toBeLessThan(1e-9);
    }
  });

  it('a tongue keeps the slot in its plane and comes out by what it is pushed', () => {
    const { joint, motion } = travel('tongue', true);
    if (joint.kind !== 'tongue') throw new Error('no tongue');
    for (const t of PLACES) {
      const slot = joint.slot.map((p) => inSpace(motion, 'sheet', [0, 0], p, t));
      const [o, x, y] = [
        [0, 0],
        [10, 0],
        [0, 10],
      ].map((p) => inSpace(motion, 'leaf', joint.within, p as unknown as Point, t));
      for (const p of slot) expect(offPlane(o, x, y, p)).toBeLessThan(1e-9);
      const on = joint.on.map((p) => inSpace(motion, 'leaf', joint.within, p, t));
      expect(offLine(slot[0], slot[1], on[0])).toBeCloseTo((20 * t) / 180, 9);
    }
  });

  it('an edge that stands on a line keeps in the plane of the host', () => {
    const { joint, motion } = travel('rest', true);
    if (joint.kind !== 'rest') throw new Error('does not rest');
    for (const t of PLACES) {
      const [o, x, y] = [
        [0, 0],
        [10, 0],
        [0, 10],
      ].map((p) => inSpace(motion, 'sheet', [0, 0], p as unknown as Point, t));
      for (const p of joint.on)
        expect(offPlane(o, x, y, inSpace(motion, 'leaf', joint.within, p, t))).toBeLessThan(1e-9);
    }
  });

  it('a pin lies on its slit', () => {
    const { joint, motion } = travel('pin');
    if (joint.kind !== 'pin') throw new Error('no pin');
    for (const t of PLACES) {
      const [a, b] = joint.slit.map((p) => inSpace(motion, 'sheet', [0, 0], p, t));
      expect(offLine(a, b, inSpace(motion, 'leaf', joint.at, joint.at, t))).toBeLessThan(1e-9);
    }
  });
});

describe('changes of a joint', () => {
  it('to another host takes a line that is there', () => {
    for (const kind of ['tongue', 'pin', 'wrap'] as const) {
      const moved = onHost(hung(kind), partOf('card'));
      const ends = 'slot' in moved ? moved.slot : 'slit' in moved ? moved.slit : undefined;
      expect(edgeUnder(straightEdges(partOf('card')), ends!)).toBeDefined();
      expect(linkageOf(expand(withJoint(moved))).faults).toEqual([]);
    }
  });

  it('along a line move what it holds by just so much, and keep its length', () => {
    const edge: Ends = [
      [3, 4],
      [33, 44],
    ];
    for (const along of [-7, 0, 12.5]) {
      const ends = stretchOn(edge, 24, along);
      expect(alongEdge(edge, ends)).toBeCloseTo(along, 9);
      expect(Math.hypot(ends[1][0] - ends[0][0], ends[1][1] - ends[0][1])).toBeCloseTo(24, 9);
      expect(offLine([3, 4, 0], [33, 44, 0], [...ends[0], 0])).toBeLessThan(1e-9);
    }
  });

  it('of the travel reach the stops and the drive', () => {
    expect(withTravel(hung('slide'), 44)).toMatchObject({ stops: { to: 44 }, drive: { to: 44 } });
    expect(withTravel(movedByHand(hung('slide'), 'Leaf', false), 44)).toMatchObject({
      stops: { to: 44 },
      drive: null,
    });
    expect(withTravel(movedByHand(hung('rest'), 'Leaf', true), 9)).toMatchObject({ drive: { to: 9 } });
    expect(withTravel(hung('hand'), 120)).toMatchObject({ drive: { to: 120 } });
    expect(HANGS.map((hang) => travelUnit(hang.kind))).toEqual([
      'deg',
      'mm',
      'mm',
      'mm',
      'deg',
      'mm',
      'mm',
      'deg',
    ]);
  });
});
