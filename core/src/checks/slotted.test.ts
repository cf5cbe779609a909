import { expect, it } from 'vitest';
import { applyCommand } from '../design/commands.ts';
import { newDesign, type Design, type DraftedPart } from '../design/design.ts';
import { tableGutter } from '../design/frames.ts';
import type { DieLine } from '../dieline/part.ts';
import { shift } from '../geometry/isometry.ts';
import { placePath } from '../geometry/path.ts';
import { distance, type Point } from '../geometry/point.ts';
import { seededRandom } from '../geometry/random.ts';
import type { Params } from '../mechanisms/family.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { madePlain } from '../mechanisms/plain.ts';
import { STRUCTURES } from '../mechanisms/structures/all.ts';
import { checkContext } from './context.ts';
import { reportOf } from './report.ts';
import { slottedIn } from './slotted.ts';

const empty: Design = { ...newDesign('Slots'), base: { kind: 'structure', rootPartId: null } };

const structure = (id: string, params: Params): Design => {
  const family = STRUCTURES.find((each) => each.id === id)!;
  return { ...empty, instances: { m1: newInstance(family, tableGutter(empty), 'm1', { params }) } };
};

/** A structure as drawn parts, changed. */
function drawn(id: string, params: Params, change: (part: DraftedPart) => DraftedPart): Design {
  const before = structure(id, params);
  const { command } = madePlain(before, before.instances.m1, () => ({ x: 0, y: 0 }));
  const { design } = applyCommand(before, command);
  return {
    ...design,
    parts: Object.fromEntries(Object.entries(design.parts).map(([key, part]) => [key, change(part)])),
  };
}

const slotOf = (part: DraftedPart): string | undefined =>
  Object.values(part.marks).find(({ through }) => through)?.through;

const withSlot = (change: (line: DieLine) => DieLine) => (part: DraftedPart) => {
  const id = slotOf(part);
  return id === undefined ? part : { ...part, lines: { ...part.lines, [id]: change(part.lines[id]) } };
};

const said = (design: Design): string[] =>
  reportOf(checkContext(design))
    .findings.filter(({ rule }) => rule === 'closing' || rule === 'catching')
    .map(({ sentence }) => sentence);

/** How far a place lies on the left of a line, mm. */
const leftOf = ([a, b]: readonly [Point, Point], p: Point): number =>
  ((b[0] - a[0]) * (p[1] - a[1]) - (b[1] - a[1]) * (p[0] - a[0])) / distance(a, b);

const MADE: readonly (readonly [string, Params])[] = [
  ['wallet', { closing: 'tongue' }],
  ['wallet', { closing: 'lock' }],
  ['bag', { clasp: true, handles: 'none' }],
];

it('tongues of wallets and bags go through their slots at random sizes, drawn plainly or not', () => {
  const random = seededRandom(11);
  for (const [id, params] of MADE) {
    expect(said(structure(id, params))).toEqual([]);
    expect(said(drawn(id, params, (part) => part))).toEqual([]);
    for (let k = 0; k < 12; k++) {
      const sized: Params =
        id === 'wallet'
          ? {
              ...params,
              wideMm: 60 + 100 * random(),
              tallMm: 50 + 60 * random(),
              flapMm: 20 + 15 * random(),
              pieces: 1 + Math.floor(4 * random()),
            }
          : { ...params, wideMm: 80 + 100 * random(), tallMm: 120 + 80 * random() };
      const design = structure(id, sized);
      const [slotted] = slottedIn(checkContext(design).sweep);
      expect(slotted, JSON.stringify(sized)).toBeDefined();
      expect(said(design), JSON.stringify(sized)).toEqual([]);
      expect(slotted.beyondMm).toBeGreaterThan(9);
      // What bends through lies left of the line, and reaches as far from it as is said; the line is the slot, as long and on the panel.
      const { panel, line } = slotted.bent!;
      const off = checkContext(design).sweep.linkage.panels[panel].region.outer.map((p) => leftOf(line, p));
      expect(Math.max(...off)).toBeCloseTo(slotted.beyondMm, 1);
      expect(Math.min(...off)).toBeLessThan(-1);
      expect(distance(...line)).toBeCloseTo(slotted.slotMm, 1);
    }
  }
});

it('a slot moved along, across or away, made short, or taken out, is told', () => {
  for (const [id, params] of MADE) {
    const moved = (x: number, y: number) =>
      said(
        drawn(
          id,
          params,
          withSlot((line) => ({ ...line, path: placePath(shift(x, y), line.path) })),
        ),
      );
    expect(moved(6, 0)[0]).toMatch(/stands \d.* over its end: it does not go in/);
    expect(moved(0, 7)[0]).toMatch(/wide where its slot of .* is, and stands .* it does not go in/);
    expect(moved(0, -8)[0]).toMatch(/goes only .* through its slot: it slips out/);
    expect(moved(0, -30)[0]).toMatch(/does not lie over the slot/);
    const short = withSlot((line) => {
      const xs = [line.path.start, ...line.path.segments.map(({ to }) => to)].map(([x]) => x);
      const centre = (Math.min(...xs) + Math.max(...xs)) / 2;
      const drawnIn = (x: number) => centre + 0.6 * (x - centre);
      return {
        ...line,
        path: {
          start: [drawnIn(line.path.start[0]), line.path.start[1]],
          segments: line.path.segments.map(({ to: [x, y] }) => ({ kind: 'line', to: [drawnIn(x), y] })),
        },
      };
    });
    expect(said(drawn(id, params, short))[0]).toMatch(/it does not go in/);
    const without = drawn(id, params, (part) => {
      const slot = slotOf(part);
      if (slot === undefined) return part;
      const { [slot]: _, ...lines } = part.lines;
      return { ...part, lines };
    });
    expect(said(without)[0]).toMatch(/goes through a slot that is there no more/);
  }
});

it('a flap that stands away from its slot is told, and a lock much too wide', () => {
  const open = drawn('wallet', { closing: 'tongue' }, (part) => ({
    ...part,
    lines: Object.fromEntries(
      Object.entries(part.lines).map(([key, line]) => [
        key,
        key.endsWith('fold-flap') && line.fold ? { ...line, fold: { ...line.fold, restDeg: 165 } } : line,
      ]),
    ),
  }));
  expect(said(open)[0]).toMatch(/lies \d.* away from the slot that it goes through/);
});

it('a locking tongue is wider beyond its slot than the slot is, and a plain one is not', () => {
  const widest = (closing: string) => {
    const [{ widestMm, slotMm }] = slottedIn(checkContext(structure('wallet', { closing })).sweep);
    return widestMm / slotMm;
  };
  expect(widest('tongue')).toBeLessThan(1);
  expect(widest('lock')).toBeGreaterThan(1.1);
  expect(widest('lock')).toBeLessThan(1.3);
});
