/** Struts and braces: a brace stops its fold at the angle it was made for, and lets it close; a strut holds it there only. */
import { expect, it } from 'vitest';
import { applyCommand } from '@hollow-finch/core/design/commands';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { linkageOf } from '@hollow-finch/core/motion/linkage';
import { sweep } from '@hollow-finch/core/motion/sweep';
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { strutEdit, strutLength, type StrutAsked } from './strutEdit.ts';

const USUAL: StrutAsked = { kind: 'brace', footMm: 40, angleDeg: 110, widthMm: 20, alongMm: 70, tabMm: 10 };

const card = (opening: 'side' | 'top' | 'gate'): Design =>
  newDesign('Braced', { closedWidthMm: 150, closedHeightMm: 140, opening });
const foldOf = (design: Design) => expand(design).parts[0].lines.find(({ role }) => role)!;

it('is as long as the chord of its angle', () => {
  for (const angleDeg of [30, 60, 90, 120, 180])
    expect(strutLength({ footMm: 35, angleDeg })).toBeCloseTo(
      Math.sqrt(2 * 35 * 35 * (1 - Math.cos((angleDeg * Math.PI) / 180))),
      9,
    );
});

it('closes from nothing to its angle as a brace, and stands at its angle only as a strut, in every form of card', () => {
  const random = seededRandom(14);
  for (const opening of ['side', 'top', 'gate'] as const)
    for (const kind of ['brace', 'strut'] as const)
      for (let round = 0; round < 4; round++) {
        const design = card(opening);
        const asked: StrutAsked = {
          ...USUAL,
          kind,
          angleDeg: 60 + Math.round(80 * random()),
          footMm: 20 + Math.round(20 * random()),
          widthMm: 14 + Math.round(10 * random()),
        };
        const made = strutEdit(design, 'card', foldOf(design).id, asked);
        if ('refused' in made) throw new Error(made.refused);
        const next = applyCommand(design, made.command).design;
        expect(readDesign(JSON.parse(JSON.stringify(next))).ok).toBe(true);
        const { components } = sweep(linkageOf(expand(next)));
        const closing = components.flatMap((each) => each.closing);
        expect(closing, `${opening} ${kind}`).toHaveLength(1);
        expect(closing[0]).toEqual(kind === 'brace' ? [0, asked.angleDeg] : [asked.angleDeg, asked.angleDeg]);
      }
});

it('is refused where a tab would lie on no panel, or the strip beyond the fold', () => {
  const design = card('side');
  const { id } = foldOf(design);
  expect(strutEdit(design, 'card', id, { ...USUAL, footMm: 148 })).toMatchObject({
    refused: expect.stringMatching(/wholly on one panel/),
  });
  expect(strutEdit(design, 'card', id, { ...USUAL, alongMm: 5 })).toMatchObject({
    refused: expect.stringMatching(/over an end/),
  });
});
