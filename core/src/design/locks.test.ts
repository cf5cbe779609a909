import { describe, expect, it } from 'vitest';
import { applyCommand, type Command } from './commands.ts';
import { newDesign, type Design } from './design.ts';
import { lockedAgainst } from './locks.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance, usualHost } from '../mechanisms/instance.ts';
import { familyById } from '../mechanisms/registry.ts';
import { glueAt, sheetOf } from '../practice/drafts.ts';

const base = newDesign('Locks');
const family = familyById('step')!;
const step = newInstance(family, usualHost(family, expand(base).gutters), 'm');
const sign = sheetOf('Sign', 20, 10, { zones: { z: [1, 1, 9, 9] } });
const other = sheetOf('Other', 20, 10);
const design: Design = {
  ...base,
  instances: { m: { ...step, locked: true } },
  parts: { Sign: { ...sign, locked: true }, Other: other },
  joints: { g: { ...glueAt('Sign', 'z', [20, 20]), id: 'g' } },
};
const [line] = Object.values(sign.lines);

const changes: readonly (readonly [string, Command, string | undefined])[] = [
  [
    'a measure',
    { do: 'put', in: 'instances', id: 'm', value: { ...design.instances.m, params: {} } },
    step.name,
  ],
  ['its being there', { do: 'put', in: 'instances', id: 'm', value: null }, step.name],
  ['its place on the board', { do: 'put', in: 'board', id: 'm/strip', value: { x: 1, y: 2 } }, step.name],
  ['a line', { do: 'line', partId: 'Sign', id: line.id, value: null }, 'Sign'],
  ['a name', { do: 'part', id: 'Sign', value: { name: 'Else' } }, 'Sign'],
  ['how it hangs', { do: 'put', in: 'joints', id: 'g', value: null }, 'Sign'],
  ['another part', { do: 'part', id: 'Other', value: { name: 'Else' } }, undefined],
  ['the brief', { do: 'brief', value: { closedWidthMm: 200 } }, undefined],
  ['that a part is locked', { do: 'part', id: 'Sign', value: { locked: null } }, undefined],
  ['that a mechanism is locked', { do: 'put', in: 'instances', id: 'm', value: { ...step } }, undefined],
  [
    'one of several',
    {
      do: 'all',
      commands: [
        { do: 'part', id: 'Other', value: { name: 'Else' } },
        { do: 'line', partId: 'Sign', id: line.id, value: null },
      ],
    },
    'Sign',
  ],
];

describe('what is locked', () => {
  it.each(changes)('is known when %s would change', (_, command, name) => {
    expect(lockedAgainst(design, command)).toBe(name);
    const parts = { Sign: sign, Other: other };
    expect(lockedAgainst({ ...design, instances: { m: step }, parts }, command)).toBeUndefined();
  });

  it('is unlocked, and locked again by undo', () => {
    const { design: freed, inverse } = applyCommand(design, {
      do: 'part',
      id: 'Sign',
      value: { locked: null },
    });
    expect(freed.parts.Sign).toEqual(sign);
    expect(applyCommand(freed, inverse).design).toEqual(design);
  });
});
