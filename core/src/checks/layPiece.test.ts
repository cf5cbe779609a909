/** Pieces on every panel of every family that the opening moves: laid at their largest legal size, put on each panel, held. */
import { describe, expect, it } from 'vitest';
import { applyCommand } from '../design/commands.ts';
import { gluesOf, newDesign, type Design, type GlueJoint } from '../design/design.ts';
import { readDesign } from '../design/schema.ts';
import { workOf } from '../dieline/part.ts';
import { panelPlan } from '../dieline/panels.ts';
import { flatten, pathLength } from '../geometry/path.ts';
import { ringArea } from '../geometry/polygon.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { FAMILIES } from '../mechanisms/registry.ts';
import { SHAPES, shapeOutline, type Shape } from '../mechanisms/shapes.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import { USUAL_STORE } from '../stock/store.ts';
import { checkContext } from './context.ts';
import { gluedBy, layPiece, upright } from './layPiece.ts';
import { pieceOnEachPanel } from './pieceCopies.ts';
import { scaledPart } from './pieceScale.ts';
import { reportOf } from './report.ts';

const drawn = (shape: Shape) => ({
  name: 'Star',
  stockId: 'brass-foil',
  lines: { o: { id: 'o', ...workOf('cut'), path: shapeOutline(shape) } },
});
const findings = (design: Design) => reportOf(checkContext(design)).findings;

describe('shapes', () => {
  it.each(SHAPES)('%s is closed, upright about the origin, 40 mm in its larger measure', (shape) => {
    const path = shapeOutline(shape);
    const points = flatten(path);
    expect(points[0]).toEqual(points[points.length - 1]);
    expect(Math.abs(ringArea(points))).toBeGreaterThan(300);
    expect(pathLength(path)).toBeLessThan(200);
    const [x, y] = [0, 1].map((k) => points.map((p) => p[k]));
    const size = Math.max(Math.max(...x) - Math.min(...x), Math.max(...y) - Math.min(...y));
    expect(Math.abs(size - 40)).toBeLessThan(4.1);
    const part = { id: 's', name: 's', stockId: 'x', grainRad: null, quantity: 1, glueZones: [], marks: [] };
    const plan = panelPlan({ ...part, lines: [{ id: 'o', ...workOf('cut'), path }] });
    expect([plan.panels.length, plan.faults.length]).toEqual([1, 0]);
  });
});

/** The panels of a mechanism that the opening moves, as part and panel. */
function panelsToBuildOn(design: Design): { partId: string; panelId: string }[] {
  const { panels } = linkageOf(expand(design));
  return panels
    .filter(({ part, id }) => (part.id !== 'card' || id.includes('/')) && !id.startsWith('tab-'))
    .map(({ part, id }) => ({ partId: part.id, panelId: id }));
}

describe('a piece on each panel of each family that the opening moves', () => {
  const opened = FAMILIES.filter(({ on, id }) => on === 'fold' && id !== 'insert' && id !== 'strut');
  const cases = (['side', 'top', 'gate'] as const).flatMap((opening) =>
    opened.map((family) => [opening, family.id, family] as const),
  );
  it.each(cases)('%s, %s: never a finding at its largest size', (opening, _, family) => {
    const base = newDesign('Pieces', { opening, closedWidthMm: 170, closedHeightMm: 140 });
    const host = usualHost(family, expand(base).gutters);
    const design: Design = { ...base, instances: { m: newInstance(family, host, 'm') } };
    const before = findings(design).map(({ key }) => key);
    let laid = 0;
    for (const { partId, panelId } of panelsToBuildOn(design)) {
      const piece = layPiece(design, partId, panelId, drawn('heart'));
      if ('refused' in piece) {
        expect(piece.refused).toMatch(/no room|too small/);
        continue;
      }
      const made = applyCommand(design, piece.command).design;
      expect(readDesign(JSON.parse(JSON.stringify(made))).ok).toBe(true);
      const found = findings(made).filter(
        ({ key, rule }) => !before.includes(key) && rule !== 'smallParts' && rule !== 'thinWeb',
      );
      expect(
        found.map(({ sentence }) => sentence),
        `${partId} ${panelId}`,
      ).toEqual([]);
      laid++;
    }
    expect(laid).toBeGreaterThan(0);
  });

  it('stands beyond its support without a finding, and with one when it is 2 % larger than the largest', () => {
    const family = FAMILIES.find(({ id }) => id === 'step')!;
    const base = newDesign('Pieces', { closedWidthMm: 170, closedHeightMm: 140 });
    const host = usualHost(family, expand(base).gutters);
    const design: Design = { ...base, instances: { m: newInstance(family, host, 'm') } };
    for (const { partId, panelId } of panelsToBuildOn(design)) {
      const piece = layPiece(design, partId, panelId, drawn('rectangle'));
      if ('refused' in piece) throw new Error(piece.refused);
      const made = applyCommand(design, piece.command).design;
      const { room, scale } = largest(made, piece.partId);
      const at = (share: number) => ({
        ...made,
        parts: {
          ...made.parts,
          [piece.partId]: scaledPart(made.parts[piece.partId], room, share * scale),
        },
      });
      expect(findings(at(0.999)).map(({ sentence }) => sentence)).toEqual([]);
      expect(findings(at(1.02)).length).toBeGreaterThan(0);
    }
  });
});

