import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { cardGutter } from '@hollow-finch/core/design/frames';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance } from '@hollow-finch/core/mechanisms/instance';
import { step } from '@hollow-finch/core/mechanisms/step';
import { packing } from '@hollow-finch/core/sheets/packing';
import { packPlan, toSheetPlan } from '@hollow-finch/core/sheets/plan';
import { planFaults } from '@hollow-finch/core/sheets/testing/planFaults';
import { expect, it } from 'vitest';
import { movedByHand, pieceBox, tryingOf, turnedPlacement, type PieceRef } from './handMoves.ts';

const card = newDesign('Hand', { closedWidthMm: 70, closedHeightMm: 60 });
const bare: Design = {
  ...card,
  settings: { ...card.settings, copies: 3 },
  instances: { m1: newInstance(step, cardGutter(card), 'm1') },
};
const wanted = packPlan(expand(bare), bare.settings, 1, 1);
const design: Design = {
  ...bare,
  sheetPlan: toSheetPlan(
    wanted,
    wanted.requests.map(({ request }) => {
      const found = [...packing(request)].map(({ best }) => best).filter((best) => best !== undefined);
      return found[found.length - 1]!;
    }),
    1,
  ),
};
const refs = (now: Design): PieceRef[] =>
  now.sheetPlan!.sheets.flatMap(({ pieces }, sheet) =>
    pieces.map(({ partId, copy }) => ({ sheet, partId, copy })),
  );
const countOf = (now: Design) => refs(now).length;

it('wherever a piece is dropped the sheets stay valid, and no piece is lost', () => {
  let now = design;
  expect(planFaults(now)).toEqual([]);
  const total = countOf(now);
  let [moves, told] = [0, 0];
  for (let i = 0; i < 40; i++) {
    const all = refs(now);
    const ref = all[(7 * i) % all.length];
    const { placement } = now.sheetPlan!.sheets[ref.sheet].pieces.find(
      ({ partId, copy }) => partId === ref.partId && copy === ref.copy,
    )!;
    const place = {
      ...placement,
      dx: placement.dx + 9 * ((i % 7) - 3),
      dy: placement.dy + 11 * ((i % 5) - 2),
    };
    const { plan, said } = movedByHand(now, ref, place);
    if (said) told++;
    expect(said === null).toBe(tryingOf(now, ref)(place) === undefined);
    if (!plan) continue;
    moves++;
    now = { ...now, sheetPlan: plan };
    expect(planFaults(now)).toEqual([]);
    expect(countOf(now)).toBe(total);
  }
  expect(moves).toBeGreaterThan(5);
  expect(told).toBeGreaterThan(5);
});

it('is told by the names of parts why it does not lie where it was dropped', () => {
  const ref = refs(design).find(({ partId }) => partId === 'm1/strip')!;
  const { said } = movedByHand(design, ref, shift(-500, 0));
  expect(said).toMatch(/^It does not fit there: Step .*\(\d\) lies [\d.]+ mm outside the printable area/);
});

it('goes to another sheet, or to a new one; a sheet that is left empty is taken away', () => {
  const [ref] = refs(design);
  const count = design.sheetPlan!.sheets.length;
  const out = movedByHand(design, ref, shift(200, 60), count);
  const now: Design = { ...design, sheetPlan: out.plan! };
  expect(now.sheetPlan!.sheets).toHaveLength(count + 1);
  expect(out.ref.sheet).toBe(count);
  expect(now.sheetPlan!.sheets[count].stockId).toBe(design.sheetPlan!.sheets[0].stockId);
  expect(planFaults(now)).toEqual([]);
  const back = movedByHand(now, out.ref, shift(100, 100), 0);
  expect(back.plan!.sheets).toHaveLength(count);
  expect(planFaults({ ...now, sheetPlan: back.plan! })).toEqual([]);
});

it('is turned about its middle, by as much as its grain lets it', () => {
  for (const ref of refs(design)) {
    const before = pieceBox(design, ref)!;
    const placement = turnedPlacement(design, ref)!;
    const sheets = design.sheetPlan!.sheets.map((sheet, i) =>
      i === ref.sheet
        ? {
            ...sheet,
            pieces: sheet.pieces.map((piece) =>
              piece.partId === ref.partId && piece.copy === ref.copy ? { ...piece, placement } : piece,
            ),
          }
        : sheet,
    );
    const after = pieceBox({ ...design, sheetPlan: { ...design.sheetPlan!, sheets } }, ref)!;
    expect(after.minX + after.maxX).toBeCloseTo(before.minX + before.maxX, 6);
    expect(after.minY + after.maxY).toBeCloseTo(before.minY + before.maxY, 6);
    const quarter = Math.abs(after.maxX - after.minX - (before.maxX - before.minX)) > 1e-6;
    const part = expand(design).parts.find(({ id }) => id === ref.partId)!;
    if (part.grainRad !== null) expect(quarter).toBe(false);
  }
});
