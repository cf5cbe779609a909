import { FAMILIES } from '@hollow-finch/core/mechanisms/registry';
import { STRUCTURES } from '@hollow-finch/core/mechanisms/structures/all';
import { expect, it } from 'vitest';
import { CHAPTERS } from './chapters.ts';
import { FAMILY_NOTES } from './familyNotes.ts';

it('has what is inspected and what goes wrong of every mechanism, and of nothing else', () => {
  const families = [...FAMILIES, ...STRUCTURES].map(({ id }) => id);
  expect(Object.keys(FAMILY_NOTES).sort()).toEqual([...families].sort());
  for (const { inspect, wrong } of Object.values(FAMILY_NOTES)) {
    expect(inspect).toMatch(/^[A-Z].{30,}\.$/);
    expect(wrong).toMatch(/^[A-Z].{30,}\.$/);
  }
  expect(new Set(CHAPTERS.map(({ id }) => id)).size).toBe(CHAPTERS.length);
});
