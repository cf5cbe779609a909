/** What a hand moves: pulls on the strip, every family from the drawer, the rehearsal, and a piece dragged on its panel. */
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { FAMILIES } from '@hollow-finch/core/mechanisms/registry';
import { pause, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open());
afterAll(() => studio.close());

const stripValue = () => person.page.$eval('.strip-value', (e) => e.textContent?.trim());

describe('a pull', () => {
  it('is chosen on the strip and drawn out by keys, its place told in millimetres', async () => {
    person = await studio.window('/job/meteor-run/fold');
    await person.page.waitForSelector('.scene canvas');
    await person.pick('What is moved', 'Meteor frames');
    await person.focus('Meteor frames', 'slider');
    await person.keys('Home');
    expect(await stripValue()).toBe('0.0 mm');
    await person.keys('PageUp', 'PageUp', 'PageUp');
    expect(await stripValue()).toBe('19.5 mm');
    await person.keys('End');
    expect(await stripValue()).toBe('39.0 mm');
    await person.text('.strip-marks', /moves freely/);
    await person.text('.particulars', /Moved by hand: Meteor frames/);
    await person.pick('What is moved', 'Opening');
    await person.text('.strip-value', /^\d+°$/);
  });
});

describe('a pull held while the card opens', () => {
  it('is mapped against the opening, gone to by keys, and put back', async () => {
    await person.section('held');
    await person.text('.held-map figcaption', /put it back to 0\.0 mm before the card is opened or closed/);
    await person.page.focus('.held-press');
    await person.keys('ArrowUp');
    await person.text('.strip-marks', /Meteor frames held at 3\.3 mm/);
    await person.text('.strip-marks', /catches Meteor frames flap 1/);
    const before = await stripValue();
    await person.keys('ArrowLeft');
    expect(parseInt((await stripValue())!)).toBe(parseInt(before!) - 5);
    for (let i = 0; i < 3; i++) await person.keys('ArrowUp');
    // One frame has turned over and lies flat: the card closes.
    await person.text('.strip-marks', /held at 13\.0 mm/);
    await person.text('.strip-marks', /opens and closes freely/);
    await person.press('Put it back to rest', 'button');
    await person.text('.strip-marks', /^opens and closes freely$/);
  });
});

describe('the drawer', () => {
  it('puts every family on the card, sound as it comes, and takes it away again', async () => {
    person = await studio.window('/job/evening-programme/draft');
    await person.page.waitForSelector('.folded-inset');
    for (const family of FAMILIES) {
      await person.press('Mechanism', 'button');
      await person.press(`Add a ${family.title}`, 'button');
      await person.text('.particulars h2', new RegExp(`^${family.title}`));
      // The reach of its handles and fields is told, and nothing is broken.
      await person.text('.particulars', /What the card allows/);
      expect(await person.page.$('.reasons.wrong')).toBeNull();
      await person.press('Undo', 'button');
    }
  });

  it('cuts a word that is typed', async () => {
    await person.press('Mechanism', 'button');
    await person.press('Add a Cut-in word', 'button');
    await person.type('Word', 'SUN');
    await person.saved();
    const job = (await (await fetch(`${studio.url}/api/jobs/evening-programme`)).json()) as {
      design: { instances: Record<string, { family: string; params: { text?: string } }> };
    };
    expect(Object.values(job.design.instances).find((i) => i.family === 'cutInWord')?.params.text).toBe(
      'SUN',
    );
    await person.type('Word', 'S!N');
    await person.text('.reasons', /no block letter for “!”/);
  });
});

describe('what is loose', () => {
  it('is shown moving along its freedoms, by itself and by hand', async () => {
    person = await studio.window('/job/evening-programme/draft');
    await person.page.waitForSelector('.folded-inset');
    await person.press('Mechanism', 'button');
    await person.press('Add a Zigzag strip', 'button');
    await person.text('.particulars h2', /^Zigzag strip/);
    await person.go('fold');
    await person.page.waitForSelector('.scene canvas');
    // The card's own step is called by its name, and the strip says that paper spreads it.
    await person.text('.particulars', /Zigzag strip: 4 free, spread evenly by the paper/);
    await person.press('Show how', 'button');
    const value = () =>
      person.page.$eval('.loose [role="slider"]', (e) => Number(e.getAttribute('aria-valuenow')));
    await person.page.waitForSelector('.loose [role="slider"]');
    const first = await value();
    await pause(1500);
    expect(await value()).not.toBe(first);
    await person.focus('How Zigzag strip is loose', 'slider');
    await person.keys('Home');
    await person.keys('ArrowRight');
    expect(await value()).toBe(1);
    await pause(200);
    expect(await value()).toBe(1);
    await person.press('Hold it still', 'button');
    await person.text('.particulars', /Show how/);
    await person.press('Undo', 'button');
  });
});

