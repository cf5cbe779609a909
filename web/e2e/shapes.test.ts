/** Drawing shapes as a designer does: corners, curves, typed lengths that keep an outline closed, rounding, trims, booleans. */
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { readDesign } from '@hollow-finch/core/design/schema';
import type { Design } from '@hollow-finch/core/design/design';
import { isClosedPath, nearestOn } from '@hollow-finch/core/geometry/curve';
import { endOf, flatten, pathLength } from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';
import { ringArea } from '@hollow-finch/core/geometry/polygon';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pause, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open());
afterAll(() => studio.close());

const design = async (): Promise<Design> => {
  await person.saved();
  const answer = (await (await fetch(`${studio.url}/api/jobs/evening-programme`)).json()) as {
    design: unknown;
  };
  const read = readDesign(answer.design);
  if (!read.ok) throw new Error(read.message);
  return read.design;
};
const linesOf = async (partId: string) => Object.values((await design()).parts[partId].lines);

/** Nothing is chosen, nothing is held. */
const bare = async (): Promise<void> => {
  await person.focus('Drawing board');
  await person.keys('Escape');
  await person.keys('Escape');
  await person.text('.particulars h2', /On the board/);
};

describe('a part with five sides', () => {
  it('is drawn corner by corner, and closed by its first', async () => {
    person = await studio.window('/job/evening-programme/draft');
    await person.page.waitForSelector('.folded-inset');
    await person.focus('Drawing board');
    await person.keys('p');
    await pause(600);
    const corners = [
      [140, 20],
      [170, 20],
      [180, 40],
      [158, 60],
      [135, 42],
    ] as const;
    for (const [x, y] of corners) await person.pressOn(x, y);
    const [px, py] = await person.onScreen(140.4, 20.4);
    await person.page.mouse.move(px, py, { steps: 4 });
    // The place is named before it is taken.
    await person.text('.snap-mark text', /^end$/);
    await person.pressOn(140.4, 20.4);
    await person.figure('draft', /^2 parts/);
    const [line] = await linesOf('p1');
    expect(line.path.segments).toHaveLength(5);
    expect(isClosedPath(line.path, 1e-9)).toBe(true);
  });

  it('stays closed when the length of one of its sides is typed', async () => {
    await person.keys('v');
    await person.type('Side length', '1 1/2in');
    const [line] = await linesOf('p1');
    expect(isClosedPath(line.path, 1e-9)).toBe(true);
    expect(distance(line.path.start, line.path.segments[0].to)).toBeCloseTo(38.1, 9);
    await person.pick('Sides (5, closed)', /^Side 5/);
    await person.type('Side length', '30');
    const [after] = await linesOf('p1');
    expect(isClosedPath(after.path, 1e-9)).toBe(true);
    expect(distance(after.path.segments[3].to, after.path.start)).toBeCloseTo(30, 9);
    await person.figure('inspect', /warning|nothing found/);
  });

  it('stays closed when five lines are its outline, by hand and by number', async () => {
    await bare();
    await person.press('Line', 'button');
    const corners: [number, number][] = [
      [140, -65],
      [170, -65],
      [180, -45],
      [158, -25],
      [135, -43],
    ];
    const draw = async (from: [number, number], to: [number, number]) =>
      person.dragBetween(await person.onScreen(...from), await person.onScreen(...to));
    for (const [i, from] of corners.entries()) await draw(from, corners[(i + 1) % 5]);
    await person.keys('v');
    const closed = async () => {
      const lines = await linesOf('p2');
      expect(lines).toHaveLength(5);
      for (const { path } of lines)
        expect(lines.filter(({ path: other }) => distance(endOf(path), other.start) < 1e-9)).toHaveLength(1);
      return lines;
    };
    await closed();
    await person.type('Length', '50');
    const lines = await closed();
    expect(lines.some(({ path }) => Math.abs(pathLength(path) - 50) < 1e-9)).toBe(true);
    // A corner by the arrow keys.
    await person.focus('Corner 2');
    await person.keys('Shift', 'ArrowUp');
    await closed();
  });
});

