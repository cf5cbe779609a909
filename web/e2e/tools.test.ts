/** More of the board's tools, used as a designer does: symmetry, groups, loops, bridges by hand, standing words, pictures. */
import { panelAt, panelPlan } from '@hollow-finch/core/dieline/panels';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { readDesign } from '@hollow-finch/core/design/schema';
import type { Design } from '@hollow-finch/core/design/design';
import { bridgeStrength } from '@hollow-finch/core/checks/bridgeStrength';
import { boxCentre, boxOfPaths, endOf } from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import sharp from 'sharp';
import type { ElementHandle } from 'puppeteer-core';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pause, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open());
afterAll(() => studio.close());

const JOB = 'evening-programme';
const design = async (): Promise<Design> => {
  await person.saved();
  const answer = (await (await fetch(`${studio.url}/api/jobs/${JOB}`)).json()) as { design: unknown };
  const read = readDesign(answer.design);
  if (!read.ok) throw new Error(read.message);
  return read.design;
};
const linesOf = async (partId: string) => Object.values((await design()).parts[partId].lines);
const partOf = async (partId: string) => expand(await design()).parts.find(({ id }) => id === partId)!;

/** A tool by its key. */
const tool = async (key: string): Promise<void> => {
  await person.focus('Drawing board');
  await person.keys(key);
  await pause(400);
};
const draw = async (from: [number, number], to: [number, number]): Promise<void> =>
  person.dragBetween(await person.onScreen(...from), await person.onScreen(...to));

/** Nothing is chosen, nothing is held. */
const bare = async (): Promise<void> => {
  await person.focus('Drawing board');
  await person.keys('Escape');
  await person.keys('Escape');
  await person.text('.particulars h2', /On the board/);
};
const choosePart = async (name: string): Promise<void> => {
  await bare();
  await person.page.locator(`.particulars ::-p-text(${name})`).click();
  await person.text('.particulars h2', new RegExp(name));
};

describe('a symmetric part', () => {
  it('is drawn on one side of its axis, and is closed by its other side', async () => {
    person = await studio.window(`/job/${JOB}/draft`);
    await person.page.waitForSelector('.folded-inset');
    await person.press('New part', 'button');
    await tool('v');
    await person.pressWords('The same on both sides of an axis');
    const { p1 } = (await design()).parts;
    expect(p1.symmetry).toEqual({ axis: 'x', atMm: 0 });
    await tool('p');
    await person.pick('Layer of new lines', 'Cut');
    const { board } = await design();
    const { x, y } = board.p1;
    await pause(500);
    for (const [dx, dy] of [
      [0, 0],
      [-20, 5],
      [-14, 30],
      [0, 40],
    ])
      await person.pressOn(x + dx, y + dy);
    await tool('Enter');
    await tool('v');
    const lines = await linesOf('p1');
    expect(lines).toHaveLength(2);
    expect(lines[1].imageOf).toBe(lines[0].id);
    const plan = panelPlan(await partOf('p1'));
    expect(plan.panels).toHaveLength(1);
    expect(plan.panels[0].areaMm2).toBeCloseTo(2 * ((20 * 5) / 2 + 17 * 25 + (14 * 10) / 2), 3);
  });

  it('follows when a corner of either side is moved', async () => {
    await person.focus('Corner 2');
    await person.keys('Shift', 'ArrowLeft');
    const [left, right] = await linesOf('p1');
    expect(left.path.segments[0].to).toEqual([-30, 5]);
    expect(right.path.segments[0].to).toEqual([30, 5]);
    await person.keys('Control', 'z');
    expect((await linesOf('p1'))[1].path.segments[0].to).toEqual([20, 5]);
  });
});

