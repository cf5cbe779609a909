/** Mirror twins: whichever is changed, the other is its mirror image, and undo gives back the same bytes. */
import { describe, expect, it } from 'vitest';
import { layPiece } from '../checks/layPiece.ts';
import { mirrorTwin } from '../checks/pieceCopies.ts';
import { pieceMeasures } from '../checks/pieceMeasures.ts';
import { workOf } from '../dieline/part.ts';
import { flatten, polyline } from '../geometry/path.ts';
import { ringArea } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { movedOnHost } from '../mechanisms/anchored.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { familyById } from '../mechanisms/registry.ts';
import { applyCommand, type Command } from './commands.ts';
import { gluesOf, newDesign, type Design, type GlueJoint } from './design.ts';
import { readDesign } from './schema.ts';
import { withTwins } from './twins.ts';

/** No two sides alike, so that it is told from its mirror image. */
const flag = polyline(
  [
    [-6, -8],
    [9, -4],
    [7, 8],
    [-4, 5],
  ],
  true,
);

/** A step with a flag on its front, and the flag's twin on the panel given. */
function withTwin(panelId: string): { design: Design; ids: readonly [string, string] } {
  const base = newDesign('Twins', { closedWidthMm: 170, closedHeightMm: 150 });
  const family = familyById('step')!;
  const instance = newInstance(family, usualHost(family, expand(base).gutters), 'm', {
    params: { widthMm: 80, depthMm: 40, heightMm: 36 },
  });
  const bare: Design = { ...base, instances: { m: instance } };
  const part = expand(bare).parts.find(({ id }) => id === 'm/strip')!;
  const front = expand(bare).panelFrames[part.id];
  const on = Object.keys(front)[0];
  const lines = { o: { id: 'o', ...workOf('cut'), path: flag } };
  const laid = layPiece(bare, part.id, on, { name: 'Flag', stockId: 'ember-160', lines });
  if ('refused' in laid) throw new Error(laid.refused);
  const made = applyCommand(bare, laid.command).design;
  const [joint] = gluesOf(Object.values(made.joints));
  const twin = mirrorTwin(made, joint.id, panelId === 'same' ? on : Object.keys(front)[1]);
  if ('refused' in twin) throw new Error(twin.refused);
  return { design: applyCommand(made, twin.command).design, ids: [laid.partId, twin.partId] };
}

const jointOf = (design: Design, partId: string): GlueJoint =>
  gluesOf(Object.values(design.joints)).find((joint) => joint.partId === partId)!;

/** Whether the two are mirror images, where they lie on their panels as well as in shape. */
function expectMirrored(design: Design, [a, b]: readonly [string, string]): void {
  const [one, two] = [a, b].map((id) => flatten(Object.values(design.parts[id].lines)[0].path).slice(0, -1));
  expect(two).toHaveLength(one.length);
  one.forEach(([x, y], i) => {
    expect(two[i][0]).toBeCloseTo(-x, 9);
    expect(two[i][1]).toBeCloseTo(y, 9);
  });
  expect(Math.sign(ringArea(one))).toBe(-Math.sign(ringArea(two)));
  const [left, right] = [a, b].map((id) => pieceMeasures(design, jointOf(design, id))!.mm);
  expect(left.left).toBeCloseTo(right.right, 6);
  expect(left.right).toBeCloseTo(right.left, 6);
  expect(left.low).toBeCloseTo(right.low, 6);
  expect(left.high).toBeCloseTo(right.high, 6);
}

describe.each(['same', 'other'])('twins on the %s panel', (panel) => {
  const { design, ids } = withTwin(panel);

  it('are mirror images as they are made, and the design can be read again', () => {
    expectMirrored(design, ids);
    expect(readDesign(JSON.parse(JSON.stringify(design)))).toMatchObject({ ok: true });
  });

  it('follow each other through any edits, and back to the same bytes', () => {
    const random = seededRandom(9);
    let current = design;
    const inverses: Command[] = [];
    for (let k = 0; k < 60; k++) {
      const id = ids[Math.floor(2 * random())];
      const joint = jointOf(current, id);
      const line = Object.values(current.parts[id].lines)[0];
      const edits: Command[] = [
        {
          do: 'line',
          partId: id,
          id: line.id,
          value: {
            ...line,
            path: polyline(
              flatten(line.path)
                .slice(0, -1)
                .map(([x, y]) => [x + random() - 0.5, y + random() - 0.5] as const),
              true,
            ),
          },
        },
        {
          do: 'put',
          in: 'joints',
          id: joint.id,
          value: movedOnHost(current, joint, [4 * random() - 2, 4 * random() - 2]),
        },
        { do: 'put', in: 'joints', id: joint.id, value: { ...joint, padMm: Math.round(5 * random()) } },
        { do: 'part', id, value: { stockId: random() < 0.5 ? 'slate-240' : 'ember-160' } },
      ];
      const applied = applyCommand(current, withTwins(current, edits[Math.floor(4 * random())]));
      inverses.unshift(applied.inverse);
      current = applied.design;
      expectMirrored(current, ids);
      const [one, two] = ids.map((each) => jointOf(current, each).padMm);
      expect(one).toBe(two);
      expect(current.parts[ids[0]].stockId).toBe(current.parts[ids[1]].stockId);
    }
    const back = inverses.reduce((d, inverse) => applyCommand(d, inverse).design, current);
    expect(back).toEqual(design);
  });

  it('stand alone when the other is taken away, or when that is asked', () => {
    const gone = applyCommand(
      design,
      withTwins(design, { do: 'put', in: 'parts', id: ids[0], value: null }),
    ).design;
    expect(gone.parts[ids[1]].twinOf).toBeUndefined();
    const freed = applyCommand(design, { do: 'part', id: ids[1], value: { twinOf: null } });
    const command: Command = { do: 'part', id: ids[0], value: { stockId: 'brass-foil' } };
    expect(withTwins(freed.design, command)).toBe(command);
    expect(applyCommand(freed.design, freed.inverse).design).toEqual(design);
  });
});
