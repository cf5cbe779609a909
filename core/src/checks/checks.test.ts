/** Each rule on a design with exactly its fault, at a size known beforehand; and on a sound design, where all keep silent. */
import { describe, expect, it } from 'vitest';
import { applyCommand, type Command } from '../design/commands.ts';
import { newDesign, type Design, type DraftedPart, type Instance } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { workOf, type DieLine, type Layer } from '../dieline/part.ts';
import { circle, polyline, straight, type Path } from '../geometry/path.ts';
import { seededRandom } from '../geometry/random.ts';
import { shift, turn } from '../geometry/isometry.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { step } from '../mechanisms/step.ts';
import { vfold } from '../mechanisms/vfold.ts';
import type { Family, Params } from '../mechanisms/family.ts';
import { checkContext } from './context.ts';
import { runChecks } from './runChecks.ts';
import { leastWidth } from './glueLanding.ts';
import { overlapDepth } from './tabsColliding.ts';
import { websOf } from './thinWeb.ts';

const base = newDesign('Checks', { closedWidthMm: 148, closedHeightMm: 105, envelopeId: 'c5' });
const gutter = cardGutter(base);
const instance = (id: string, family: Family, params: Params = {}): Instance =>
  newInstance(family, gutter, id, { params });
const withInstances = (...list: Instance[]): Design => ({
  ...base,
  instances: Object.fromEntries(list.map((i) => [i.id, i])),
});
const rect = (x: number, y: number, w: number, h: number): Path =>
  polyline(
    [
      [x, y],
      [x + w, y],
      [x + w, y + h],
      [x, y + h],
    ],
    true,
  );
const line = (id: string, layer: Layer, path: Path): DieLine => ({ id, ...workOf(layer), path });
const drafted = (id: string, lines: DieLine[], rest: Partial<DraftedPart> = {}): DraftedPart => ({
  id,
  name: id,
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  lines: Object.fromEntries(lines.map((l) => [l.id, l])),
  glueZones: {},
  marks: {},
  ...rest,
});
const withPart = (part: DraftedPart, design = base): Design => ({
  ...design,
  parts: { ...design.parts, [part.id]: part },
});
const findings = (design: Design) => runChecks(checkContext(design));
/** Applies a finding's mend and gives back what is still found by the same rule. */
function mended(design: Design, command: Command, rule: string) {
  return findings(applyCommand(design, command).design).filter((f) => f.rule === rule);
}

const sound = withInstances(
  instance('dome', step, { alongMm: 58, widthMm: 40 }),
  instance('scope', vfold, { alongMm: 12, leftFootDeg: 40, panelDeg: 45, footMm: 45, creaseMm: 45 }),
);

