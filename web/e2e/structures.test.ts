/** What stands by itself: a wallet from a pass to its cut file, a bag folded up step by step, an envelope beside a card. */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { readBack } from '@hollow-finch/core/formats/testing/svgReadBack';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pause, send, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open(), 240_000);
afterAll(() => studio.close());

async function begin(name: string, base: Design['base']): Promise<string> {
  const answer = await send(`${studio.url}/api/jobs`, 'POST', { design: { ...newDesign(name), base } });
  return ((await answer.json()) as { id: string }).id;
}

async function design(id: string): Promise<Design> {
  await person.saved();
  const answer = (await (await fetch(`${studio.url}/api/jobs/${id}`)).json()) as { design: unknown };
  const read = readDesign(answer.design);
  if (!read.ok) throw new Error(read.message);
  return read.design;
}

describe('a wallet', () => {
  let id: string;

  it('is picked from the drawer, sized from a pass, and says what follows', async () => {
    id = await begin('Pass trial', { kind: 'structure', rootPartId: null });
    person = await studio.window(`/job/${id}/draft`);
    await person.press('Add a Wallet', 'button');
    await person.type('Contents, thick', '0.8');
    await person.type('How many', '2');
    await person.pressWords('Band');
    await person.text('.particulars', /for 1\.6 mm of contents/);
    await person.text('.particulars', /The band is 91\.8 mm from fold to fold/);
    await person.pressWords('Tongue');
    await person.type('Flap', '1 1/4in');
    const { instances } = await design(id);
    expect(Object.values(instances)[0]).toMatchObject({
      family: 'wallet',
      host: { partId: '@table' },
      params: { closing: 'tongue', flapMm: 31.75, pieces: 2, thickMm: 0.8, wideMm: 85.6 },
    });
    await person.figure('inspect', /nothing found/);
  });

  it('is folded up, and saved as a cut file with its slot', async () => {
    await person.go('fold');
    await person.page.waitForSelector('canvas');
    await person.press('3. Close the flap, its tongue into the slot', 'button');
    await person.text('.strip-value', /^0°$/);
    await person.text('.strip-marks', /folds up freely/);
    await person.go('cut');
    await person.pick('What', /Wallet/);
    await person.press('Save the SVG', 'button');
    const { groups } = readBack((await person.downloaded()).text);
    expect(groups).toEqual(expect.arrayContaining(['cut', 'score-mountain']));
    expect(studio.complaints).toEqual([]);
  });
});

describe('a bag', () => {
  it('is folded up step by step, each at its place', async () => {
    person = await studio.window('/job/kit-bag/fold');
    await person.page.waitForSelector('canvas');
    const steps = [
      ['Flat, as it is cut', '180°'],
      ['1. Turn in the hem', '144°'],
      ['2. Close the tube, glue the tab inside', '108°'],
      ['3. Floor flaps of the gussets in', '72°'],
      ['4. Floor of back and front over them, glue it', '36°'],
      ['5. Lay it flat: the gussets in, the floor up on the front', '0°'],
    ] as const;
    for (const [words, place] of steps) {
      await person.press(words, 'button');
      await person.text('.strip-value', new RegExp(`^${place}$`));
      const current = await person.page.$$eval('.fold-steps [aria-current]', (all) =>
        all.map((node) => node.textContent),
      );
      expect(current).toEqual([words]);
    }
    // Between standing and lying flat its paper must give, and by how much is said.
    await person.page.focus('.strip-track');
    await person.keys('PageUp');
    await person.text('.fold-steps', /Here the paper must give by [\d.]+ mm/);
    await person.figure('inspect', /nothing found/);
    expect(studio.complaints).toEqual([]);
  });
});

describe('a twisted prism', () => {
  it('shows by how much its paper must give on the way, and that it does not when it stands', async () => {
    person = await studio.window('/job/twist-lantern/fold');
    await person.page.waitForSelector('canvas');
    await person.press('1. Close it round its base and top', 'button');
    await person.text('.fold-steps', /Here the paper lies without strain\. At most \d/);
    await person.page.focus('.strip-track');
    await person.keys('PageDown');
    await person.text('.fold-steps', /Here the paper must give by [\d.]+ mm/);
    await person.press('2. Press it flat with a turn', 'button');
    await person.text('.fold-steps', /without strain/);
    expect(studio.complaints).toEqual([]);
  });
});

