/** One card from brief to cut file, through the interface, as the shop would make it. */
import { layerOf } from '@hollow-finch/core/dieline/part';
import { off, pointsOf, readBack } from '@hollow-finch/core/formats/testing/svgReadBack';
import type { Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { flatten, placePath } from '@hollow-finch/core/geometry/path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pause, Studio, type Person } from './harness.ts';

/** The fold figure of a card from which nothing pokes out. */
const INSIDE = /^(folds away|\d+ catch(es)?)$/;

const studio = new Studio();
let person: Person;
let jobUrl = '';

beforeAll(() => studio.open());
afterAll(() => studio.close());

const stored = async (): Promise<{ design: Design; revision: number }> => {
  await person.saved();
  const job = (await (await fetch(`${studio.url}/api/jobs/${jobUrl.split('/')[4]}`)).json()) as {
    design: unknown;
    revision: number;
  };
  const read = readDesign(job.design);
  if (!read.ok) throw new Error(read.message);
  return { design: read.design, revision: job.revision };
};

describe('a card from brief to cut file', () => {
  it('is made on the shelf with its size', async () => {
    person = await studio.window('/');
    await person.press('New card', 'button');
    await person.type('Name', 'Small Hours', false);
    await person.type('Closed width', '14.8cm');
    await person.type('Closed height', '105');
    await person.press('Make the card', 'button');
    await person.page.waitForSelector('.folded-inset');
    jobUrl = person.page.url();
    expect(jobUrl).toMatch(/\/job\/[^/]+\/draft$/);
    const { design } = await stored();
    expect(design.brief).toMatchObject({ closedWidthMm: 148, closedHeightMm: 105, opening: 'side' });
    expect(design.name).toBe('Small Hours');
  });

  it('gets a glued-in step and a V-fold from the drawer', async () => {
    await person.press('Add a Step', 'button');
    await person.figure('draft', /^2 parts/);
    await person.press('Mechanism', 'button');
    await person.press('Add a V-fold', 'button');
    await person.figure('draft', /^3 parts/);
    await person.figure('fold', INSIDE);
  });

  it('takes a measure in mixed units, and says what is wrong with a bad one', async () => {
    await person.press('Choose and move', 'button');
    await person.focus('Step: left foot', 'button');
    await person.type('Left foot', '1 1/2in - 2mm');
    await person.holds('Left foot', '36.1');
    await person.type('Left foot', '5 furlongs', false);
    await person.text('.mantine-InputWrapper-error', /"furlongs" is not a unit/);
    await person.page.keyboard.press('Escape');
    await person.type('Left foot', '400', false);
    await person.text('.mantine-InputWrapper-error', /At most .* open edge/);
    await person.page.keyboard.press('Escape');
    await person.holds('Left foot', '36.1');
    expect((await stored()).design.instances.m1.params.leftMm).toBeCloseTo(36.1, 9);
  });

  it('follows a dragged handle, and stops where the card ends', async () => {
    const before = Number(await person.valueOf('Right foot'));
    await person.drag(await person.named('Step: right foot', 'button'), 30, 0);
    const after = Number(await person.valueOf('Right foot'));
    expect(after).toBeGreaterThan(before + 5);
    await person.drag(await person.named('Step: right foot', 'button'), 320, 0);
    const held = Number(await person.valueOf('Right foot'));
    // Parallel: the left panel is as long as the right foot, so 36.1 + right foot may reach 146.
    expect(held).toBeCloseTo(109.9, 1);
    // A large step comes down on the V-fold: catches may be found, but nothing pokes out.
    await person.figure('fold', INSIDE);
    await person.keys('Control', 'z');
    expect(Number(await person.valueOf('Right foot'))).toBeCloseTo(after, 6);
  });

  const scene = () =>
    person.page.$eval('.scene canvas', (canvas) => (canvas as HTMLCanvasElement).toDataURL());

  it('is turned by hand, on until it is seen from below', async () => {
    await person.go('fold');
    await person.page.waitForSelector('.scene canvas');
    await pause(1000);
    const box = (await (await person.page.$('.scene canvas'))!.boundingBox())!;
    const [x, y] = [box.x + 0.3 * box.width, box.y + 0.6 * box.height];
    const seen = [await scene()];
    // From about 40 degrees above down to as many below, 20 degrees at a time.
    for (let k = 0; k < 4; k++) {
      await person.page.mouse.move(x, y);
      await person.page.mouse.down();
      await person.page.mouse.move(x, y - box.height / 18, { steps: 5 });
      await person.page.mouse.up();
      await pause(400);
      seen.push(await scene());
    }
    expect(new Set(seen).size).toBe(5);
  });

  it('opens and closes', async () => {
    await person.go('fold');
    await person.page.waitForSelector('.scene canvas');
    await person.section('folds');
    await person.focus('Opening', 'slider');
    const gutter = () => person.text('.fold-angles tbody tr:nth-child(2) td:last-child', /°/);
    await person.page.keyboard.press('Home');
    await person.text('.fold-angles tbody tr:nth-child(2) td:last-child', /^180\.0°$/);
    const closed = await scene();
    await person.page.keyboard.press('End');
    await person.text('.fold-angles tbody tr:nth-child(2) td:last-child', /^0\.0°$/);
    await pause(300);
    expect(await scene()).not.toBe(closed);
    await person.press('Open and close', 'button');
    await pause(700);
    await person.press('Stop', 'button');
    const now = parseFloat(await gutter());
    expect(now).toBeGreaterThan(2);
    expect(now).toBeLessThan(178);
  });

  it('shows what pokes out when the step is made too big, and mends it', async () => {
    await person.go('draft');
    await person.focus('Step: left foot', 'button');
    await person.pressWords('Let it go beyond the card');
    const right = Number(await person.valueOf('Right foot'));
    await person.type('Left foot', `${160 - right}mm`);
    await person.figure('fold', /pokes out 12 mm/);
    await person.text('.strip-marks', /pokes out by 12\.0 mm/);
    await person.figure('inspect', /faults/);
    await person.go('inspect');
    await person.text('.finding[data-rule="closedOverhang"]', /12 mm over the open edge/);
    // The mend comes when the hand has rested and every rule has agreed to it.
    const acts = '.finding[data-rule="closedOverhang"] .finding-acts button';
    await person.text(acts, /^Set (left|right) foot to .* mm$|^Set left panel to/);
    await person.pressFirst(acts);
    await person.figure('fold', INSIDE);
    expect(await person.page.$('.finding[data-rule="closedOverhang"]')).toBeNull();
  });

  it('is packed, exported, and the file holds every line at its place', async () => {
    await person.go('sheets');
    await person.press('Pack the sheets', 'button');
    await person.figure('sheets', /^\d+ sheets?, \d+ %$/);
    await person.page.waitForFunction(() => !document.querySelector('[role="progressbar"]'));
    await person.go('cut');
    const sheets = (await stored()).design.sheetPlan!.sheets;
    expect(sheets.length).toBeGreaterThanOrEqual(2);
    const groups: Record<string, string[]> = {
      mountain: ['score-mountain'],
      valley: ['score-valley'],
      cut: ['cut-inner', 'cut-outer'],
    };
    const seen = new Set<string>();
    for (let i = 0; i < sheets.length; i++) {
      await person.pick('What', new RegExp(`^Sheet ${i + 1},`));
      await person.press('Save the SVG', 'button');
      const { name, text } = await person.downloaded();
      expect(name).toMatch(/^small-hours-sheet-\d.*-\d+\.svg$/);
      const { design } = await stored();
      const sheet = design.sheetPlan!.sheets[i];
      const read = readBack(text);
      expect(read.size).toEqual({
        width: `${sheet.widthMm}mm`,
        height: `${sheet.heightMm}mm`,
        viewBox: `0 0 ${sheet.widthMm} ${sheet.heightMm}`,
      });
      expect(read.groups.indexOf('cut')).toBeGreaterThan(read.groups.indexOf('score-valley'));
      let lines = 0;
      for (const piece of sheet.pieces) {
        const part = expand(design).parts.find((p) => p.id === piece.partId)!;
        for (const line of part.lines.filter((l) => l.process !== 'mark')) {
          const found = read.paths.filter((p) => p.part === part.id && p.line === line.id);
          expect(found).toHaveLength(1);
          expect(groups[layerOf(line)]).toContain(found[0].group);
          const placed = placePath(piece.placement, line.path);
          const points = pointsOf(found[0].d, sheet.heightMm);
          expect(off(points, placed)).toBeLessThan(0.01);
          expect(
            off(flatten(placed), {
              start: points[0],
              segments: points.slice(1).map((to) => ({ kind: 'line', to })),
            }),
          ).toBeLessThan(0.03);
          seen.add(`${part.id}/${line.id}`);
          lines++;
        }
      }
      expect(read.paths).toHaveLength(lines);
    }
    const { design } = await stored();
    const all = expand(design).parts.flatMap((part) =>
      part.lines.filter((l) => l.process !== 'mark').map((l) => `${part.id}/${l.id}`),
    );
    expect([...seen].sort()).toEqual(all.sort());
    await person.figure('cut', new RegExp(`^job ${sheets.length}$`));
  });

  it('says that the cut job is out of date when the design changes, and not any more when that is undone', async () => {
    await person.go('brief');
    await person.type('Closed height', '106');
    await person.figure('cut', /out of date/);
    await person.figure('sheets', /out of date/);
    await person.press('Undo', 'button');
    await person.figure('cut', /^job \d$/);
  });

  it('is all there after loading the page again, and undo goes on', async () => {
    const { design, revision } = await stored();
    await person.page.reload();
    await person.text('[data-stage="draft"]', /^3 parts/);
    await person.figure('cut', /^job \d$/);
    expect((await stored()).design).toEqual(design);
    expect((await stored()).revision).toBe(revision);
    // Back over the undone height: packing, then the mend, are taken back one by one.
    await person.press('Undo', 'button');
    await person.figure('sheets', /not packed/);
    await person.press('Undo', 'button');
    await person.figure('fold', /pokes out 12 mm/);
    await person.press('Redo', 'button');
    await person.press('Redo', 'button');
    await person.figure('sheets', /^\d+ sheets?/);
    expect((await stored()).design).toEqual(design);
  });

  it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
});