describe('rehearsing the glue-up', () => {
  it('answers folds and joints one after another, up to the finished movement', async () => {
    person = await studio.window('/job/dome-night/fold');
    await person.page.waitForSelector('.scene canvas');
    await person.section('rehearsal');
    await person.press('Begin with loose parts', 'button');
    await person.text('.particulars', /0 of 5 joined/);
    await person.press('ridge valley', 'button');
    await person.text('.fold-practice', /Drawn as mountain/);
    await person.press('ridge mountain', 'button');
    await person.text('.fold-practice', /Right: mountain\./);
    await person.press('Join it', 'button');
    await person.text('.particulars', /1 of 5 joined/);
    await person.text('.particulars', /3 folds are still free/);
    for (let i = 2; i <= 5; i++) {
      await person.press('Join it', 'button');
      await person.text('.particulars', new RegExp(`${i} of 5 joined`));
    }
    await person.text('.particulars', /this is the finished movement/);
    await person.press('Take the last apart', 'button');
    await person.text('.particulars', /4 of 5 joined/);
    await person.press('Stop', 'button');
    await person.text('.particulars', /Begin with loose parts/);
  });
});

describe('a glued piece', () => {
  const piece = async () => (await person.page.waitForSelector('[data-piece="j1"]'))!;
  const focusPiece = async () => (await piece()).evaluate((e) => (e as SVGElement).focus());
  it('is drawn on its panel with the free area, warns when it leaves it, and snaps back in', async () => {
    person = await studio.window('/job/dome-night/draft');
    await person.page.waitForSelector('.folded-inset');
    await focusPiece();
    await person.page.waitForSelector('.room-free');
    const outside = async () => (await piece()).evaluate((e) => e.getAttribute('data-outside'));
    expect(await outside()).toBe('false');
    // Three steps of a centimetre upwards: beyond the upper edge of the closed card.
    await person.page.keyboard.down('Shift');
    for (let i = 0; i < 3; i++) await person.keys('ArrowUp');
    await person.page.keyboard.up('Shift');
    await pause(600);
    expect(await outside()).toBe('true');
    await person.text('.particulars', /leaves the free area|catches or pokes out/);
    await person.figure('fold', /pokes|catch/);
    for (let i = 0; i < 3; i++) await person.press('Undo', 'button');
    await focusPiece();
    await person.page.waitForFunction(
      () => document.querySelector('[data-piece="j1"]')?.getAttribute('data-outside') === 'false',
    );
    await person.figure('fold', /folds away/);
  });

  it('turns and slides instead, when it is let, and shows as a pull of its own', async () => {
    await person.press('Take this glue away', 'button');
    await person.pick('Hang it otherwise', 'Turns on a brad');
    await person.pick('What is moved', 'Dome');
    await person.focus('Dome', 'slider');
    await person.keys('End');
    expect(await stripValue()).toBe('180°');
    await person.press('Take this joint away', 'button');
    await person.pick('Hang it otherwise', 'Slides in a channel');
    await person.pick('What is moved', 'Dome');
    await person.type('Travel', '42');
    await person.focus('Dome', 'slider');
    await person.keys('End');
    await person.text('.strip-value', /^42\.0 mm$/);
    for (let i = 0; i < 5; i++) await person.press('Undo', 'button');
    await person.figure('fold', /folds away/);
  });

  it('passes through a slot that is chosen, and says what must be drawn for a fold to be turned', async () => {
    await focusPiece();
    await person.press('Take this glue away', 'button');
    await person.pick('Hang it otherwise', 'A fold of it is turned by hand');
    await person.text('.mantine-Notification-root', /Draw a score on Dome first/);
    await person.pick('Hang it otherwise', 'Passes through a slot');
    await person.pick('Line of Card', /^Cut, 105 mm/);
    await person.press('Moved by hand', 'switch');
    await person.type('Travel', '1in');
    await person.pick('What is moved', 'Dome');
    await person.focus('Dome', 'slider');
    await person.keys('End');
    await person.text('.strip-value', /^25\.4 mm$/);
    for (let i = 0; i < 5; i++) await person.press('Undo', 'button');
    await person.figure('fold', /folds away/);
  });

  it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
});
