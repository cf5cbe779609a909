/** The pages for everybody: by keyboard alone, by touch, enlarged, in both colours, and before an accessibility checker. */
import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pause, Studio, type Person } from './harness.ts';

const axeSource = readFileSync(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8');
const studio = new Studio();
let person: Person;
beforeAll(async () => {
  await studio.open();
  person = await studio.window('/');
}, 240_000);
afterAll(() => studio.close());

const PLACES: readonly (readonly [string, string])[] = [
  ['/', '.job-card a.job-picture'],
  ['/job/dome-night/brief', '.envelope figcaption'],
  ['/job/dome-night/draft', '.folded-inset svg'],
  ['/job/comet-draft/fold', '.closed-view'],
  ['/job/comet-draft/inspect', '.finding'],
  ['/job/dome-night/sheets', '.sheets-view'],
  ['/job/dome-night/cut', '.order-preview'],
  ['/job/dome-night/build', '.step-drawing'],
  ['/kits', '.kits'],
  ['/learn', '.flat-parts'],
  ['/help#family-step', '.help-family'],
];

interface Violation {
  readonly id: string;
  readonly help: string;
  readonly nodes: readonly string[];
}

/** What the checker finds on the page as it is. */
async function violations(): Promise<Violation[]> {
  await person.page.evaluate(axeSource);
  return person.page.evaluate(async () => {
    const { axe } = globalThis as unknown as {
      axe: {
        run: (
          context: Document,
          options: object,
        ) => Promise<{
          violations: { id: string; help: string; nodes: { html: string; failureSummary: string }[] }[];
        }>;
      };
    };
    const found = await axe.run(document, {
      runOnly: ['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'best-practice'],
    });
    return found.violations.map(({ id, help, nodes }) => ({
      id,
      help,
      nodes: nodes
        .slice(0, 4)
        .map((node) => `${node.html.slice(0, 160)} | ${node.failureSummary.slice(0, 220)}`),
    }));
  });
}

const inColours = (scheme: 'light' | 'dark') =>
  person.page.evaluate((to) => localStorage.setItem('mantine-color-scheme-value', to), scheme);

describe.each(['light', 'dark'] as const)('in %s colours the checker finds nothing', (scheme) => {
  it.each(PLACES)('on %s', async (path, ready) => {
    await inColours(scheme);
    await person.page.goto(`${studio.url}${path}`);
    await person.page.waitForSelector(ready, { timeout: 20_000 });
    await pause(400);
    expect(await violations()).toEqual([]);
  });

  it('in the dialogs: a new card, mechanisms, revisions, keys', async () => {
    await inColours(scheme);
    await person.page.goto(studio.url);
    await person.press('New card', 'button');
    await person.named('Make the card', 'button');
    await pause(400);
    expect(await violations()).toEqual([]);
    await person.page.goto(`${studio.url}/job/dome-night/draft`);
    await person.page.waitForSelector('.folded-inset');
    for (const [name, content] of [
      ['Mechanism', '.drawer-item'],
      ['Solid', '.net-picture'],
      ['Revisions', 'tbody .row-button'],
      ['Keys', '.keys'],
    ]) {
      await person.press(name, 'button');
      await person.page.waitForSelector(content);
      await pause(500);
      expect(await violations(), name).toEqual([]);
      await person.page.keyboard.press('Escape');
      await person.page.waitForFunction(() => !document.querySelector('[role="dialog"]'));
    }
  });
});

const focused = () =>
  person.page.evaluate(() => {
    const at = document.activeElement as HTMLElement;
    return at.getAttribute('aria-label') ?? (at.textContent || at.tagName);
  });

describe('by keyboard alone', () => {
  beforeAll(() => inColours('light'));

  it('a card is made with a mechanism, named after it, its measures open', async () => {
    await person.page.goto(studio.url);
    await person.pick('New card with a mechanism', 'V-fold');
    await person.named('Make the card', 'button');
    await person.page.keyboard.press('Enter');
    await person.text('.job-title', /^V-fold$/);
    await person.text('.particulars h2', /^V-fold/);
    expect(await person.page.$$eval('.particulars input', (inputs) => inputs.length)).toBeGreaterThan(3);
  });

  it('a line is drawn by numbers, chosen, cleared by Escape, chosen from the list and taken away', async () => {
    await person.page.keyboard.press('Escape');
    await person.text('.particulars h2', /On the board/);
    await person.focus('Drawing board');
    await person.keys('r');
    await person.focus('By numbers', 'button');
    await person.keys('Enter');
    for (const [field, value] of [
      ['Left', '5'],
      ['Bottom', '6'],
      ['Width', '1in'],
      ['Height', '20'],
    ])
      await person.type(field, value);
    await person.focus('Draw it', 'button');
    await person.keys('Enter');
    await person.text('.particulars h2', /^Cut/);
    await person.holds('Width', '25.4');
    await person.focus('Drawing board');
    await person.keys('Escape');
    await person.keys('Escape');
    await person.text('.particulars h2', /On the board/);
    await person.focus('Part 1 part', 'button');
    await person.keys('Enter');
    await person.text('.particulars h2', /^Part 1/);
    // A key that belongs to the drawing does nothing on a button.
    await person.focus('Glue it onto the card', 'button');
    await person.keys('Backspace');
    await person.keys('Delete');
    await person.text('.particulars h2', /^Part 1/);
    await person.focus('Drawing board');
    await person.keys('Delete');
    await person.text('.particulars h2', /On the board/);
    expect(await focused()).toBe('Drawing board');
    await person.keys('Control', 'z');
    await person.focus('Part 1', 'button');
    await person.keys('Enter');
    await person.text('.particulars h2', /^Part 1/);
  });

  it('keys do not act behind a dialog, and the focus goes with the place', async () => {
    await person.keys('?');
    await person.page.waitForSelector('.keys');
    await person.keys('Delete');
    await person.keys('Alt', '1');
    await person.keys('Escape');
    await person.page.waitForFunction(() => !document.querySelector('[role="dialog"]'));
    await person.text('.particulars h2', /^Part 1/);
    await person.keys('Alt', '5');
    await person.page.waitForSelector('.sheets-view');
    expect(await person.page.evaluate(() => document.activeElement?.tagName)).toBe('MAIN');
    await person.keys('Alt', '2');
    await person.page.waitForSelector('.board');
    await person.focus('Drawing board');
    await person.keys('m');
    await person.focus('Add a Step', 'button');
    await person.keys('Enter');
    await person.text('.particulars h2', /^Step/);
    await person.page.waitForFunction(() => document.activeElement?.classList.contains('particulars'));
  });
});

describe('by touch', () => {
  it('one finger moves the board and two enlarge it', async () => {
    // What was added before is kept: leaving does not ask.
    await person.saved();
    await person.page.goto(`${studio.url}/job/dome-night/draft`);
    await person.page.waitForSelector('.folded-inset');
    // The board has come to rest, fitted.
    await pause(600);
    const view = () =>
      person.page.$eval('.board-sheet > svg > g', (g) => {
        const [, x, y, k] = /translate\(([-\d.]+) ([-\d.]+)\) scale\(([-\d.]+)\)/.exec(
          g.getAttribute('transform')!,
        )!;
        return { x: Number(x), y: Number(y), k: Number(k) };
      });
    const box = (await (await person.page.waitForSelector('.board-sheet > svg'))!.boundingBox())!;
    const cdp = await person.page.createCDPSession();
    const touch = (type: string, ...points: [number, number][]) =>
      cdp.send('Input.dispatchTouchEvent', {
        type: type as 'touchStart',
        touchPoints: points.map(([x, y], id) => ({ x, y, id })),
      });
    const [x, y] = [box.x + 60, box.y + box.height - 40];
    const before = await view();
    await touch('touchStart', [x, y]);
    for (let i = 1; i <= 8; i++) await touch('touchMove', [x + 5 * i, y - 4 * i]);
    await touch('touchEnd');
    await pause(100);
    const moved = await view();
    expect(moved.x - before.x).toBeGreaterThan(25);
    expect(moved.k).toBeCloseTo(before.k, 6);
    const [cx, cy] = [box.x + box.width / 2, box.y + box.height / 2];
    await touch('touchStart', [cx - 40, cy], [cx + 40, cy]);
    for (let i = 1; i <= 8; i++) await touch('touchMove', [cx - 40 - 6 * i, cy], [cx + 40 + 6 * i, cy]);
    await touch('touchEnd');
    await pause(100);
    expect((await view()).k).toBeGreaterThan(1.5 * moved.k);
  });
});

describe('narrow and enlarged', () => {
  beforeAll(async () => {
    await person.page.close();
    person = await studio.window('/');
  });

  // A window of 1280 that is enlarged to 200 % has room for 640.
  it.each([1024, 640])('at %i nothing is cut off or lies beyond the edge', async (width) => {
    await person.page.setViewport({ width, height: width === 640 ? 400 : 768 });
    try {
      for (const [path, ready] of PLACES) {
        await person.page.goto(`${studio.url}${path}`);
        await person.page.waitForSelector(ready, { timeout: 20_000 });
        await pause(400);
        const cut = await person.page.evaluate(() => {
          const beyond = [
            ...document.querySelectorAll<HTMLElement>('button, input, a, h1, h2, h3, p, li'),
          ].filter((node) => {
            const at = node.getBoundingClientRect();
            if (at.width === 0 || getComputedStyle(node).visibility === 'hidden') return false;
            // What stands in something that scrolls sideways can be brought into view.
            for (let up = node.parentElement; up; up = up.parentElement)
              if (
                ['auto', 'scroll'].includes(getComputedStyle(up).overflowX) &&
                up.scrollWidth > up.clientWidth
              )
                return false;
            return at.right > window.innerWidth + 1 || at.left < -1;
          });
          return [
            ...beyond.map((node) => `${node.tagName} ${node.textContent}`.slice(0, 80)),
            ...(document.documentElement.scrollWidth > window.innerWidth + 1
              ? ['the page scrolls sideways']
              : []),
          ];
        });
        expect(cut, path).toEqual([]);
      }
    } finally {
      await person.page.setViewport({ width: 1280, height: 800 });
    }
  });
});

it('without a complaint in the console', () => expect(studio.complaints).toEqual([]));
