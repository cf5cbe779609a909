// @vitest-environment happy-dom
/** The fields of a joint: each kind shows its own, and every change is an edit that can be undone. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { distance } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { act } from 'react';
import { afterEach, beforeEach, describe, expect, it } from 'vitest';
import { openJob, useJob } from '../../shared/store/jobStore.ts';
import { mount, type Mounted } from '../../shared/testing/mount.tsx';
import { HANGS, newJoint, type HangKind } from './hanging.ts';
import { JointFields } from './JointFields.tsx';
import { leaf } from './testing/leaf.ts';

const base: Design = { ...newDesign('Leaves'), parts: { leaf } };

let page: Mounted;
beforeEach(() => {
  page = mount();
});
afterEach(() => page.close());

const joint = () => useJob.getState().design.joints.j1;
function Shown() {
  const shown = useJob((s) => s.shown);
  return shown.joints.j1 ? <JointFields joint={shown.joints.j1} parts={expand(shown).parts} /> : <p>None.</p>;
}
function show(kind: HangKind): void {
  const { parts } = expand(base);
  const part = parts.find((p) => p.id === 'leaf')!;
  const made = newJoint(kind, 'j1', part, panelPlan(part).panels[0], parts[0]);
  if ('refused' in made) throw new Error(made.refused);
  const design = { ...base, joints: { j1: made } };
  act(() => openJob({ id: 'j', design, undo: [], redo: [], revision: 1 }));
  page.show(<Shown />);
}
const labels = () => [...page.host.querySelectorAll('label')].map((l) => l.textContent);

const OWN: Readonly<Record<HangKind, readonly string[]>> = {
  pivot: ['Turns on', 'Brad at x', 'Turned', 'Turns by', 'Moved by hand'],
  slide: ['Slides on', 'Slides towards', 'Travel', 'Moved by hand', 'Lies behind the other part'],
  pin: ['Pinned in a slit of', 'Slit', 'Pin at x'],
  tongue: ['Through a slot of', 'Line of Card', 'Line of Leaf', 'Along it', 'Leans', 'Moved by hand'],
  cross: ['Crosses', 'Line of Card', 'Line of Leaf', 'Along it', 'Leans', 'Moved by hand'],
  rest: ['Stands on', 'Line of Card', 'Line of Leaf', 'Along it', 'Leans', 'Moved by hand'],
  wrap: ['Bends round an edge of', 'Band', 'Begins at', 'Pull', 'Card open'],
  hand: ['Fold', 'Turns by', 'Card open'],
};

describe('the fields of a joint', () => {
  it.each(HANGS.map((hang) => hang.kind))('%s: shows what it needs, and is taken away', (kind) => {
    show(kind);
    for (const label of OWN[kind]) expect(labels()).toContain(label);
    page.press('Take this joint away');
    expect(joint()).toBeUndefined();
    expect(page.host.querySelector('p')!.textContent).toBe('None.');
    act(() => useJob.getState().undoLast());
    expect(joint().kind).toBe(kind);
  });

  it('takes lengths in mixed units, and moves along its line by just so much', () => {
    show('tongue');
    const before = joint();
    page.type('Along it', '1in - 5.4mm');
    const after = joint();
    if (before.kind !== 'tongue' || after.kind !== 'tongue') throw new Error('no tongue');
    for (const end of [0, 1]) expect(distance(before.slot[end], after.slot[end])).toBeCloseTo(20, 6);
    page.press('Turn it end for end');
    const turned = joint();
    expect(turned.kind === 'tongue' && turned.on).toEqual([after.on[1], after.on[0]]);
  });

  it('is moved by hand, or follows, by a switch', () => {
    show('cross');
    expect(labels()).not.toContain('Turns by');
    act(() => page.field('Moved by hand').click());
    expect(joint()).toMatchObject({ drive: { name: 'Leaf', from: 0, to: 90 } });
    page.type('Turns by', '65');
    expect(joint()).toMatchObject({ drive: { to: 65 } });
    page.type('Card open', '120.4');
    expect(joint()).toMatchObject({ drive: { to: 65, atOpeningDeg: 120 } });
    act(() => page.field('Moved by hand').click());
    expect(joint()).toMatchObject({ drive: null });
    // Every one of them can be taken back.
    for (let i = 0; i < 4; i++) act(() => useJob.getState().undoLast());
    expect(joint()).toMatchObject({ drive: null });
    expect(useJob.getState().undo).toEqual([]);
  });

  it('keeps a lean within half a turn, and a slide’s stops with its travel', () => {
    show('rest');
    page.type('Leans', '300');
    expect(joint()).toMatchObject({ leanDeg: 180 });
    show('slide');
    page.type('Travel', '55');
    expect(joint()).toMatchObject({ stops: { from: 0, to: 55 }, drive: { to: 55 } });
    act(() => page.field('Lies behind the other part').click());
    expect(joint()).toMatchObject({ face: 'back' });
  });
});