describe('a silhouette with curves', () => {
  it('is made of an ellipse and a circle, united, mirrored and offset for a mat', async () => {
    await bare();
    await person.pick('More tools', 'Ellipse');
    await pause(500);
    await person.press('By numbers', 'button');
    await person.type('Across', '60');
    await person.type('Up', '36');
    await person.press('Draw it', 'button');
    await person.figure('draft', /^4 parts/);
    const [first] = await linesOf('p3');
    expect(Math.abs(ringArea(flatten(first.path, 1e-4)))).toBeCloseTo(Math.PI * 30 * 18, 0);
    await person.press('Circle, from its centre', 'button');
    await person.press('By numbers', 'button');
    await person.type('Centre x', '58');
    await person.type('Centre y', '40');
    await person.type('Diameter', '30');
    await person.press('Draw it', 'button');
    await person.keys('v');
    expect(await linesOf('p3')).toHaveLength(2);
    // Both of them: the second is chosen, the first is added from the list of its part.
    const ids = (await linesOf('p3')).map(({ id }) => id);
    for (const [i, id] of ids.entries()) {
      const line = (await person.page.$(`[data-part="p3"] [data-line="${id}"]`))!;
      await line.evaluate((node, more) => {
        node.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, button: 0, shiftKey: more }));
      }, i > 0);
    }
    await person.text('.particulars h2', /2 things chosen/);
    await person.pick('What to do', 'Unite');
    await person.press('Unite', 'button');
    const [united, ...none] = await linesOf('p3');
    expect(none).toEqual([]);
    expect(united.path.segments.some(({ kind }) => kind === 'arc')).toBe(true);
    expect(united.path.segments.some(({ kind }) => kind === 'cubic')).toBe(true);
    await person.pick('What to do', 'Mirror');
    await person.press('Mirror', 'button');
    expect(await linesOf('p3')).toHaveLength(2);
    await person.keys('Control', 'z');
    await person.pick('What to do', 'Offset');
    await person.type('By', '-4');
    await person.press('Offset', 'button');
    const lines = await linesOf('p3');
    expect(lines).toHaveLength(2);
    for (const p of flatten(lines[1].path, 0.5)) expect(nearestOn(lines[0].path, p).mm).toBeCloseTo(4, 1);
  });

  it('is trimmed where it is pressed, and everything is taken back', async () => {
    const before = (await design()).parts.p2;
    await bare();
    await person.press('Part 2 part', 'button');
    await person.press('Line', 'button');
    await person.dragBetween(await person.onScreen(128, -50), await person.onScreen(186, -50));
    await person.focus('Drawing board');
    await person.keys('t');
    await pause(300);
    await person.pressOn(129.5, -50);
    await person.pressOn(184.5, -50);
    const lines = await linesOf('p2');
    expect(lines).toHaveLength(6);
    const level = lines.find(
      ({ path }) => Math.abs(path.start[1] - endOf(path)[1]) < 1e-9 && pathLength(path) > 31,
    )!;
    // What is left of it ends on the outline, on either side.
    for (const end of [level.path.start, endOf(level.path)])
      expect(
        Math.min(...lines.filter((line) => line !== level).map(({ path }) => nearestOn(path, end).mm)),
      ).toBeLessThan(1e-6);
    await person.keys('v');
    for (let i = 0; i < 3; i++) await person.keys('Control', 'z');
    expect(JSON.stringify((await design()).parts.p2)).toBe(JSON.stringify(before));
  });
});

describe('a word in a script face', () => {
  it('is cut out of an insert, what is inside its letters held by bridges, and nothing falls out', async () => {
    await bare();
    await person.press('Mechanism', 'button');
    await person.press('Add a Insert', 'button');
    await person.text('.particulars h2', /^Insert$/);
    await person.press('Insert draw on it, cut words out of it', 'button');
    await person.text('.particulars h2', /^Insert$/);
    await person.type('Word', 'bead');
    await person.pick('Face', /script|Script|Pacifico|Dancing/);
    await person.type('Letters high', '30');
    await person.type('Bridges wide', '1.2');
    await person.press('Cut it out', 'button');
    await person.text('.mantine-Notification-root', /wide.*bridges/);
    const made = await design();
    const insert = Object.values(made.instances).find(({ family }) => family === 'insert')!;
    const part = expand(made).parts.find(({ id }) => id === `${insert.id}/insert`)!;
    expect(Object.values(made.additions).length).toBeGreaterThan(0);
    // Its two halves, and nothing besides: no island is a piece of its own.
    expect(panelPlan(part).panels.filter(({ areaMm2 }) => areaMm2 > 1)).toHaveLength(2);
    await person.figure('inspect', /./);
    const rules = (await person.page.evaluate(() => document.body.innerText)).includes('falls out of it');
    expect(rules).toBe(false);
  });

  it('loses what is inside its letters without bridges, says so, and holds it in one press', async () => {
    await bare();
    await person.press('Part 3 part', 'button');
    await person.type('Word', 'O');
    await person.type('Letters high', '16');
    await person.page.$$eval('label', (labels) =>
      labels.find((label) => /Hold what is inside letters/.test(label.textContent ?? ''))!.click(),
    );
    await person.type('Word middle x', '20');
    await person.type('Word middle y', '40');
    await person.press('Cut it out', 'button');
    await person.text('[aria-label="Islands"]', /A piece inside a cut falls out/);
    await person.type('Bridge width', '1.5');
    await person.press('Bridge it', 'button');
    await person.page.waitForFunction(() => !document.querySelector('[aria-label="Islands"]'));
    expect((await linesOf('p3')).filter(({ path }) => isClosedPath(path)).length).toBeGreaterThan(2);
  });
});