describe('checks', () => {
  it('find nothing on a sound card', () => {
    expect(findings(sound).map((f) => f.sentence)).toEqual([]);
  });

  it('open outline: the gap, once, and joining it mends it', () => {
    const part = drafted('Open', [
      line(
        'a',
        'cut',
        polyline([
          [0, 0.4],
          [0, 40],
          [40, 40],
        ]),
      ),
      line(
        'b',
        'cut',
        polyline([
          [40, 40],
          [40, 0],
          [0, 0],
        ]),
      ),
    ]);
    const found = findings(withPart(part)).filter((f) => f.rule === 'openOutline');
    expect(found).toHaveLength(1);
    expect(found[0]).toMatchObject({ measured: expect.closeTo(0.4, 9), places: [{ partId: 'Open' }] });
    expect(mended(withPart(part), found[0].mend!.command, 'openOutline')).toEqual([]);
    const wide = drafted('Wide', [
      line(
        'a',
        'cut',
        polyline([
          [0, 9],
          [0, 40],
          [40, 40],
          [40, 0],
          [0, 0],
        ]),
      ),
    ]);
    expect(findings(withPart(wide)).find((f) => f.rule === 'openOutline')!.mend).toBeNull();
  });

  it('doubled line: how long, and taking one away mends it', () => {
    const part = drafted('Double', [
      line('a', 'cut', rect(0, 0, 40, 40)),
      line('b', 'cut', straight([0, 10], [0, 30])),
      line('c', 'valley', straight([10, 0], [10, 40])),
    ]);
    const found = findings(withPart(part)).filter((f) => f.rule === 'doubledLine');
    expect(found.map((f) => f.measured)).toEqual([expect.closeTo(20, 6)]);
    expect(found[0].mend!.command).toMatchObject({ do: 'line', id: 'b', value: null });
    expect(mended(withPart(part), found[0].mend!.command, 'doubledLine')).toEqual([]);
  });

  it('thin web: exact width between straight and curved cuts, never at corners or along one curve', () => {
    const part = (gap: number) =>
      drafted('Web', [
        line('o', 'cut', rect(0, 0, 60, 60)),
        line('h', 'cut', circle([30, 10 + gap], 10)),
        line('s', 'cut', straight([10, 50], [50, 50])),
      ]);
    const widths = (gap: number) =>
      findings(withPart(part(gap)))
        .filter((f) => f.rule === 'thinWeb')
        .map((f) => f.measured);
    expect(widths(1.2)).toEqual([expect.closeTo(1.2, 1)]);
    expect(widths(2.3)).toEqual([]);
    const plain = drafted('Corner', [
      line(
        'o',
        'cut',
        polyline(
          [
            [0, 0],
            [60, 0],
            [3, 9],
          ],
          true,
        ),
      ),
      line('h', 'cut', circle([20, 3], 0.2)),
    ]);
    const corner = { ...plain, stockId: 'slate-240', lines: { o: plain.lines.o } };
    expect(findings(withPart(corner)).filter((f) => f.rule === 'thinWeb')).toEqual([]);
  });

  it('thin web agrees with brute force on random slits', () => {
    const random = seededRandom(8);
    for (let i = 0; i < 20; i++) {
      const y = 10 + random() * 30;
      const gap = 0.3 + random() * 3;
      const x = random() * 10;
      const part = {
        id: 'p',
        name: 'p',
        stockId: 'slate-240',
        grainRad: null,
        quantity: 1,
        glueZones: [],
        marks: [],
        lines: [
          line('o', 'cut', rect(-20, -10, 100, 80)),
          line('a', 'cut', straight([x, y], [x + 30, y])),
          line('b', 'cut', straight([x + 5, y + gap], [x + 40, y + gap])),
        ],
      };
      const webs = websOf(part, 2);
      if (gap < 2) expect(Math.min(...webs.map((w) => w.widthMm))).toBeCloseTo(gap, 9);
      else expect(webs).toEqual([]);
    }
  });

  it('glue tab: over the edge, across the fold, too narrow (and widened)', () => {
    const tab = (dx: number, size = 10): Design => {
      const part = drafted('Tag', [line('o', 'cut', rect(0, 0, size, 12))], {
        glueZones: {
          z: {
            id: 'z',
            outline: [
              [0, 0],
              [size, 0],
              [size, 12],
              [0, 12],
            ],
            face: 'back',
            kind: 'glue',
          },
        },
      });
      const design = withPart(part);
      return {
        ...design,
        joints: {
          j: {
            id: 'j',
            kind: 'glue',
            partId: 'Tag',
            zoneId: 'z',
            hostPartId: 'card',
            placement: shift(dx, 40),
            mate: null,
          },
        },
      };
    };
    const keys = (design: Design) =>
      findings(design)
        .filter((f) => f.rule === 'glueLanding')
        .map((f) => [f.key, f.measured]);
    expect(keys(tab(50))).toEqual([]);
    expect(keys(tab(-3))).toEqual([['glueLanding:fold:j', expect.closeTo(3, 6)]]);
    expect(keys(tab(140))).toEqual([['glueLanding:edge:j', expect.closeTo(2, 6)]]);
    expect(keys(tab(50, 4))).toEqual([['glueLanding:width:Tag', expect.closeTo(4, 6)]]);
    const narrow = withInstances(instance('m', step, { tabMm: 3 }));
    const found = findings(narrow).filter((f) => f.rule === 'glueLanding');
    // Both tabs of the strip are one finding, with both places.
    expect(found.map((f) => f.places.length)).toEqual([2]);
    expect(mended(narrow, found[0].mend!.command, 'glueLanding')).toEqual([]);
    expect(
      leastWidth([
        [0, 0],
        [10, 0],
        [8, 3],
        [2, 3],
      ]),
    ).toBeCloseTo(3, 9);
  });

  it('tabs that lie on each other: by how much', () => {
    const design = withInstances(
      instance('a', step, { alongMm: 10, widthMm: 40 }),
      instance('b', step, { alongMm: 45, widthMm: 40 }),
    );
    const found = findings(design).filter((f) => f.rule === 'tabsColliding');
    // The tabs are drawn in by 2 mm at either end: bodies overlap 5 mm at the fold.
    expect(found.map((f) => f.measured)).toEqual([expect.closeTo(5, 0), expect.closeTo(5, 0)]);
    expect(
      overlapDepth(
        [
          [0, 0],
          [4, 0],
          [4, 4],
          [0, 4],
        ],
        [
          [3, 1],
          [9, 1],
          [9, 3],
          [3, 3],
        ],
      ),
    ).toBeCloseTo(1, 9);
  });

  it('mating edges: difference in length, and lying off', () => {
    const part = (length: number, dx: number): Design => {
      const p = drafted(
        'Wall',
        [line('o', 'cut', rect(0, 0, 30, length)), line('e', 'valley', straight([10, 0], [10, length]))],
        {
          glueZones: {
            z: {
              id: 'z',
              outline: [
                [0, 0],
                [10, 0],
                [10, length],
                [0, length],
              ],
              face: 'back',
              kind: 'glue',
            },
          },
        },
      );
      return {
        ...withPart(p, sound),
        joints: {
          j: {
            id: 'j',
            kind: 'glue',
            partId: 'Wall',
            zoneId: 'z',
            hostPartId: 'card',
            placement: shift(-46 + dx, 58),
            mate: { lineId: 'e', hostLineId: 'dome/landing-left' },
          },
        },
      };
    };
    const found = (design: Design) =>
      findings(design)
        .filter((f) => f.rule === 'matingEdges')
        .map((f) => f.measured);
    expect(found(part(40, 0))).toEqual([]);
    expect(found(part(41, 0))).toEqual([expect.closeTo(1, 9)]);
    expect(found(part(40, 0.6))).toEqual([expect.closeTo(0.6, 9)]);
  });

  it('closed overhang: by the closed form, and the smallest change that clears it, verified', () => {
    // Reach a + p = 70 + 90 on a card 148 deep: 12 mm.
    const design = withInstances(instance('m', step, { leftMm: 70, rightMm: 90, parallel: true }));
    const found = findings(design).filter((f) => f.rule === 'closedOverhang');
    expect(found.length).toBeGreaterThan(0);
    for (const f of found) expect(f.measured).toBeCloseTo(12, 3);
    expect(found[0].sentence).toMatch(/12 mm over the open edge/);
    expect(mended(design, found[0].mend!.command, 'closedOverhang')).toEqual([]);
  });

  it('envelope: what is lacking, bulk and clearance counted, and the next one that fits', () => {
    const design = { ...base, brief: { ...base.brief, envelopeId: 'c6' }, instances: {} };
    const context = checkContext({ ...design, brief: { ...design.brief, envelopeId: 'c7' } });
    const [found] = runChecks(context).filter((f) => f.rule === 'envelopeFit');
    // 148 + 3 against 114: two layers of card (0.38 mm each) are what the envelope is made for.
    expect(found.measured).toBeCloseTo(148 + 3 - 114, 6);
    expect(found.mend!.label).toBe('Take C6');
    expect(mended(context.design, found.mend!.command, 'envelopeFit')).toEqual([]);
    expect(findings(design).filter((f) => f.rule === 'envelopeFit')).toEqual([]);
  });

  it('motion: contradicting glue, glue on nothing, a strip too short, a loose flap', () => {
    const strip = (rightShift: number, p = 30): Design => {
      const part = drafted(
        'Strip',
        [
          line('o', 'cut', rect(-10, 0, 20 + 2 * p, 40)),
          line('f1', 'valley', straight([0, 0], [0, 40])),
          line('f2', 'mountain', straight([p, 0], [p, 40])),
          line('f3', 'valley', straight([2 * p, 0], [2 * p, 40])),
        ],
        {
          glueZones: {
            a: {
              id: 'a',
              outline: [
                [-10, 0],
                [0, 0],
                [0, 40],
                [-10, 40],
              ],
              face: 'back',
              kind: 'glue',
            },
            b: {
              id: 'b',
              outline: [
                [2 * p, 0],
                [2 * p + 10, 0],
                [2 * p + 10, 40],
                [2 * p, 40],
              ],
              face: 'back',
              kind: 'glue',
            },
          },
        },
      );
      const glue = (id: string, zoneId: string, dx: number) => ({
        id,
        kind: 'glue' as const,
        partId: 'Strip',
        zoneId,
        hostPartId: 'card',
        placement: shift(dx, 20),
        mate: null,
      });
      return {
        ...withPart(part),
        joints: { g1: glue('g1', 'a', -30), g2: glue('g2', 'b', 30 - 2 * p + rightShift) },
      };
    };
    const said = (design: Design) =>
      findings(design)
        .filter((f) => f.rule === 'motionFaults')
        .map((f) => f.sentence)
        .join(' ');
    expect(said(strip(0))).toBe('');
    expect(said(strip(0, 20))).toMatch(/moves only from \d+° to \d+°/);
    expect(said(strip(200))).toMatch(/glued to a place off Card/);
    const twice = strip(0);
    const glued = {
      ...twice,
      joints: { ...twice.joints, g3: { ...twice.joints.g1, id: 'g3', placement: shift(-30.5, 20) } },
    };
    expect(said(glued)).toMatch(/two places that differ by 0.50 mm/);
    const turned = {
      ...twice,
      joints: { ...twice.joints, g1: { ...twice.joints.g1, placement: turn(0.3, -30, 20) } },
    };
    expect(said(turned)).toMatch(/bend by/);
    const flap = strip(0);
    expect(said({ ...flap, joints: { g1: flap.joints.g1 } })).toMatch(/not held: 3 folds stay free/);
  });

  it('report a mechanism that this version does not have, and keep the rest', () => {
    const design = {
      ...sound,
      instances: { ...sound.instances, odd: { ...instance('odd', step), family: 'moebius' } },
    };
    const found = findings(design);
    expect(found.map((f) => f.sentence)).toEqual([expect.stringMatching(/no mechanism called "moebius"/)]);
  });
});
