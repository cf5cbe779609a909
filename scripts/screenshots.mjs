/**
 * Refreshes docs/screenshots from the demo data: `node scripts/screenshots.mjs [name...]`. Start the application first
 * (scripts/demo.sh); give its address in HOLLOW_FINCH_URL if it is not the usual one.
 */
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import puppeteer from 'puppeteer-core';

const url = process.env.HOLLOW_FINCH_URL ?? 'http://127.0.0.1:4321';
const out = resolve(process.env.HOLLOW_FINCH_SHOTS ?? 'docs/screenshots');
const profile = mkdtempSync(join(tmpdir(), 'hollow-finch-shots-'));
const browser = await puppeteer.launch({
  executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
  userDataDir: profile,
  args: [
    '--no-sandbox',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
  defaultViewport: { width: 1280, height: 800 },
});

const wait = (ms) => new Promise((done) => setTimeout(done, ms));
const click = (page, label) => page.locator(`::-p-aria(${label})`).click();

/** Opens a section of the particulars of Fold, if it is not open. */
const section = async (page, value) => {
  const head = await page.waitForSelector(`[data-section="${value}"] button[aria-expanded]`);
  if ((await head.evaluate((node) => node.getAttribute('aria-expanded'))) !== 'true') await head.click();
  await wait(400);
};

const shots = {
  shelf: async (page) => {
    await page.goto(url);
    await page.waitForFunction(
      () => document.querySelectorAll('.job-card .figure .good, .job-card .figure .wrong').length >= 3,
    );
  },
  brief: (page) =>
    page.goto(`${url}/job/dome-night/brief`).then(() => page.waitForSelector('.envelope figcaption span')),
  draft: async (page) => {
    await page.goto(`${url}/job/dome-night/draft`);
    await page.waitForSelector('.folded-inset');
    await click(page, 'Telescope');
  },
  planning: async (page) => {
    await page.goto(`${url}/job/hilltop-evening/brief`);
    await page.waitForSelector('.planning');
    await wait(800);
    for (const name of ['Cutting list', 'Post']) await click(page, name);
    await wait(1200);
    await page.evaluate(() => document.querySelector('.planning').scrollIntoView());
    await wait(400);
  },
  store: async (page) => {
    await page.goto(`${url}/store`);
    await page.waitForSelector('.store-table tbody tr');
    await wait(500);
  },
  drawer: async (page) => {
    await page.goto(`${url}/job/evening-programme/draft`);
    await page.waitForSelector('.folded-inset');
    await click(page, 'Mechanism');
    await page.waitForSelector('.drawer-item');
    await wait(600);
  },
  fold: async (page) => {
    await page.goto(`${url}/job/dome-night/fold`);
    await page.waitForSelector('.scene canvas');
    await page.waitForSelector('.closed-view');
    await wait(1500);
  },
  decorate: async (page) => {
    await page.goto(`${url}/job/star-terrace/fold`);
    await page.waitForSelector('.scene canvas');
    await section(page, 'decorate');
    await (await page.waitForSelector('::-p-aria(Panel to decorate)')).click();
    await wait(300);
    await page.evaluate(() =>
      [...document.querySelectorAll('[role=option]')]
        .find((o) => /left plane, plane/.test(o.textContent))
        .click(),
    );
    await page.waitForSelector('.decorate-free');
    await page.evaluate(() => document.querySelector('.decorate-view').scrollIntoView({ block: 'end' }));
    await wait(1000);
  },
  catches: async (page) => {
    await page.goto(`${url}/job/comet-draft/fold`);
    await page.waitForSelector('.scene canvas');
    await (await page.waitForSelector('.particulars .row-button')).click();
    await wait(1500);
  },
  inspect: async (page) => {
    await page.goto(`${url}/job/comet-draft/inspect`);
    await page.waitForSelector('.finding');
    await page.evaluate(() => document.querySelector('.finding[data-rule="thinWeb"] .finding-main').click());
    await wait(300);
  },
  sheets: async (page) => {
    await page.goto(`${url}/job/dome-night/sheets`);
    await page.waitForSelector('.sheets-view');
    if (!(await page.$('.sheet'))) await click(page, 'Pack the sheets');
    await page.waitForFunction(
      () =>
        document.querySelector('[data-save="saved"]') &&
        document.querySelectorAll('.sheet').length >= 3 &&
        !document.querySelector('[role="progressbar"]'),
      { timeout: 60_000 },
    );
    await page.waitForSelector('.sheet-piece.movable');
    await page.$eval('.sheet-piece.movable', (piece) => piece.focus());
    await page.waitForSelector('[aria-label="Chosen piece"]');
  },
  cut: async (page) => {
    await page.goto(`${url}/job/star-lantern/cut`);
    await page.waitForSelector('.order-preview');
    await (await page.waitForSelector('::-p-text(Play this file)')).click();
    await page.waitForSelector('.cutter-strip');
    await page.focus('::-p-aria([name="Time of the cut"][role="slider"])');
    for (let i = 0; i < 120; i++) await page.keyboard.press('ArrowLeft');
    await page.$eval('[aria-label="Rehearse the cut"]', (node) => node.scrollIntoView());
  },
  solid: async (page) => {
    await page.goto(`${url}/job/evening-programme/draft`);
    await page.waitForSelector('.folded-inset');
    await page.locator('::-p-aria([name="Solid"][role="button"])').click();
    await page.waitForSelector('.net-picture');
    await click(page, 'Kind of solid');
    await page.locator('::-p-aria([name="Regular and half-regular solids"][role="option"])').click();
    await page.waitForFunction(() =>
      /12 faces/.test(document.querySelector('.solid-net')?.textContent ?? ''),
    );
    await wait(600);
  },
  standing: async (page) => {
    await page.goto(`${url}/job/kit-bag/fold`);
    await page.waitForSelector('.fold-steps button');
    await wait(1200);
    await (await page.$$('.fold-steps button'))[3].click();
    await wait(1200);
  },
  drawing: async (page) => {
    await page.goto(`${url}/job/dome-night/draft`);
    await page.waitForSelector('.folded-inset');
    await click(page, 'Dome part');
    await click(page, 'Show the widths');
    await page.waitForSelector('.widths image');
    await wait(1500);
    await page.evaluate(() =>
      document.querySelector('[aria-label="Widths"]').scrollIntoView({ block: 'center' }),
    );
    await wait(400);
  },

  revisions: async (page) => {
    await page.goto(`${url}/job/evening-programme/brief`);
    const width = await page.waitForSelector('::-p-aria([name="Closed width"][role="textbox"])');
    await width.click();
    await page.keyboard.type('150');
    await page.keyboard.press('Enter');
    await page.waitForSelector('[data-save="saved"]');
    await click(page, 'Revisions');
    await (await page.waitForSelector('::-p-aria([name="Revision 1"][role="button"])')).click();
    await page.waitForSelector('.version-picture .die');
    await wait(800);
  },
  build: async (page) => {
    await page.goto(`${url}/job/dome-night/build`);
    await page.waitForSelector('.step-drawing');
    await page.evaluate(() =>
      document.querySelector('[data-step="join/m1/glue-left"]').scrollIntoView({ block: 'start' }),
    );
    await wait(500);
  },
  kits: async (page) => {
    await page.goto(`${url}/kits`);
    if (
      !(await page
        .waitForSelector('.kit, .kits > p')
        .then((at) => at.evaluate((node) => node.matches('.kit'))))
    ) {
      await click(page, 'New kit');
      await page.waitForSelector('.kit');
      for (const name of ['Dome Night', 'Moon Wheel', 'Swinging Weight']) {
        await click(page, 'Add a design');
        await wait(300);
        await page.evaluate(
          (words) =>
            [...document.querySelectorAll('[role=option]')].find((o) => o.textContent === words).click(),
          name,
        );
        await wait(300);
      }
    }
    await page.waitForSelector('[aria-label="Sheets"]');
    await click(page, 'Pack the kit');
    await page.waitForFunction(
      () =>
        document.querySelector('[aria-label="Sheets"] tbody tr td:nth-child(2)') &&
        !document.querySelector('[role="progressbar"]'),
      { timeout: 90_000 },
    );
    await wait(600);
  },
  learn: async (page) => {
    await page.goto(`${url}/learn`);
    await page.waitForSelector('.flat-parts');
    const parts = await page.$('.flat-parts');
    const box = await parts.boundingBox();
    await page.mouse.click(box.x + box.width * 0.85, box.y + box.height * 0.3);
    await click(page, 'That is all');
    await page.waitForSelector('[data-result]');
    await wait(500);
  },
};

const wanted = process.argv.slice(2);
try {
  for (const [name, prepare] of Object.entries(shots)) {
    if (wanted.length > 0 && !wanted.includes(name)) continue;
    const context = await browser.createBrowserContext();
    const page = await context.newPage();
    page.on(
      'console',
      (message) => message.type() === 'error' && console.error(`${name}: ${message.text()}`),
    );
    page.on('pageerror', (error) => console.error(`${name}: ${error.message}`));
    await prepare(page);
    await wait(400);
    await page.screenshot({ path: join(out, `${name}.png`) });
    console.log(name);
    await context.close();
  }
} finally {
  await browser.close();
  rmSync(profile, { recursive: true, force: true });
}
