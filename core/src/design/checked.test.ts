/** What enters is checked up to the first fault, which is told with its place; however large, and however wrong. */
import { workOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { z } from 'zod';
import { entriesById, listOf } from './checked.ts';
import type { Command } from './commands.ts';
import { commandSchema } from './commandSchema.ts';
import { newDesign, type Design } from './design.ts';
import { readDesign } from './schema.ts';
import { issueWords } from './issueWords.ts';

const entry = z.object({ id: z.string(), size: z.number().max(10) });
const byId = entriesById(z.string().min(1).max(20), entry, 3, 'things');
const faultOf = (schema: z.ZodType, value: unknown) => {
  const { error } = schema.safeParse(value, { reportInput: true });
  return (
    error && { path: error.issues[0].path, count: error.issues.length, words: issueWords(error.issues[0]) }
  );
};

describe('lists and records of entries', () => {
  it('give back what is right, as it is', () => {
    const all = { a: { id: 'a', size: 1 }, b: { id: 'b', size: 10 } };
    expect(byId.parse(all)).toEqual(all);
    expect(listOf(entry, 2).parse([all.a, all.b])).toEqual([all.a, all.b]);
  });

  it('tell the first fault only, with its whole place', () => {
    const wrong = { id: 'x', size: 'large' };
    const all = Object.fromEntries(['a', 'b', 'c'].map((id) => [id, { ...wrong, id }]));
    expect(faultOf(byId, all)).toEqual({
      path: ['a', 'size'],
      count: 1,
      words:
        'at a > size: it is the text “large”; it should be a number. Put that right in the file and try again; nothing was changed.',
    });
    expect(
      faultOf(listOf(listOf(entry, 5), 5), [[{ id: 'a', size: 1 }], [{ id: 'b', size: 11 }, wrong]]),
    ).toMatchObject({
      path: [1, 0, 'size'],
      count: 1,
    });
  });

  it('refuse too many, a name that is not the entry’s own, and names that no entry can have', () => {
    const things = (...names: string[]) => Object.fromEntries(names.map((id) => [id, { id, size: 1 }]));
    expect(faultOf(byId, things('a', 'b', 'c', 'd'))!.words).toMatch(
      /there are 4 things; at most 3 can be held/,
    );
    expect(faultOf(listOf(entry, 1), [1, 2])!.words).toMatch(/the list has 2 entries; at most 1 can be held/);
    expect(faultOf(byId, { a: { id: 'b', size: 1 } })!.words).toMatch(/kept as “a” but calls itself “b”/);
    for (const name of ['', 'n'.repeat(21)])
      expect(faultOf(byId, JSON.parse(`{${JSON.stringify(name)}: {"id": "x", "size": 1}}`))!.words).toMatch(
        /an entry cannot have that name/,
      );
  });
});

describe('commands from outside', () => {
  const line = {
    id: 'l',
    ...workOf('cut'),
    path: { start: [0, 0], segments: [{ kind: 'line', to: [1, 1] }] },
  };
  const put = (value: unknown) => ({ do: 'put', in: 'parts', id: 'p', value });
  const part = (lines: unknown) => ({
    id: 'p',
    name: 'P',
    stockId: 's',
    grainRad: null,
    quantity: 1,
    lines,
    glueZones: {},
    marks: {},
  });

  it('are read by what they do', () => {
    const commands: Command[] = [
      { do: 'rename', name: 'New' },
      put(part({ l: line })) as Command,
      put(null) as Command,
      { do: 'line', partId: 'p', id: 'l', value: null },
      { do: 'brief', value: { closedWidthMm: 100 } },
      { do: 'settings', value: { gapMm: 2 } },
      { do: 'sheetPlan', value: null },
      {
        do: 'all',
        commands: [
          { do: 'rename', name: 'New' },
          { do: 'all', commands: [put(null) as Command] },
        ],
      },
    ];
    for (const command of commands) expect(commandSchema.parse(command)).toEqual(command);
  });

  it('that are none are told by what they say that they do', () => {
    expect(faultOf(commandSchema, { do: 'explode' })!.words).toMatch(
      /^at do: “do” does not say what it is: it is the text “explode”/,
    );
    expect(faultOf(commandSchema, { ...put(part({})), id: 'other' })!.words).toMatch(
      /“other” but calls itself “p”/,
    );
    expect(faultOf(commandSchema, { do: 'put', in: 'nowhere' })!.words).toMatch(
      /“in” does not say what it is/,
    );
    expect(faultOf(commandSchema, { do: 'all', commands: [{ do: 'rename', name: '' }] })).toMatchObject({
      path: ['commands', 0, 'name'],
    });
  });

  it('have a bottom: several in several in several are refused, not followed', () => {
    let deep: unknown = { do: 'rename', name: 'x' };
    for (let i = 0; i < 50; i++) deep = { do: 'all', commands: [deep] };
    expect(faultOf(commandSchema, deep)).toMatchObject({ count: 1 });
  });

  it('with a fault in every line of every part give one fault, without running over', () => {
    const wrong = { ...line, path: { start: [0, 0], segments: [{ kind: 'line', to: [1, 'x'] }] } };
    const lines = Object.fromEntries(
      Array.from({ length: 900 }, (_, i) => [`l${i}`, { ...wrong, id: `l${i}` }]),
    );
    const all = { do: 'all', commands: Array.from({ length: 60 }, () => put(part(lines))) };
    expect(faultOf(commandSchema, all)).toMatchObject({
      path: ['commands', 0, 'value', 'lines', 'l0', 'path', 'segments', 0, 'to', 1],
      count: 1,
    });
  });
});

describe('a design that is refused', () => {
  const base = JSON.parse(JSON.stringify(newDesign('Refused'))) as Design;
  const refused = (change: Partial<Record<keyof Design, unknown>>) => {
    const read = readDesign({ ...base, ...change });
    return read.ok ? 'taken' : read.message;
  };
  it.each([
    [{ name: '' }, /at name: the text has 0 letters; at least 1 letter/],
    [{ name: 7 }, /at name: it is 7; it should be a text/],
    [{ name: undefined }, /at name: it is missing; it should be a text/],
    [
      { brief: { ...base.brief, opening: 'sideways' } },
      /at brief > opening: it is the text “sideways”; it should be “side”, “top” or “gate”/,
    ],
    [
      { brief: { ...base.brief, closedWidthMm: 5 } },
      /at brief > closedWidthMm: it is 5; at least 20 is allowed/,
    ],
    [
      { settings: { ...base.settings, copies: 1.5 } },
      /at settings > copies: it is 1.5; it should be a whole number/,
    ],
    [{ parts: [] }, /at parts: it is a list of 0; it should be an object/],
    [{ board: null }, /at board: it is empty \(null\); it should be an object/],
    [
      { joints: { j: { kind: 'magic' } } },
      /at joints > j > kind: “kind” does not say what it is: it is the text “magic”/,
    ],
    [
      {
        instances: {
          m: {
            id: 'm',
            name: 'M',
            family: 'step',
            stockId: 's',
            params: { leftMm: 1e308 },
            host: { partId: 'card', gutterId: 'g' },
            beyondLimits: false,
          },
        },
      },
      /at instances > m > params > leftMm: it is 1e\+308; at most 36000 is allowed/,
    ],
    [{ schemaVersion: 99 }, /saved by a newer version \(99\); this one reads up to 2/],
    [{ schemaVersion: 'x' }, /its schemaVersion is missing or unknown/],
  ])('says what, where and what to do: %j', (change, words) => {
    expect(refused(change)).toMatch(words);
  });
});