/** The largest legal scale of a piece where it lies, found by trying: a second way to it. */
function largest(design: Design, partId: string) {
  const centre: [number, number] = [0, 0];
  let [good, bad] = [1, 6];
  while (bad - good > 0.002) {
    const middle = (good + bad) / 2;
    const part = scaledPart(design.parts[partId], centre, middle);
    if (findings({ ...design, parts: { ...design.parts, [partId]: part } }).length === 0) good = middle;
    else bad = middle;
  }
  return { room: centre, scale: good };
}

describe('a laid piece', () => {
  const step = FAMILIES.find(({ id }) => id === 'step')!;
  const base = newDesign('Piece', { closedWidthMm: 160, closedHeightMm: 120 });
  const design: Design = {
    ...base,
    instances: { m: newInstance(step, usualHost(step, expand(base).gutters), 'm') },
  };
  const [first] = panelsToBuildOn(design);
  const piece = layPiece(design, first.partId, first.panelId, drawn('star'));
  if ('refused' in piece) throw new Error(piece.refused);
  const made = applyCommand(design, piece.command).design;
  const joint = Object.values(made.joints)[0];

  it('is anchored to its panel: it follows when the mechanism is moved', () => {
    expect(joint).toMatchObject({ as: 'piece', onPanel: first.panelId });
    const { m } = made.instances;
    const moved: Design = {
      ...made,
      instances: { m: { ...m, params: { ...m.params, alongMm: Number(m.params.alongMm) + 7 } } },
    };
    const placed = (d: Design) => gluesOf(expand(d).joints).find(({ id }) => id === joint.id)!.placement;
    expect(expand(moved).faults).toEqual([]);
    expect(placed(moved)).toEqual(placed(made));
  });

  it('whose panel is gone says so', () => {
    const gone = { ...made, joints: { [joint.id]: { ...joint, onPanel: 'elsewhere' } } } as Design;
    expect(expand(gone).faults[0].message).toMatch(/is not there any more: glue it to another panel/);
  });

  it('points up for the reader on every fold', () => {
    for (const opening of ['side', 'top', 'gate'] as const) {
      const card = newDesign('Up', { opening, closedWidthMm: 160, closedHeightMm: 120 });
      const motion = sweep(linkageOf(expand(card)));
      motion.linkage.panels.forEach((_, i) => expect(upright(motion, i)).toBeCloseTo(Math.PI / 2, 9));
    }
  });

  it('is put on each other panel, as its own part, and comes back by one undo', () => {
    const each = pieceOnEachPanel(made, joint.id);
    if ('refused' in each) throw new Error(each.refused);
    const { design: all, inverse } = applyCommand(made, each.command);
    expect(Object.keys(all.parts)).toHaveLength(1 + each.count);
    expect(new Set(Object.values(all.parts).map(({ name }) => name)).size).toBe(1 + each.count);
    expect(expand(all).faults).toEqual([]);
    expect(applyCommand(all, inverse).design).toEqual(made);
  });

  it('can be glued by one end only: a band that lies on the panel', () => {
    const whole = Math.abs(ringArea(gluedBy(made, joint.id, 'all', 8)!));
    for (const by of ['low', 'high', 'left', 'right'] as const) {
      const ring = gluedBy(made, joint.id, by, 8)!;
      expect(Math.abs(ringArea(ring))).toBeLessThan(whole);
      const [x, y] = [0, 1].map((k) => ring.map((p) => p[k]));
      const [w, h] = [Math.max(...x) - Math.min(...x), Math.max(...y) - Math.min(...y)];
      expect(by === 'low' || by === 'high' ? h : w).toBeLessThanOrEqual(8 + 1e-9);
    }
  });

  it('that lies off its support, or is held by a sliver, says so', () => {
    const shifted = (dx: number): Design => ({
      ...made,
      joints: {
        [joint.id]: { ...joint, placement: { ...(joint as { placement: object }).placement, dx } },
      } as Design['joints'],
    });
    const sentences = findings(shifted(500)).map(({ sentence }) => sentence);
    expect(sentences.some((words) => /lies off/.test(words))).toBe(true);
  });

  it('raised by a pad makes the closed card thicker by the pad', () => {
    const bulk = (d: Design) => reportOf(checkContext(d)).closed.bulkMm;
    const raised = { ...made, joints: { [joint.id]: { ...joint, padMm: 2 } } } as Design;
    expect(bulk(raised) - bulk(made)).toBeCloseTo(2, 6);
  });

  it('raised by pads of the store, as thick as the design’s own store says, so many on each other', () => {
    const bulk = (d: Design) => reportOf(checkContext(d)).closed.bulkMm;
    const pads = (layers: number, thicknessMm?: number): Design => ({
      ...made,
      ...(thicknessMm === undefined
        ? {}
        : {
            store: {
              hardware: { thick: { ...USUAL_STORE.hardware['foam-pad-2'], id: 'thick', thicknessMm } },
            },
          }),
      joints: {
        [joint.id]: {
          ...joint,
          padMm: 9,
          pad: { hardwareId: thicknessMm === undefined ? 'foam-pad-1' : 'thick', layers },
        } as GlueJoint,
      },
    });
    expect(bulk(pads(1)) - bulk(made)).toBeCloseTo(1, 6);
    expect(bulk(pads(3)) - bulk(made)).toBeCloseTo(3, 6);
    expect(bulk(pads(2, 1.7)) - bulk(made)).toBeCloseTo(3.4, 6);
  });
});
