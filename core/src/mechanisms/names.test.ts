import { describe, expect, it } from 'vitest';
import { panelName, partName } from './names.ts';

describe('what parts and panels are called', () => {
  it.each([
    ['Spinner', 'plate', 'Spinner plate'],
    ['Cover plate', 'plate', 'Cover plate'],
    ['Zigzag strip', 'strip', 'Zigzag strip'],
    ['Zigzag strip 2', 'strip', 'Zigzag strip 2'],
    ['Mats', 'mat', 'Mats'],
    ['Sky mats', 'mat 2', 'Sky mat 2'],
    ['Mats 3', 'mat 2', 'Mats 3, mat 2'],
    ['Band', '', 'Band'],
  ])('%s with its %s is %s', (mechanism, title, name) => expect(partName(mechanism, title)).toBe(name));

  it.each([
    ['Mats', 'mat', 'Mats'],
    ['Sky mat 2', 'mat 2', 'Sky mat 2'],
    ['Step strip', 'left panel', 'Step strip: left panel'],
  ])('the panel of %s called %s is %s', (part, panel, name) => expect(panelName(part, panel)).toBe(name));
});
