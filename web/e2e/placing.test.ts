/** Placing as a maker does: guides, measures, several things at once, twins, locks, nicks; on the real page. */
import { rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ElementHandle } from 'puppeteer-core';
import { gluesOf, type Design } from '@hollow-finch/core/design/design';
import { checkContext } from '@hollow-finch/core/checks/context';
import { pieceMeasures } from '@hollow-finch/core/checks/pieceMeasures';
import { reportOf } from '@hollow-finch/core/checks/report';
import { readDesign } from '@hollow-finch/core/design/schema';
import { flatten, pathLength } from '@hollow-finch/core/geometry/path';
import { pointsOf, readBack } from '@hollow-finch/core/formats/testing/svgReadBack';
import { STOCKS } from '@hollow-finch/core/stock/stock';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { Studio, pause, send, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open());
afterAll(() => studio.close());

const design = async (): Promise<Design> => {
  await person.saved();
  const id = /\/job\/([^/]+)/.exec(person.page.url())![1];
  const answer = (await (await fetch(`${studio.url}/api/jobs/${id}`)).json()) as { design: unknown };
  const read = readDesign(answer.design);
  if (!read.ok) throw new Error(read.message);
  return read.design;
};

/** The middle of what a selector finds, on screen. */
const middleOf = async (selector: string): Promise<[number, number]> => {
  const box = (await (await person.page.waitForSelector(selector))!.boundingBox())!;
  return [box.x + box.width / 2, box.y + box.height / 2];
};

const boxOn = async (selector: string) =>
  (await (await person.page.waitForSelector(selector))!.boundingBox())!;

/** Chooses the mat on the lower half, by its name in the list. */
const groundMat = async (): Promise<void> => {
  await person.focus('Drawing board');
  await person.keys('Escape');
  await person.text('.particulars h2', /On the board/);
  const row = await person.page.waitForFunction(
    () =>
      [...document.querySelectorAll('.particulars .row-button')].find(
        (n) => n.textContent === 'Ground mat',
      ) ?? null,
  );
  await (row.asElement() as ElementHandle<Element>).click();
  await person.text('.particulars h2', /Ground mat/);
};

/** A picture of a dark disc on light, made by the browser itself. */
const disc = async (): Promise<Buffer> => {
  const url = await person.page.evaluate(() => {
    const canvas = document.createElement('canvas');
    [canvas.width, canvas.height] = [300, 260];
    const context = canvas.getContext('2d')!;
    context.fillStyle = '#f4f0e0';
    context.fillRect(0, 0, 300, 260);
    context.fillStyle = '#203040';
    context.beginPath();
    context.arc(140, 120, 90, 0, 7);
    context.fill();
    return canvas.toDataURL('image/png');
  });
  return Buffer.from(url.slice(url.indexOf(',') + 1), 'base64');
};

/** Draws a new part as a rectangle on empty board, far from the rest, to be put right by numbers. */
async function rectangle(width: string, height: string): Promise<void> {
  await person.press('New part', 'button');
  await person.press('By numbers', 'button');
  await person.type('Width', width);
  await person.type('Height', height);
  await person.press('Draw it', 'button');
}