describe('an envelope', () => {
  it('is made for the card beside which it lies, and lies flat there', async () => {
    const id = await begin('Card with its envelope', { kind: 'card', front: 'left' });
    person = await studio.window(`/job/${id}/draft`);
    await person.press('Add a Envelope', 'button');
    await person.text('.particulars', /Inside 152 mm x 109 mm/);
    await person.type('Card, thick', '2');
    await person.text('.particulars', /Inside 153 mm x 110 mm/);
    await person.pressWords('Diagonal');
    const { instances } = await design(id);
    expect(Object.values(instances)[0].params).toMatchObject({ seams: 'diagonal', wideMm: 148, tallMm: 105 });
    await person.figure('inspect', /nothing found/);
    await person.go('fold');
    await person.text('.particulars', /Flat beside the card, on which they do not stand: Envelope/);
    // Made plain it is an ordinary part, and comes back with one undo.
    await person.go('draft');
    await person.page.waitForSelector('.folded-inset');
    await person.page.locator('.particulars ::-p-text(Envelope)').click();
    await person.press('Make it plain', 'button');
    const plain = await design(id);
    expect(plain.instances).toEqual({});
    expect(Object.values(plain.parts).map(({ name }) => name)).toEqual(['Envelope']);
    await person.focus('Drawing board');
    await person.keys('Control', 'z');
    expect(Object.keys((await design(id)).instances)).toHaveLength(1);
    await pause(300);
    expect(studio.complaints).toEqual([]);
  });
});

describe('a wallet for a card', () => {
  it('is glued onto a half of it, moved there, and taken off again; a box there keeps it from closing', async () => {
    const id = await begin('Card with a pocket', { kind: 'card', front: 'left' });
    person = await studio.window(`/job/${id}/draft`);
    await person.press('Add a Wallet', 'button');
    await person.pick('Stands on', 'the card’s right half');
    await person.text('.particulars', /How it is glued on/);
    await person.type('From the lower edge', '60');
    const { instances } = await design(id);
    expect(Object.values(instances)[0]).toMatchObject({
      host: { partId: 'card', gutterId: 'panel:right' },
      mount: { panelId: null, face: 'outside', x: 0, y: 60 },
    });
    await person.figure('inspect', /nothing found/);
    await person.pick('Stands on', 'by itself');
    expect(Object.values((await design(id)).instances)[0].mount).toBeUndefined();
    const other = await begin('Card with a box', { kind: 'card', front: 'left' });
    person = await studio.window(`/job/${other}/draft`);
    await person.press('Add a Tuck box', 'button');
    await person.pick('Stands on', 'the card’s right half');
    await person.figure('inspect', /\d+ fault/);
    await person.go('inspect');
    await person.text('main', /runs into .*Tuck box/);
    expect(studio.complaints).toEqual([]);
  });
});

describe('a tuck box made plain', () => {
  it('has its tongues untucked and tucked in by hand', async () => {
    const id = await begin('Tuck trial', { kind: 'structure', rootPartId: null });
    person = await studio.window(`/job/${id}/draft`);
    await person.press('Add a Tuck box', 'button');
    await person.figure('inspect', /nothing found/);
    await person.press('Make it plain', 'button');
    const tucks = async () => {
      const [part] = Object.values((await design(id)).parts);
      return Object.values(part.marks).flatMap(({ name, behind }) => (behind ? [[name, behind]] : []));
    };
    const before = await tucks();
    expect(before.length).toBeGreaterThan(0);
    const [tongue] = before[0];
    const section = '[aria-label="Tucked in"]';
    await person.text(section, new RegExp(`${tongue} behind`));
    await person.press(`Leave ${tongue} untucked`, 'button');
    expect(await tucks()).toEqual(before.slice(1));
    // Behind another one, and taken back.
    await person.pick('Tongue', tongue);
    await person.pick('Goes behind', /left|side 1|wall/i);
    await person.press('Tuck it in', 'button');
    expect((await tucks()).map(([name]) => name)).toContain(tongue);
    await person.press('Undo', 'button');
    expect(await tucks()).toEqual(before.slice(1));
    expect(studio.complaints).toEqual([]);
  });
});