describe('lines', () => {
  it('are chosen by a loop, grouped, chosen together by a press, and moved to the back', async () => {
    await choosePart('Part 1');
    await tool('c');
    const { x, y } = (await design()).board.p1;
    await pause(300);
    for (const dy of [12, 20, 28]) await draw([x, y + dy], [x, y + dy + 3]);
    expect(await linesOf('p1')).toHaveLength(5);
    await choosePart('Part 1');
    await tool('o');
    // A loop round the two lower circles.
    const { mouse } = person.page;
    const loop = [
      [-6, 7],
      [6, 7],
      [6, 24],
      [-6, 24],
      [-6, 8],
    ];
    for (const [i, [dx, dy]] of loop.entries()) {
      await mouse.move(...(await person.onScreen(x + dx, y + dy)), { steps: 4 });
      if (i === 0) await mouse.down();
    }
    await mouse.up();
    await person.text('.particulars h2', /2 things chosen/);
    await person.focus('Drawing board');
    await person.keys('Control', 'g');
    await person.text('.particulars', /Let the group go/);
    const grouped = (await linesOf('p1')).filter(({ group }) => group !== undefined);
    expect(grouped).toHaveLength(2);
    await bare();
    await person.pressOn(x + 3, y + 12);
    await person.text('.particulars h2', /2 things chosen/);
    await person.press('To the back', 'button');
    expect((await linesOf('p1')).slice(0, 2).map(({ id }) => id)).toEqual(grouped.map(({ id }) => id));
    await person.press('Let the group go', 'button');
    expect((await linesOf('p1')).some(({ group }) => group !== undefined)).toBe(false);
  });

  it('are placed by an edge and a middle in one act', async () => {
    await bare();
    const { x, y } = (await design()).board.p1;
    await person.pressOn(x + 3, y + 28);
    await person.text('.particulars h2', /Cut/);
    await person.pick('Upwards', /from the lower edge/);
    await person.type('Upwards: distance', '1/2in');
    await person.press('Place it', 'button');
    const boxes = (await linesOf('p1')).map(({ path }) => boxOfPaths([path]));
    expect(boxes.some(({ minY, maxX }) => Math.abs(minY - 12.7) < 1e-6 && maxX < 6)).toBe(true);
    await person.keys('Control', 'z');
  });
});

describe('a bridge by hand', () => {
  it('holds what is cut round, is told with its strength, and is moved along', async () => {
    await choosePart('Part 1');
    const { x, y } = (await design()).board.p1;
    await tool('i');
    await person.type('Bridge width', '1.5');
    await draw([x, y + 28], [x + 9, y + 28]);
    await choosePart('Part 1');
    await person.text('[aria-label="Bridges"]', /1\. 1\.5 mm wide/);
    await person.text('[aria-label="Bridges"]', /A piece of .* hangs on bridge 1/);
    const { bridges } = bridgeStrength(await partOf('p1'));
    expect(bridges).toHaveLength(1);
    expect(bridges[0].at[0]).toBeCloseTo(2.9, 1);
    const mark = (await person.page.waitForSelector('.bridge-mark')) as ElementHandle;
    const [fromPx] = [await person.onScreen(x + 3, y + 28)];
    const toPx = await person.onScreen(x - 2.2, y + 30.2);
    await person.drag(mark, toPx[0] - fromPx[0], toPx[1] - fromPx[1]);
    const [moved] = bridgeStrength(await partOf('p1')).bridges;
    expect(moved.at[0]).toBeLessThan(0);
    expect(moved.widthMm).toBeCloseTo(1.5, 6);
    await person.page.locator('[aria-label="Bridges"] .row-button').click();
    await person.type('Width of bridge 1', '2');
    expect(bridgeStrength(await partOf('p1')).bridges[0].widthMm).toBeCloseTo(2, 6);
    await person.press('Take it away', 'button');
    await person.text('[aria-label="Bridges"]', /None yet/);
    expect(bridgeStrength(await partOf('p1')).bridges).toHaveLength(0);
  });
});

