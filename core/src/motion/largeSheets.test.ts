/** Sheets of many folds in one piece: folded as long as one can wait for it, else said to be too large, never silently flat. */
import { describe, expect, it } from 'vitest';
import { checkContext } from '../checks/context.ts';
import { runChecks } from '../checks/runChecks.ts';
import type { DraftedPart } from '../design/design.ts';
import { drafted, glueAt, zigzagSheet } from '../practice/drafts.ts';
import { MOST_UNKNOWNS } from './sweep.ts';

const onCard = (sheet: DraftedPart) => drafted([sheet], [glueAt(sheet.id, 'z', [20, 20])]);
const finding = (size: number) => {
  const context = checkContext(onCard(zigzagSheet('Sheet', size)));
  return { context, found: runChecks(context).filter(({ rule }) => rule === 'motionFaults') };
};

describe('a sheet of zigzag folds', () => {
  it.each([3, 5, 8])('of %i panels a side hangs together at every opening', (size) => {
    const { context, found } = finding(size);
    expect(context.sweep.components.map((c) => c.state)).toEqual(['floppy']);
    expect(Math.max(...context.sweep.gapMm)).toBeLessThan(1e-6);
    // A zigzag sheet that nothing drives has one way to fold at least.
    expect(context.sweep.components[0].freedom).toBeGreaterThan(0);
    expect(found.map(({ key }) => key.split(':')[1])).toEqual(['floppy']);
  });

  it.each([12, 32])('of %i panels a side is named as too large, with what was not looked at', (size) => {
    const { context, found } = finding(size);
    const [component] = context.sweep.components;
    expect(component.state).toBe('tooLarge');
    expect(component.unknowns).toBe(size * size - 1);
    expect(found).toHaveLength(1);
    expect(found[0]).toMatchObject({ severity: 'fault', measured: size * size - 1, limit: MOST_UNKNOWNS });
    expect(found[0].sentence).toMatch(/^Sheet has \d+ folds .* was not looked at\.$/);
    // Nothing is said of poses that were not computed.
    expect(context.catches).toEqual([]);
    expect(context.closed.overhangs).toEqual([]);
  });
});
