import { workOf } from '../dieline/part.ts';
import { describe, expect, it } from 'vitest';
import { straight } from '../geometry/path.ts';
import { seededRandom } from '../geometry/random.ts';
import { applyCommand, type Command } from './commands.ts';
import { commandSchema, editSchema } from './commandSchema.ts';
import { newDesign, SCHEMA_VERSION, type Design, type DraftedPart } from './design.ts';
import { readDesign } from './schema.ts';

const part = (id: string): DraftedPart => ({
  id,
  name: `Part ${id}`,
  stockId: 'slate-240',
  grainRad: null,
  quantity: 1,
  lines: {},
  glueZones: {},
  marks: {},
});

function randomCommand(design: Design, random: () => number, depth = 0): Command {
  const pick = Math.floor(random() * (depth < 2 ? 8 : 7));
  const ids = Object.keys(design.parts);
  const id =
    ids.length > 0 && random() < 0.6
      ? ids[Math.floor(random() * ids.length)]
      : `p${Math.floor(random() * 9)}`;
  const line = `l${Math.floor(random() * 5)}`;
  switch (pick) {
    case 0:
      return { do: 'put', in: 'parts', id, value: random() < 0.3 ? null : part(id) };
    case 1:
      return { do: 'rename', name: `Name ${Math.floor(random() * 99)}` };
    case 2:
      return {
        do: 'brief',
        value: { closedWidthMm: 50 + random() * 100, opening: random() < 0.5 ? 'side' : 'top' },
      };
    case 3:
      return { do: 'settings', value: { gapMm: random() * 5 } };
    case 4:
      return { do: 'put', in: 'board', id, value: random() < 0.3 ? null : { x: random(), y: random() } };
    case 5:
      return random() < 0.5 && ids.length > 0
        ? { do: 'part', id: ids[0], value: random() < 0.5 ? { quantity: 3 } : { name: 'N', grainRad: null } }
        : ids.length === 0
          ? { do: 'rename', name: 'No parts yet' }
          : {
              do: 'line',
              partId: ids[0],
              id: line,
              value:
                random() < 0.3 ? null : { id: line, ...workOf('cut'), path: straight([0, 0], [random(), 1]) },
            };
    case 6:
      return {
        do: 'put',
        in: 'accepted',
        id: 'thinWeb:x',
        value: random() < 0.5 ? null : { reason: 'Meant so.' },
      };
    default:
      return {
        do: 'all',
        commands: [0, 1, 2]
          .map(() => randomCommand(design, random, depth + 1))
          .filter((c) => c.do !== 'put' || c.in !== 'parts'),
      };
  }
}

describe('commands', () => {
  it('are taken back exactly, in any order of edits', () => {
    const random = seededRandom(3);
    for (let round = 0; round < 40; round++) {
      const start = newDesign('Start');
      let design = start;
      const inverses: Command[] = [];
      const states = [start];
      for (let i = 0; i < 30; i++) {
        const command = randomCommand(design, random);
        expect(commandSchema.parse(JSON.parse(JSON.stringify(command)))).toEqual(command);
        const before = JSON.stringify(design);
        const applied = applyCommand(design, command);
        expect(JSON.stringify(design)).toBe(before);
        inverses.push(applied.inverse);
        design = applied.design;
        states.push(design);
        expect(readDesign(JSON.parse(JSON.stringify(design))).ok).toBe(true);
      }
      for (let i = inverses.length - 1; i >= 0; i--) {
        const undone = applyCommand(design, inverses[i]);
        expect(applyCommand(undone.design, undone.inverse).design).toEqual(design);
        design = undone.design;
        expect(design).toEqual(states[i]);
      }
    }
  });

  it('refuse to draw on a part that is not there', () => {
    expect(() => applyCommand(newDesign('x'), { do: 'line', partId: 'gone', id: 'a', value: null })).toThrow(
      /no part "gone"/,
    );
    expect(() => applyCommand(newDesign('x'), { do: 'part', id: 'gone', value: { quantity: 2 } })).toThrow(
      /no part "gone"/,
    );
    expect(editSchema.safeParse({ label: 'x', command: { do: 'explode' }, inverse: {} }).success).toBe(false);
  });
});

describe('readDesign', () => {
  it('reads what was stored and says in words what it cannot read', () => {
    const design = newDesign('Kept');
    expect(readDesign(JSON.parse(JSON.stringify(design)))).toEqual({ ok: true, design });
    const refused = (document: unknown) => {
      const result = readDesign(document);
      return result.ok ? '' : result.message;
    };
    expect(refused(7)).toMatch(/not a design/);
    expect(refused({})).toMatch(/schemaVersion is missing/);
    expect(refused({ ...design, schemaVersion: SCHEMA_VERSION + 1 })).toMatch(/newer version/);
    expect(refused({ ...design, brief: { ...design.brief, closedWidthMm: -4 } })).toMatch(
      /brief > closedWidthMm/,
    );
    expect(
      refused({
        ...design,
        parts: {
          a: {
            ...part('a'),
            lines: { l: { id: 'l', ...workOf('cut'), path: { start: [0, 1e9], segments: [] } } },
          },
        },
      }),
    ).toMatch(/damaged at parts > a/);
  });
});
