/** Marks on paper: inside what covers them, on the paper of the host, following the piece; on fronts only. */
import { describe, expect, it } from 'vitest';
import { layPiece } from '../checks/layPiece.ts';
import { applyCommand } from '../design/commands.ts';
import { gluesOf, newDesign, type Design, type GlueJoint } from '../design/design.ts';
import { readDesign } from '../design/schema.ts';
import { panelPlan } from '../dieline/panels.ts';
import { workOf, type DieLine } from '../dieline/part.ts';
import { writePartSvg } from '../formats/svgWrite.ts';
import { PROFILES } from '../cutting/profile.ts';
import { inverse, place } from '../geometry/isometry.ts';
import { flatten } from '../geometry/path.ts';
import { insideRegion } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { movedOnHost, onHostPlane } from './anchored.ts';
import { expand } from './expand.ts';
import type { PaperMark } from './paperMarks.ts';
import { SHAPES, shapeOutline } from './shapes.ts';

const ALL: PaperMark[] = ['outline', 'ticks', 'glue', 'up'];

function withPiece(shape: (typeof SHAPES)[number]): Design {
  const base = newDesign('Marks', { closedWidthMm: 150, closedHeightMm: 110 });
  const lines = { o: { id: 'o', ...workOf('cut'), path: shapeOutline(shape) } };
  const laid = layPiece(base, 'card', 'right', { name: 'Piece', stockId: 'ember-160', lines });
  if ('refused' in laid) throw new Error(laid.refused);
  const made = applyCommand(base, laid.command).design;
  const [joint] = gluesOf(Object.values(made.joints));
  return { ...made, joints: { [joint.id]: { ...joint, marks: ALL } } };
}

const marksOf = (design: Design): DieLine[] =>
  expand(design)
    .parts.find(({ id }) => id === 'card')!
    .lines.filter(({ id }) => id.startsWith('mark-'));
const glued = (design: Design): GlueJoint => gluesOf(Object.values(design.joints))[0];

describe('marks for a piece', () => {
  it.each(SHAPES)('%s: are covered by it, on the card’s paper, wherever it is moved', (shape) => {
    const random = seededRandom(4);
    let design = withPiece(shape);
    for (let k = 0; k < 6; k++) {
      const marks = marksOf(design);
      expect(new Set(marks.map(({ id }) => id.split('-')[2]))).toEqual(new Set(ALL));
      const { parts } = expand(design);
      const piece = panelPlan(parts.find(({ id }) => id === glued(design).partId)!).panels.map(
        (p) => p.region,
      );
      const card = panelPlan(parts.find(({ id }) => id === 'card')!).panels.map((p) => p.region);
      const back = inverse(onHostPlane(design, glued(design)));
      for (const { path, process } of marks) {
        expect(process).toBe('mark');
        for (const p of flatten(path)) {
          // A hundredth for flattened curves.
          const near = [
            p,
            [p[0] + 0.02, p[1]],
            [p[0] - 0.02, p[1]],
            [p[0], p[1] + 0.02],
            [p[0], p[1] - 0.02],
          ] as const;
          expect(near.some((q) => card.some((region) => insideRegion(q, region)))).toBe(true);
          expect(near.some((q) => piece.some((region) => insideRegion(place(back, q), region)))).toBe(true);
        }
      }
      const by: [number, number] = [40 * random() - 20, 40 * random() - 20];
      const moved = movedOnHost(design, glued(design), by);
      design = { ...design, joints: { [moved.id]: moved } };
    }
  });

  it('are read again, cut only when marks are asked for, and none where it lies on a back', () => {
    const design = withPiece('star');
    expect(readDesign(JSON.parse(JSON.stringify(design)))).toMatchObject({ ok: true });
    const card = expand(design).parts.find(({ id }) => id === 'card')!;
    const svg = (marks: 'none' | 'drawn' | 'kiss') => writePartSvg(card, 'Card', PROFILES[0], { marks });
    expect(svg('none')).not.toContain('data-line="mark-');
    expect(svg('drawn').match(/data-line="mark-/g)!.length).toBe(marksOf(design).length);
    expect(svg('kiss')).toContain('id="mark-kiss"');
    const behind = { ...glued(design), placement: { ...glued(design).placement, flip: true } };
    expect(marksOf({ ...design, joints: { [behind.id]: behind } })).toEqual([]);
  });

  it('of a zone lie on its own part', () => {
    const design = withPiece('circle');
    const [part] = Object.values(design.parts);
    const [zone] = Object.values(part.glueZones);
    const marked: Design = {
      ...design,
      parts: { [part.id]: { ...part, glueZones: { [zone.id]: { ...zone, marked: true } } } },
    };
    const lines = expand(marked).parts.find(({ id }) => id === part.id)!.lines;
    expect(lines.map(({ process }) => process)).toEqual(['cut', 'mark']);
    expect(readDesign(JSON.parse(JSON.stringify(marked)))).toMatchObject({ ok: true });
  });
});