describe('placing', () => {
  it('draws guides out of the rulers, for the board and for a part', async () => {
    person = await studio.window('/job/hilltop-evening/draft');
    await person.page.waitForSelector('.folded-inset');
    await pause(500);
    const ruler = await boxOn('[data-ruler="x"]');
    const card = await boxOn('[data-part="card"] .part-body');
    await person.dragBetween([ruler.x + 8, card.y + 40], [card.x + card.width / 3, card.y + 60]);
    const upright = Object.values((await design()).guides);
    expect(upright).toEqual([{ id: 'g1', axis: 'x', atMm: expect.any(Number) as number, partId: 'card' }]);
    expect(upright[0].atMm).toBeCloseTo(50, -1);
    await person.press('Level guide', 'button');
    await person.type('Guide 1, level at y', '1 1/2in');
    expect((await design()).guides.g2).toEqual({
      id: 'g2',
      axis: 'y',
      atMm: expect.closeTo(38.1, 9) as number,
      partId: null,
    });
    // By key: a step, and away.
    await person.page.focus('[data-guide="g1"]').catch(() => undefined);
    await person.page.evaluate(() => document.querySelector<SVGElement>('[data-guide="g1"]')!.focus());
    await person.keys('ArrowRight');
    expect((await design()).guides.g1.atMm).toBe(upright[0].atMm + 1);
    await person.keys('Delete');
    expect(Object.keys((await design()).guides)).toEqual(['g2']);
  });

  it('takes a measure, keeps it with the drawing, and it follows the card', async () => {
    await person.press('Measure', 'button');
    const card = await boxOn('[data-part="card"] .part-body');
    await person.dragBetween([card.x + 2, card.y + 2], [card.x + card.width - 2, card.y + card.height - 2]);
    await person.text('.measure-bar', /straight, 150 mm across, 220 mm upwards/);
    await person.press('Keep it across', 'button');
    expect((await design()).dimensions).toMatchObject({ d1: { partId: 'card', along: 'x' } });
    await person.press('Choose and move', 'button');
    await person.text('[data-measure="d1"]', /150 mm/);
    await person.go('inspect');
    await person.text('.measure', /150 mm/);
    await person.go('brief');
    await person.type('Closed width', '160');
    await person.go('draft');
    await person.text('[data-measure="d1"]', /160 mm/);
    await person.keys('Control', 'z');
    await person.text('[data-measure="d1"]', /150 mm/);
  });

  it('chooses several things, brings them into line, and takes them away in one edit', async () => {
    const before = await design();
    await rectangle('30', '20');
    await rectangle('24', '16');
    await person.press('Choose and move', 'button');
    const [first, second] = Object.keys((await design()).parts).slice(-2);
    await person.page.mouse.click(...(await middleOf(`[data-part="${first}"] .part-body`)));
    await person.page.keyboard.down('Shift');
    await person.page.mouse.click(...(await middleOf(`[data-part="${second}"] .part-body`)));
    await person.page.keyboard.up('Shift');
    await person.text('.particulars h2', /2 things chosen/);
    await person.pick('Arrange the parts on the board', 'Lower edges in line');
    await person.press('Arrange them', 'button');
    const { board } = await design();
    const lows = [first, second].map((id) => board[id].y + 10);
    expect(lows[0]).toBeCloseTo(lows[1], 6);
    await person.focus('Drawing board');
    await person.keys('Delete');
    const gone = await design();
    expect(Object.keys(gone.parts)).toEqual(Object.keys(before.parts));
    await person.keys('Control', 'z');
    expect(Object.keys((await design()).parts)).toHaveLength(Object.keys(before.parts).length + 2);
    await person.keys('Control', 'z');
  });

  it('makes a mirror twin that follows, and places it by what lies round it', async () => {
    await person.page.evaluate(() => document.querySelector<SVGElement>('[data-piece]')!.focus());
    await person.press('Add the mirror twin', 'button');
    await expect
      .poll(async () => Object.values((await design()).parts).filter(({ twinOf }) => twinOf).length)
      .toBe(1);
    const made = await design();
    const twin = Object.values(made.parts).find(({ twinOf }) => twinOf)!;
    const original = twin.twinOf!.partId;
    const lying = (from: Design, id: string) =>
      pieceMeasures(
        from,
        gluesOf(Object.values(from.joints)).find(({ partId }) => partId === id)!,
      )!.mm;
    await person.pick('Across', /^from the (left edge|fold)$/);
    await person.type('Across: distance', '4');
    await person.press('Place it', 'button');
    const placed = await design();
    expect(lying(placed, twin.id).left).toBeCloseTo(4, 4);
    expect(lying(placed, original).right).toBeCloseTo(4, 4);
    expect(lying(placed, original).low).toBeCloseTo(lying(placed, twin.id).low, 6);
  });

  it('marks on the card what will lie there, and the marks reach the file', async () => {
    for (const mark of ['Its outline', 'Centre ticks', 'Glue here', 'This end up'])
      await person.press(mark, 'checkbox');
    const { joints } = await design();
    const marked = gluesOf(Object.values(joints)).filter(({ marks }) => marks);
    expect(marked.map(({ marks }) => marks)).toEqual([['outline', 'ticks', 'glue', 'up']]);
    await person.go('cut');
    await person.pick('What', 'Terrace strip');
    await person.pick('Marks', 'Drawn lightly');
    await person.press('Save the SVG', 'button');
    const { text } = await person.downloaded();
    const marks = readBack(text).paths.filter(
      ({ group, line }) => group === 'mark' && line.startsWith('mark-'),
    );
    expect(new Set(marks.map(({ line }) => line.split('-')[2]))).toEqual(
      new Set(['outline', 'ticks', 'glue', 'up']),
    );
    await person.go('draft');
    await person.page.waitForSelector('[data-piece]');
  });

  it('locks what is done: it is neither moved nor taken away, and says so', async () => {
    await person.press('Locked Nothing of it is changed by hand until it is unlocked.', 'switch');
    const locked = await design();
    expect(Object.values(locked.parts).filter((part) => part.locked)).toHaveLength(1);
    await person.focus('Drawing board');
    await person.keys('Delete');
    await person.text('.mantine-Notification-description', /is locked: unlock it in its particulars/);
    const still = await design();
    expect(still.parts).toEqual(locked.parts);
  });

  it('lays a word in a script face, the outline of a picture, and a part of another job', async () => {
    const before = Object.keys((await design()).parts).length;
    await groundMat();
    await person.pick('Shape', 'A word');
    await person.type('Word', 'Luna', false);
    await person.pick('Face', 'Dancing Script');
    await person.press('Add a piece here', 'button');
    await person.text('.particulars h2', /^Luna$/);
    await groundMat();
    await person.pick('Shape', 'The outline of a picture');
    const picture = join(tmpdir(), `lantern-${process.pid}.png`);
    writeFileSync(picture, await disc());
    const input = (await person.page.waitForSelector('input[type="file"][accept*="png"]'))!;
    await (input as ElementHandle<HTMLInputElement>).uploadFile(picture);
    await person.press('Add a piece here', 'button');
    await person.text('.particulars h2', /^lantern-/);
    rmSync(picture);
    const drawn = Object.values((await design()).parts).at(-1)!;
    // A disc, whatever its size: its outline is as long as that of a circle of its width.
    const points = flatten(Object.values(drawn.lines)[0].path);
    const xs = points.map(([x]) => x);
    const wide = Math.max(...xs) - Math.min(...xs);
    expect(pathLength(Object.values(drawn.lines)[0].path) / (Math.PI * wide)).toBeCloseTo(1, 1);
    await groundMat();
    await person.pick('Shape', 'A part of another job');
    await person.pick('Job', 'Dome Night');
    await person.pick('Its part', 'Dome');
    await person.press('Add a piece here', 'button');
    await expect.poll(async () => Object.keys((await design()).parts).length).toBe(before + 3);
    // What is found then is about thin strokes and what catches, never about glue: that was made to fit.
    const rules = reportOf(checkContext(await design())).findings.map(({ rule }) => rule);
    expect(rules.filter((rule) => rule.startsWith('glue'))).toEqual([]);
  });

  it('leaves nicks in a cut and cuts a perforation by its measures, in the file as on the board', async () => {
    const { machineId } = (await design()).settings;
    const reading = { name: 'Nick strip', coupon: 'nick', seen: 3, date: '2026-03-07', machineId };
    const kept = await send(`${studio.url}/api/store`, 'POST', {
      items: STOCKS.map(({ id: stockId }) => ({
        kind: 'readings',
        item: { ...reading, id: `nick-${stockId}`, stockId },
      })),
    });
    expect(kept.status).toBe(201);
    await person.page.reload();
    await person.page.waitForSelector('.board-sheet > svg');
    await rectangle('60', '40');
    await person.press('Held by nicks until it is broken out', 'switch');
    // As many as it takes at 200 mm round, none farther than 80 mm from the next.
    await expect
      .poll(async () => Object.values((await design()).parts).at(-1)!.lines.l1.nicks)
      .toEqual({ count: 3, widthMm: 0.5 });
    await person.type('Nicks', '5');
    await person.type('Nicks', '3');
    // The third square of the strip held by 0.35 mm: that is offered, and taken over.
    await person.text('.particulars', /On a coupon of this stock, on 2026-03-07: 0\.35 mm/);
    await person.press('Use it', 'button');
    expect(Object.values((await design()).parts).at(-1)!.lines.l1.nicks).toEqual({ count: 3, widthMm: 0.35 });
    await person.type('Each as wide as', '0.6');
    const part = Object.values((await design()).parts).at(-1)!;
    expect(part.lines.l1.nicks).toEqual({ count: 3, widthMm: 0.6 });
    // The edge that shows is cut whole.
    await person.press('Lower edge', 'checkbox');
    await expect
      .poll(async () => Object.values((await design()).parts).at(-1)!.lines.l1.nicks)
      .toEqual({ count: 3, widthMm: 0.6, notOn: ['lower'] });
    await person.go('cut');
    await person.pick('What', part.name);
    await person.press('Save the SVG', 'button');
    const { text } = await person.downloaded();
    const cuts = readBack(text).paths.filter(({ line }) => line === 'l1');
    expect(cuts).toHaveLength(4);
    const ends = cuts.flatMap(({ d }) => [pointsOf(d, 0)[0], pointsOf(d, 0).at(-1)!]);
    const low = Math.min(...cuts.flatMap(({ d }) => pointsOf(d, 0).map(([, y]) => y)));
    const [x0, x1] = [Math.min, Math.max].map((pick) => pick(...ends.map(([x]) => x)));
    for (const [x, y] of ends) if (y < low + 0.1) expect(Math.min(x - x0, x1 - x)).toBeLessThan(0.1);
    const long = cuts.map(({ d }) => {
      const points = pointsOf(d, 0);
      return points
        .slice(1)
        .reduce((sum, p, i) => sum + Math.hypot(p[0] - points[i][0], p[1] - points[i][1]), 0);
    });
    expect(long.reduce((sum, mm) => sum + mm, 0)).toBeCloseTo(200 - 3 * 0.6, 2);
  });
});

describe('something that stands by itself', () => {
  it('is begun in one press: a tent with its strut, sound as it comes', async () => {
    person = await studio.window('/');
    await person.press('New card', 'button');
    await person.type('Name', 'Field Tent', false);
    await person.pick('Or something that stands', /^Tent/);
    await person.press('Make the card', 'button');
    await person.page.waitForSelector('.board-sheet > svg');
    await person.type('Angle', '50');
    const made = await design();
    expect(made.brief.opening).toBe('top');
    expect(made.instances.m1).toMatchObject({ family: 'strut', params: { angleDeg: 50 } });
    await person.figure('inspect', /nothing found/);
    await person.figure('fold', /folds away/);
  });
});
