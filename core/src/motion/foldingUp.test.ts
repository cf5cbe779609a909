import { expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { reportOf } from '../checks/report.ts';
import { applyCommand } from '../design/commands.ts';
import { newDesign, type Design } from '../design/design.ts';
import { tableGutter } from '../design/frames.ts';
import type { Fold } from '../dieline/part.ts';
import type { Point } from '../geometry/point.ts';
import type { Vec3 } from '../geometry/rigid.ts';
import { dot3, minus3 } from '../geometry/vector.ts';
import { expand } from '../mechanisms/expand.ts';
import type { Params } from '../mechanisms/family.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { madePlain } from '../mechanisms/plain.ts';
import { STRUCTURES } from '../mechanisms/structures/all.ts';
import { stepAt } from './foldingUp.ts';
import { pointAt } from './pose.ts';

const empty: Design = { ...newDesign('Folding up'), base: { kind: 'structure', rootPartId: null } };
const table = tableGutter(empty);

const structure = (id: string, params: Params = {}): Design => {
  const family = STRUCTURES.find((each) => each.id === id)!;
  return { ...empty, instances: { m1: newInstance(family, table, 'm1', { params }) } };
};

/** A structure as what is drawn, with its folds changed. */
function refolded(id: string, change: (fold: Fold, lineId: string) => Fold): Design {
  const before = structure(id);
  const { command } = madePlain(before, before.instances.m1, () => ({ x: 0, y: 0 }));
  const { design } = applyCommand(before, command);
  const parts = Object.fromEntries(
    Object.entries(design.parts).map(([partId, part]) => {
      const lines = Object.entries(part.lines).map(([key, line]) => [
        key,
        line.fold ? { ...line, fold: change(line.fold, key) } : line,
      ]);
      return [partId, { ...part, lines: Object.fromEntries(lines) }];
    }),
  );
  return { ...design, parts };
}

/** With the steps of its folds changed. */
const restepped = (id: string, change: (stage: number) => number): Design =>
  refolded(id, (fold) => (fold.stage === undefined ? fold : { ...fold, stage: change(fold.stage) }));

const said = (design: Design, ...rules: string[]): string[] =>
  reportOf(checkContext(design))
    .findings.filter(({ rule }) => rules.includes(rule))
    .map(({ sentence }) => sentence);
const catchesIn = (design: Design) => said(design, 'catching', 'closing');

it('a tuck box folded in its own order catches nothing, drawn plainly or not', () => {
  expect(catchesIn(structure('tuckBox'))).toEqual([]);
  expect(catchesIn(restepped('tuckBox', (stage) => stage))).toEqual([]);
});

it('dust flaps that come after the floor is tucked in lie outside it, and the step is told', () => {
  // Steps of a tuck box: tube, lower dust flaps, floor, upper dust flaps, top.
  const swapped = restepped('tuckBox', (stage) => (stage === 1 ? 2 : stage === 2 ? 1 : stage));
  const found = catchesIn(swapped);
  expect(found).toHaveLength(2);
  for (const sentence of found)
    expect(sentence).toMatch(
      /^In step 3 of 5 the lower (left|right) flap of .* comes to the front of the lower end of .*, but is tucked in behind it/,
    );
});

it('what runs through something that rests is caught, and the step is told', () => {
  // The end comes down before the walls are up: the wall beside it is raised through it afterwards.
  const early = restepped('tray', (stage) => 1 - stage);
  const found = catchesIn(early);
  expect(found.length).toBeGreaterThan(0);
  expect(found[0]).toMatch(/^In step [12] of 2 .* (runs into|comes to)/);
});

it('a tongue that stands out, lies loose or misses its wall is told', () => {
  const bent = (deg: number) =>
    refolded('tuckBox', (fold, id) =>
      id.includes('upper tongue') ? { sense: fold.sense, restDeg: deg, stage: fold.stage } : fold,
    );
  expect(said(bent(70), 'closing')[0]).toMatch(/upper tongue of .* stands \d.* out before the front/);
  expect(said(bent(110), 'closing')[0]).toMatch(
    /upper tongue of .* lies \d.* away from the front .*nothing holds it/,
  );
  expect(said(bent(90), 'closing')).toEqual([]);
});

it('what turns in one step is turned in some order: all flaps at once are no catch', () => {
  expect(catchesIn(restepped('tuckBox', (stage) => Math.min(stage, 1)))).toEqual([]);
});

it('names the step at every place of the travel', () => {
  const design = structure('tuckBox');
  const expanded = expand(design);
  const [panel] = checkContext(design).sweep.linkage.panels;
  const names = expanded.stages.m1;
  for (let k = 0; k < names.length; k++) {
    const deg = 180 * (1 - (k + 0.5) / names.length);
    expect(stepAt(expanded, panel, deg)).toEqual({ step: k, of: names.length, name: names[k] });
  }
  expect(stepAt(expanded, panel, 180).step).toBe(0);
  expect(stepAt(expanded, panel, 0).step).toBe(names.length - 1);
});

it('straps hold on the hem inside, and stand up above the rim', () => {
  const design = structure('bag', { handles: 'straps', hemMm: 24 });
  expect(catchesIn(design)).toEqual([]);
  const family = STRUCTURES.find(({ id }) => id === 'bag')!;
  const clash = family.constraints({ ...family.defaults(table), handles: 'straps', clasp: true }, table, 0.3);
  expect(clash.filter(({ overMm }) => overMm > 0).map(({ reason }) => reason)).toEqual([
    "The clasp's flap would close onto the straps: holes for a hand, or no clasp.",
  ]);
  const { sweep, expanded } = checkContext(design);
  const straps = sweep.linkage.panels.filter(({ part }) => part.name.includes('strap'));
  expect(straps).toHaveLength(2);
  const front = sweep.linkage.panels.find(({ id }) => id === 'front')!;
  const at = (p: Point) => pointAt(sweep, front, p, 0);
  const { tallMm: h } = family.defaults(table) as { tallMm: number };
  const [foot, rim] = [at([0, 0]), at([0, h])];
  const up = minus3(rim, foot).map((v) => v / h) as unknown as Vec3;
  // Folded up, either strap reaches from its feet under the rim to well above it.
  for (const strap of straps) {
    const heights = strap.region.outer.map((p) => dot3(up, minus3(pointAt(sweep, strap, p, 0), foot)));
    expect(Math.min(...heights)).toBeCloseTo(h - 1 - 22, 6);
    expect(Math.max(...heights)).toBeGreaterThan(h + 15);
  }
  expect(expanded.faults).toEqual([]);
});
