import { applyCommand } from '@hollow-finch/core/design/commands';
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { tableGutter } from '@hollow-finch/core/design/frames';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { workOf } from '@hollow-finch/core/dieline/part';
import { checkContext } from '@hollow-finch/core/checks/context';
import { closing } from '@hollow-finch/core/checks/closing';
import { slotsOf } from '@hollow-finch/core/dieline/slots';
import { straight } from '@hollow-finch/core/geometry/path';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance } from '@hollow-finch/core/mechanisms/instance';
import { madePlain } from '@hollow-finch/core/mechanisms/plain';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import '@hollow-finch/core/mechanisms/structures/all';
import { expect, it } from 'vitest';
import { tuckCommand, tucksOf, type Holder } from './tuckEdits.ts';

const empty: Design = { ...newDesign('Tucks'), base: { kind: 'structure', rootPartId: null } };

/** A tuck box made plain, its tongues as they come. */
function box(): { design: Design; partId: string } {
  const instance = newInstance(familyById('tuckBox')!, tableGutter(empty), 'm1');
  const before: Design = { ...empty, instances: { m1: instance } };
  const { command, partId } = madePlain(before, instance, () => ({ x: 0, y: 0 }));
  return { design: applyCommand(before, command).design, partId };
}
const plainOf = (design: Design, id: string) => expand(design).parts.find((part) => part.id === id)!;

it('a tongue is left untucked and tucked in again, and is looked at like one that came so', () => {
  const { design, partId } = box();
  const [tuck] = tucksOf(plainOf(design, partId));
  expect(tuck.where).toMatch(/^behind /);
  const behind = design.parts[partId].marks[tuck.id].behind!;
  const loose = applyCommand(
    design,
    tuckCommand(design.parts[partId], plainOf(design, partId), tuck.id, null),
  );
  expect(tucksOf(plainOf(loose.design, partId)).map(({ id }) => id)).not.toContain(tuck.id);
  expect(applyCommand(loose.design, loose.inverse).design).toEqual(design);
  const again = applyCommand(
    loose.design,
    tuckCommand(loose.design.parts[partId], plainOf(loose.design, partId), tuck.id, { behind }),
  ).design;
  expect(again).toEqual(design);
  expect(closing.run(checkContext(again))).toEqual([]);
});

it('one that is tucked in where it cannot be is found, and one whose panel is gone', () => {
  const { design, partId } = box();
  const [tuck] = tucksOf(plainOf(design, partId));
  const { panels } = panelPlan(plainOf(design, partId));
  const wrong = panels.find(
    ({ id }) =>
      id !== tuck.id && id !== design.parts[partId].marks[tuck.id].behind && !/tab|tongue|flap/.test(id),
  )!;
  const tucked = applyCommand(
    design,
    tuckCommand(design.parts[partId], plainOf(design, partId), tuck.id, { behind: wrong.id }),
  ).design;
  expect(
    closing
      .run(checkContext(tucked))
      .map(({ sentence }) => sentence)
      .join(' '),
  ).toMatch(/is tucked in/);
  const part = design.parts[partId];
  const gone: Design = {
    ...design,
    parts: {
      [partId]: {
        ...part,
        marks: { ...part.marks, [tuck.id]: { ...part.marks[tuck.id], behind: 'nowhere' } },
      },
    },
  };
  expect(
    closing
      .run(checkContext(gone))
      .map(({ sentence }) => sentence)
      .join(' '),
  ).toMatch(/behind a panel that is there no more/);
});

it('marks panels that were never named, so that they stay when a fold is added', () => {
  const lines = [
    straight([0, 0], [90, 0]),
    straight([90, 0], [90, 40]),
    straight([90, 40], [0, 40]),
    straight([0, 40], [0, 0]),
  ].map((path, i) => ({ id: `l${i}`, ...workOf('cut'), path }));
  const folds = [30, 60].map((x, i) => ({
    id: `f${i}`,
    ...workOf('mountain'),
    path: straight([x, 0], [x, 40]),
  }));
  const part = {
    id: 'p1',
    name: 'Strip',
    stockId: 'slate-240',
    grainRad: null,
    quantity: 1,
    lines: Object.fromEntries([...lines, ...folds].map((line) => [line.id, line])),
    glueZones: {},
    marks: {},
  };
  const design: Design = { ...empty, parts: { p1: part } };
  const { panels } = panelPlan(plainOf(design, 'p1'));
  const tucked = applyCommand(
    design,
    tuckCommand(part, plainOf(design, 'p1'), panels[2].id, { behind: panels[0].id }),
  ).design;
  const fold = { id: 'f9', ...workOf('valley'), path: straight([15, 0], [15, 40]) };
  const folded = applyCommand(tucked, { do: 'line', partId: 'p1', id: 'f9', value: fold }).design;
  expect(tucksOf(plainOf(folded, 'p1'))).toEqual([
    { id: panels[2].id, name: panels[2].name, where: `behind ${panels[0].name}` },
  ]);
});

it('a flap is put through a slot of its part, and what misses it is found', () => {
  const wallet = newInstance(familyById('wallet')!, tableGutter(empty), 'm1', {
    params: { closing: 'lock' },
  });
  const before: Design = { ...empty, instances: { m1: wallet } };
  const { command, partId } = madePlain(before, wallet, () => ({ x: 0, y: 0 }));
  const { design } = applyCommand(before, command);
  const [flap] = tucksOf(plainOf(design, partId));
  expect(flap.where).toBe('through the slot in front');
  const [slot, ...others] = slotsOf(plainOf(design, partId));
  expect(others).toEqual([]);
  const hold = (from: Design, panelId: string, holder: Holder | null): Design =>
    applyCommand(from, tuckCommand(from.parts[partId], plainOf(from, partId), panelId, holder)).design;
  const loose = hold(design, flap.id, null);
  expect(tucksOf(plainOf(loose, partId))).toEqual([]);
  expect(hold(loose, flap.id, { through: slot.lineId })).toEqual(design);
  const wrong = hold(loose, 'side tab', { through: slot.lineId });
  expect(closing.run(checkContext(wrong))[0].sentence).toMatch(/its slot of .* it does not go in/);
});
