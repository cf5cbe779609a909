/** The brief as a planner: the size from any end, clashes, mats, the cutting list, the sizes that suit, what holds it, post. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { USUAL_CARDS } from '@hollow-finch/core/planning/suits';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { pause, send, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;
let id: string;

beforeAll(async () => {
  await studio.open();
  const answer = await send(`${studio.url}/api/jobs`, 'POST', {
    design: newDesign('Planned card', { closedWidthMm: 148, closedHeightMm: 105 }),
  });
  ({ id } = (await answer.json()) as { id: string });
  person = await studio.window(`/job/${id}/brief`);
}, 240_000);
afterAll(() => studio.close());

async function design(): Promise<Design> {
  await person.saved();
  const answer = (await (await fetch(`${studio.url}/api/jobs/${id}`)).json()) as { design: unknown };
  const read = readDesign(answer.design);
  if (!read.ok) throw new Error(read.message);
  return read.design;
}

it('lets the size follow from the blank, and says where a typed size clashes with it', async () => {
  await person.text('.plan', /148 mm × 105 mm closed, as it was typed; blank 296 mm × 105 mm/);
  await person.pressWords('Blank');
  await person.type('Blank wide', '12in');
  await person.text('.plan', /The closed size and the blank clash by 4\.4 mm in width/);
  // What is let go follows.
  await person.page.locator('.plan ::-p-text(Closed size)').click();
  await person.text('.plan', /152\.4 mm × 105 mm closed, from the blank/);
  const { brief } = await design();
  expect(brief.plan).toMatchObject({ held: ['blank'], blankMm: [expect.closeTo(304.8, 6), 105] });
  expect(brief.closedWidthMm).toBeCloseTo(152.4, 9);
  // Typed again it is held again.
  await person.type('Closed width', '150');
  expect((await design()).brief.plan.held).toEqual(expect.arrayContaining(['size', 'blank']));
  await person.text('.plan', /clash by 2\.4 mm/);
});

it('takes what goes in, several of them, and holds the card to it', async () => {
  await person.pick('Add what goes in', 'Pass, ID-1');
  await person.type('Count of thing 1', '3');
  await person.pick('Add what goes in', 'Photo, 10 × 15');
  await person.text('.plan', /Together 152 mm × 102 mm, 2\.5 mm thick/);
  await person.text('.plan', /The closed size and what goes in clash by 26 mm in width/);
  await person.press('Take thing 2 out', 'button');
  await person.text('.plan', /Together 85\.6 mm × 54 mm, 2\.3 mm thick/);
  const { brief } = await design();
  expect(brief.plan.contents).toEqual([expect.objectContaining({ name: 'Pass, ID-1', pieces: 3 })]);
  await person.focus('Add what goes in');
  await person.keys('Escape');
});

it('puts mats on every panel, outside and inside, with one press', async () => {
  await person.press('Mats of every panel', 'button');
  await person.text('.mat-list', /right half: 144 mm × 99 mm/);
  await person.pick('Border of the mats', '1/8 in');
  await person.text('.mat-list', /143\.7 mm × 98\.7 mm/);
  await person.press('Put mats on 4 panels', 'button');
  const { instances } = await design();
  expect(Object.values(instances).map(({ family, host }) => [family, host.gutterId])).toEqual(
    ['left', 'right', 'left@back', 'right@back'].map((panel) => ['mats', `panel:${panel}`]),
  );
  await person.text('.mat-list', /has mats/);
  await person.figure('inspect', /nothing found/);
});

it('lists what is cut, and saves the list as CSV', async () => {
  await person.press('Cutting list', 'button');
  await person.type('Copies', '25');
  await person.text('.cutting-table', /25\s*Card/);
  await person.press('Save the list as CSV', 'button');
  const { text, name } = await person.downloaded();
  expect(name).toBe('cutting-list.csv');
  const rows = text.trim().split('\r\n');
  expect(rows[0]).toBe('Count,Part,Size,Stock,Colour,Grain');
  expect(rows[1]).toBe('25,Card,300 mm x 105 mm,Chalk 300,#f3efe4,upright');
  expect(rows).toHaveLength(1 + 5 + 1);
});

it('tries the usual sizes, and carries the design to one of them, which can be undone', async () => {
  await person.press('Which sizes it suits', 'button');
  await person.press('Try the usual card sizes', 'button');
  await person.text('.planning', /At least .* wide at the present height/);
  const before = (await design()).brief.closedWidthMm;
  await person.press('Carry it to A5', 'button');
  expect((await design()).brief).toMatchObject({ closedWidthMm: 210, closedHeightMm: 148 });
  await person.keys('Control', 'z');
  // All sizes stand there while they are tried again: what is below them is where it was.
  for (let k = 0; k < 20; k++) {
    expect(await person.page.$$eval('.sizes-table tbody tr', (rows) => rows.length)).toBe(USUAL_CARDS.length);
    await pause(30);
  }
  expect((await design()).brief.closedWidthMm).toBe(before);
});

it('drafts an envelope for it as thick as it is, and a wallet for what goes in', async () => {
  await person.press('What holds it', 'button');
  await person.press('Draft an envelope for it', 'button');
  await person.press('Draft a wallet for what goes in', 'button');
  // What folds up is fetched when it is first drafted: then both are there.
  let made = Object.values((await design()).instances).slice(-2);
  for (let tries = 0; tries < 20 && made.at(-1)?.family !== 'wallet'; tries++) {
    await pause(250);
    made = Object.values((await design()).instances).slice(-2);
  }
  expect(made.map(({ family }) => family)).toEqual(['envelope', 'wallet']);
  expect(made[0].params.wideMm).toBe(150);
  expect(Number(made[0].params.thickMm)).toBeGreaterThan(3);
  expect(made[1].params).toMatchObject({ wideMm: 85.6, tallMm: 53.98 });
  await person.figure('inspect', /nothing found/);
});

it('weighs and gauges it for the post, in a person’s own classes', async () => {
  await person.press('Post', 'button');
  await person.text('.planning', /The scale shows [\d.]+ g; the gauge reads 1[56]\d(?:\.\d)? mm × 1\d\d/);
  await person.text('.planning', /It goes as /);
  const answer = await send(`${studio.url}/api/store`, 'POST', {
    items: [
      {
        kind: 'postClasses',
        item: {
          id: 'tiny',
          name: 'Tiny letter',
          kind: 'letter',
          longMm: 164.5,
          shortMm: 119.5,
          thickMm: 4.95,
          weightG: 400,
          leastLongMm: 0,
          leastShortMm: 0,
        },
      },
    ],
  });
  expect(answer.ok).toBe(true);
  await person.page.reload();
  await person.press('Post', 'button');
  await person.text('.planning', /It goes as Tiny letter/);
  await pause(200);
  expect(studio.complaints).toEqual([]);
});
