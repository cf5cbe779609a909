/** The application as it is delivered (built server, its own database) and a browser that uses it as a person does. */
import { spawn, type ChildProcess } from 'node:child_process';
import { cpSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import puppeteer, { type Browser, type ElementHandle, type Page } from 'puppeteer-core';
import { expect, inject } from 'vitest';
import { databaseIn, WEB } from './seeded.ts';

export const freePort = (): Promise<number> =>
  new Promise((done) => {
    const probe = createServer();
    probe.listen(0, '127.0.0.1', () => {
      const { port } = probe.address() as { port: number };
      probe.close(() => done(port));
    });
  });

export class Studio {
  private server: ChildProcess | undefined;
  private browser: Browser | undefined;
  private readonly folder = mkdtempSync(join(tmpdir(), 'hollow-finch-e2e-'));
  private port = 0;
  /** Console errors and failed scripts of all pages; tests end by expecting none. */
  readonly complaints: string[] = [];
  /** Complaints about a server that a test took away on purpose are let pass while this is set. */
  serverIsAway = false;

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  private get env(): NodeJS.ProcessEnv {
    return {
      ...process.env,
      PORT: String(this.port),
      HOST: '127.0.0.1',
      HOLLOW_FINCH_DB: databaseIn(this.folder),
    };
  }

  /**
   * Starts the server with the demo jobs, and the browser: with graphics by the processor that can draw the scene (the
   * scene alone: a page drawn that way takes most of a core), or as a machine without a graphics card has it, where there
   * is none.
   *
   * @param options.seeded the folder of the demo jobs' database; the tests' own unless told
   */
  async open({ scene = true, seeded }: { scene?: boolean; seeded?: string } = {}): Promise<void> {
    this.port = await freePort();
    cpSync(seeded ?? inject('seeded'), this.folder, { recursive: true });
    await this.startServer();
    this.browser = await puppeteer.launch({
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      userDataDir: join(this.folder, 'profile'),
      args: [
        '--no-sandbox',
        ...(scene
          ? [
              '--use-angle=swiftshader',
              '--enable-unsafe-swiftshader',
              '--disable-gpu-compositing',
              '--disable-gpu-rasterization',
            ]
          : ['--disable-gpu']),
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
      defaultViewport: { width: 1280, height: 800 },
    });
  }

  async startServer(): Promise<void> {
    const server = spawn('node', ['start.mjs'], {
      cwd: WEB,
      env: this.env,
      stdio: ['ignore', 'ignore', 'pipe'],
    });
    this.server = server;
    let said = '';
    server.stderr.on('data', (data) => (said += String(data)));
    // A busy machine takes its time.
    for (let i = 0; i < 600 && server.exitCode === null; i++) {
      try {
        if ((await fetch(`${this.url}/api/jobs`)).ok) return;
      } catch {
        // Not there yet.
      }
      await pause(100);
    }
    throw new Error(`The server did not start (${server.exitCode ?? 'no answer'}). ${said}`);
  }

  /** Kills the server at once, as a power cut would. */
  async killServer(): Promise<void> {
    const gone = new Promise((done) => this.server?.once('exit', done));
    this.server?.kill('SIGKILL');
    await gone;
  }

  /** A new window with its own storage, at an address. */
  async window(path: string): Promise<Person> {
    const context = await this.browser!.createBrowserContext();
    const page = await context.newPage();
    const downloads = mkdtempSync(join(this.folder, 'downloads-'));
    const session = await page.createCDPSession();
    await session.send('Browser.setDownloadBehavior', {
      behavior: 'allow',
      downloadPath: downloads,
      browserContextId: context.id,
    });
    page.on('console', (message) => {
      if (
        message.type() === 'error' &&
        !(
          this.serverIsAway &&
          /ERR_CONNECTION_REFUSED|ERR_CONNECTION_RESET|ERR_EMPTY_RESPONSE|status of 503/.test(message.text())
        )
      )
        this.complaints.push(message.text());
    });
    page.on('pageerror', (error) => this.complaints.push(String(error)));
    await page.goto(`${this.url}${path}`);
    return new Person(page, downloads);
  }

  async close(): Promise<void> {
    await this.browser?.close();
    this.server?.kill();
    rmSync(this.folder, { recursive: true, force: true });
  }
}

/** Sends something to a server of its own accord, as its own page would. */
export const send = (url: string, method: string, body: unknown): Promise<Response> =>
  fetch(url, {
    method,
    headers: { 'content-type': 'application/json', origin: new URL(url).origin },
    body: JSON.stringify(body),
  });

export const pause = (ms: number): Promise<void> => new Promise((done) => setTimeout(done, ms));

/** A person at one window. */
export class Person {
  constructor(
    readonly page: Page,
    private readonly downloads: string,
  ) {}

  /** The element with an accessible name (and role), scrolled out from under what stays over its list. */
  async named(name: string, role?: string): Promise<ElementHandle> {
    const selector = role ? `::-p-aria([name="${name}"][role="${role}"])` : `::-p-aria(${name})`;
    const found = await this.page
      .waitForSelector(selector, { visible: true, timeout: 15_000 })
      .catch(() => null);
    if (!found)
      throw new Error(`Nothing is named ${name}${role ? ` (${role})` : ''}: ${await this.whereabouts()}`);
    await found.evaluate((node) => {
      const element = node as unknown as Element;
      if (element.closest('.particulars')) element.scrollIntoView({ block: 'nearest' });
    });
    return found as ElementHandle;
  }

  /** Where the window is, and the first words there: what a test that failed tells. */
  private async whereabouts(): Promise<string> {
    const words = await this.page
      .$eval('body', (body) => (body as unknown as HTMLElement).innerText.replace(/\s+/g, ' ').slice(0, 400))
      .catch(String);
    return `${this.page.url()} has “${words}”`;
  }

  /**
   * Presses what has come to rest, can be pressed and lies under the pointer: an answer that comes meanwhile may move it
   * or draw it anew, and a list that is still unfolding is pressed beside its entry.
   */
  private async pressAtRest(what: string, find: () => Promise<ElementHandle>): Promise<void> {
    let element = await find();
    const until = Date.now() + 30_000;
    for (let before = ''; ; await pause(60)) {
      const state = await element.evaluate((node) => {
        const e = node as unknown as HTMLElement;
        if (e.getClientRects().length === 0) return { box: '', hindrance: 'is gone' };
        e.scrollIntoView({ block: 'nearest', inline: 'nearest' });
        const { x, y, width, height } = e.getBoundingClientRect();
        const top = document.elementFromPoint(x + width / 2, y + height / 2);
        const under =
          top &&
          (e.contains(top) || top.contains(e) || (top.closest('label') as HTMLLabelElement)?.control === e);
        return {
          box: JSON.stringify([x, y, width, height]),
          hindrance: e.matches(':disabled')
            ? 'cannot be pressed'
            : under
              ? null
              : `lies under ${top ? `${top.tagName} ${top.getAttribute('class') ?? ''}` : 'nothing'}`,
        };
      });
      if (state.box && state.box === before && !state.hindrance) return element.click();
      if (Date.now() > until) throw new Error(`${what} ${state.hindrance ?? 'does not come to rest'}.`);
      if (!state.box) element = await find();
      before = state.box;
    }
  }

  /** Presses the first that a selector finds. */
  async pressFirst(selector: string): Promise<void> {
    await this.pressAtRest(
      selector,
      async () => (await this.page.waitForSelector(selector))! as ElementHandle,
    );
  }

  async press(name: string, role?: string): Promise<void> {
    await this.pressAtRest(name, () => this.named(name, role));
  }

  async focus(name: string, role?: string): Promise<void> {
    await (await this.named(name, role)).evaluate((node) => (node as unknown as SVGElement).focus());
  }

  /** Clicks on a text, such as the words beside a switch. */
  async pressWords(words: string): Promise<void> {
    await this.page.locator(`::-p-text(${words})`).click();
  }

  /** Opens a section of the particulars of Fold, if it is not open. */
  async section(value: string): Promise<void> {
    const head = (await this.page.waitForSelector(`[data-section="${value}"] button[aria-expanded]`))!;
    if ((await head.evaluate((node) => node.getAttribute('aria-expanded'))) === 'true') return;
    await head.click();
    await pause(350);
  }

  /** Goes to a stage by its link in the rail. */
  async go(stage: string): Promise<void> {
    const link = `.stages a[href$="/${stage}"]`;
    for (let tries = 0; tries < 3; tries++) {
      await this.pressFirst(link);
      const there = this.page.waitForSelector(`${link}[aria-current]`, { timeout: 5_000 });
      if (await there.catch(() => null)) return;
    }
    throw new Error(`The place ${stage} does not open: ${await this.whereabouts()}`);
  }

  /** Replaces what a field holds, and takes it with Enter. */
  async type(field: string, text: string, take = true): Promise<void> {
    const inHand = async (): Promise<boolean> =>
      (await this.named(field, 'textbox')).evaluate((node) => node === (document.activeElement as unknown));
    // What is drawn above the field meanwhile moves it from under the pointer: a person sees that, and presses again.
    let tries = 0;
    do await this.press(field, 'textbox');
    while (++tries < 3 && !(await inHand()));
    await this.page.keyboard.down('Control');
    await this.page.keyboard.press('a');
    await this.page.keyboard.up('Control');
    await this.page.keyboard.type(text);
    if (take) await this.page.keyboard.press('Enter');
  }

  async valueOf(field: string): Promise<string> {
    return (await this.named(field, 'textbox')).evaluate(
      (node) => (node as unknown as HTMLInputElement).value,
    );
  }

  /** What a field comes to hold. */
  async holds(field: string, wanted: string): Promise<void> {
    for (let i = 0; i < 200 && (await this.valueOf(field)) !== wanted; i++) await pause(50);
    expect(await this.valueOf(field), field).toBe(wanted);
  }

  /** Picks an entry of a drop-down; a list that was drawn anew meanwhile is asked, and opened, again. */
  async pick(field: string, entry: string | RegExp): Promise<void> {
    const within = Date.now() + 15_000;
    const option = async (): Promise<ElementHandle> => {
      const found = await this.page.waitForFunction(
        (source: string, exact: boolean) =>
          [...document.querySelectorAll('[role="option"]')].find(
            (o) =>
              (o as HTMLElement).offsetParent &&
              (exact ? o.textContent === source : new RegExp(source).test(o.textContent ?? '')),
          ) ?? null,
        { timeout: 3_000 },
        entry instanceof RegExp ? entry.source : entry,
        typeof entry === 'string',
      );
      return found.asElement() as ElementHandle;
    };
    for (;;) {
      await this.press(field);
      try {
        return await this.pressAtRest(String(entry), option);
      } catch (failure) {
        if (Date.now() > within) throw failure;
      }
    }
  }

  /** A place on the board in screen pixels, from board millimetres. */
  async onScreen(x: number, y: number): Promise<[number, number]> {
    return this.page.$eval(
      '.board-sheet > svg',
      (svg, bx, by) => {
        const [, tx, ty, k] = /translate\(([-\d.]+) ([-\d.]+)\) scale\(([\d.]+)\)/
          .exec(svg.querySelector(':scope > g')!.getAttribute('transform')!)!
          .map(Number);
        const box = svg.getBoundingClientRect();
        return [box.x + tx + bx * k, box.y + ty - by * k] as [number, number];
      },
      x,
      y,
    );
  }

  /** Presses on a place of the board, in board millimetres. */
  async pressOn(x: number, y: number): Promise<void> {
    const [px, py] = await this.onScreen(x, y);
    await this.page.mouse.move(px, py, { steps: 2 });
    await this.page.mouse.down();
    await this.page.mouse.up();
  }

  /** Drags from the middle of an element by pixels, in steps as a hand does. */
  async drag(target: ElementHandle, dx: number, dy: number): Promise<void> {
    const box = (await target.boundingBox())!;
    await this.dragBetween(
      [box.x + box.width / 2, box.y + box.height / 2],
      [box.x + box.width / 2 + dx, box.y + box.height / 2 + dy],
    );
  }

  async dragBetween(from: readonly [number, number], to: readonly [number, number]): Promise<void> {
    const { mouse } = this.page;
    await mouse.move(...from);
    await mouse.down();
    for (let i = 1; i <= 12; i++) {
      await mouse.move(from[0] + ((to[0] - from[0]) * i) / 12, from[1] + ((to[1] - from[1]) * i) / 12);
      await pause(8);
    }
    await mouse.up();
  }

  /** The live figure of a stage, once it reads as wanted. */
  async figure(stage: string, wanted: RegExp): Promise<string> {
    return this.text(`[data-stage="${stage}"]`, wanted);
  }

  /** The text of the first element that a selector finds, once it reads as wanted. */
  async text(selector: string, wanted: RegExp): Promise<string> {
    let last = '';
    for (let i = 0; i < 400; i++) {
      last = await this.page.$eval(selector, (node) => node.textContent ?? '').catch(() => '');
      if (wanted.test(last)) return last;
      await pause(50);
    }
    expect(last, selector).toMatch(wanted);
    return last;
  }

  saved(): Promise<unknown> {
    return this.page.waitForSelector('[data-save="saved"]', { timeout: 30_000 });
  }

  /** The newest downloaded file as a text, once it is there. */
  async downloaded(): Promise<{ name: string; text: string }> {
    const { name, bytes } = await this.downloadedBytes();
    return { name, text: bytes.toString('utf8') };
  }

  /** The newest downloaded file, once it is there. */
  async downloadedBytes(): Promise<{ name: string; bytes: Buffer }> {
    for (let i = 0; i < 200; i++) {
      const [name] = readdirSync(this.downloads).filter((file) =>
        /\.(svg|dxf|csv|zip|pdf|obj|stl|glb|fold)$/.test(file),
      );
      if (name) {
        const bytes = readFileSync(join(this.downloads, name));
        rmSync(join(this.downloads, name));
        return { name, bytes };
      }
      await pause(100);
    }
    throw new Error('No file was downloaded.');
  }

  async keys(...keys: string[]): Promise<void> {
    for (const key of keys.slice(0, -1)) await this.page.keyboard.down(key as 'Control');
    await this.page.keyboard.press(keys[keys.length - 1] as 'z');
    for (const key of keys.slice(0, -1).reverse()) await this.page.keyboard.up(key as 'Control');
  }
}