describe('a word that stands on a fold', () => {
  it('is cut over the fold, which is interrupted where it stands', async () => {
    await bare();
    await person.press('New part', 'button');
    const { x, y } = (await design()).board.p2;
    await tool('0');
    await draw([x, y], [x + 80, y + 60]);
    await tool('l');
    await person.pick('Layer of new lines', 'Score, mountain');
    await draw([x, y + 25], [x + 80, y + 25]);
    await choosePart('Part 2');
    await person.type('Letters high', '16');
    await person.pick('Word stands', /On fold 1, a mountain/);
    await person.type('Word', 'Moon');
    await person.press('Stand it there', 'button');
    await person.text('.mantine-Notification-root', /feet, the narrowest/);
    const part = await partOf('p2');
    const plan = panelPlan(part);
    expect(plan.panels).toHaveLength(2);
    const low = panelAt(plan, [2, 2]);
    expect(
      boxOfPaths([
        {
          start: plan.panels[low].region.outer[0],
          segments: plan.panels[low].region.outer.slice(1).map((to) => ({ kind: 'line' as const, to })),
        },
      ]).maxY,
    ).toBeGreaterThan(31);
    // Relief at the ends of what is left of the fold.
    const fold = part.lines.find((line) => line.fold)!;
    const before = distance(fold.path.start, endOf(fold.path));
    await bare();
    const middle = boxCentre(boxOfPaths([fold.path]));
    await person.pressOn(x + middle[0], y + middle[1]);
    await person.type('Relief across', '1');
    await person.press('Relieve its ends', 'button');
    const after = (await partOf('p2')).lines.find(({ id }) => id === fold.id)!;
    expect(distance(after.path.start, endOf(after.path))).toBeCloseTo(before - 1, 3);
  });
});

describe('a picture', () => {
  const file = async (): Promise<string> => {
    const path = join(mkdtempSync(join(tmpdir(), 'picture-')), 'moth.png');
    const red = {
      create: { width: 600, height: 300, channels: 3 as const, background: { r: 230, g: 20, b: 20 } },
    };
    writeFileSync(path, await sharp(red).png().toBuffer());
    return path;
  };
  const bring = async (button: string): Promise<void> => {
    const element = await person.named(button, 'button');
    const [chooser] = await Promise.all([person.page.waitForFileChooser(), element.click()]);
    await chooser.accept([await file()]);
    await person.named('Picture wide', 'textbox');
  };

  it('is laid on the board to draw after, and scaled by a length that is known', async () => {
    await bare();
    await bring('A picture to draw after');
    const [picture] = Object.values((await design()).pictures);
    expect(picture).toMatchObject({ use: 'backdrop', partId: null, widthMm: 120, strength: 0.5 });
    await person.type('What measures so much', '60');
    await person.type('Is really so much', '2in');
    const [scaled] = Object.values((await design()).pictures);
    expect(scaled.widthMm).toBeCloseTo((120 * 50.8) / 60, 6);
    await person.page.waitForSelector('.board-sheet image');
    await person.press('Take the picture away', 'button');
    expect((await design()).images).toEqual({});
  });

  it('as artwork on a panel is seen on the folded card', async () => {
    await bare();
    await person.page.locator('.particulars ::-p-text(Card)').click();
    await bring('Lay a picture on it');
    const [picture] = Object.values((await design()).pictures);
    expect(picture).toMatchObject({ use: 'artwork', partId: 'card' });
    await person.saved();
    await person.go('fold');
    await person.page.waitForSelector('canvas');
    /** The share of the scene that is as red as the picture. */
    const red = () =>
      person.page.$eval('canvas', (canvas) => {
        const copy = document.createElement('canvas');
        [copy.width, copy.height] = [200, 150];
        const context = copy.getContext('2d')!;
        context.drawImage(canvas, 0, 0, 200, 150);
        const { data } = context.getImageData(0, 0, 200, 150);
        let count = 0;
        for (let i = 0; i < data.length; i += 4)
          if (data[i] > 110 && data[i + 1] < data[i] / 2.5 && data[i + 2] < data[i] / 2.5) count++;
        return count / 30_000;
      });
    let share = 0;
    for (let i = 0; i < 60 && share < 0.02; i++) {
      await pause(250);
      share = await red();
    }
    expect(share).toBeGreaterThan(0.02);
    // One file of many revisions: it is kept once.
    await person.go('draft');
    expect(studio.complaints).toEqual([]);
  });
});
