/**
 * The real page under a hand: pictures a second while a handle is dragged on the largest demo job, and while a part is dragged
 * on a board with 5,000 segments. The page is drawn as on a machine without a graphics card: a graphics card played by the
 * processor takes longer to hand over a window than the page takes to draw it. Needs the built application (npm run build)
 * and Chromium.
 */
import { newDesign, type Design } from '@hollow-finch/core/design/design';
import { workOf, type DieLine, type Layer } from '@hollow-finch/core/dieline/part';
import { polyline, straight } from '@hollow-finch/core/geometry/path';
import type { ElementHandle } from 'puppeteer-core';
import { rmSync } from 'node:fs';
import { Studio, pause, send, type Person } from '../e2e/harness.ts';
import { seedFolder } from '../e2e/seeded.ts';

/** A part of outlines with folds across: so many segments in all. */
function largeDesign(segments: number): Design {
  const lines: Record<string, DieLine> = {};
  const add = (layer: Layer, path: DieLine['path']) => {
    const id = `l${Object.keys(lines).length}`;
    lines[id] = { id, ...workOf(layer), path };
  };
  const ring = (x: number, y: number, r: number, corners: number) =>
    polyline(
      Array.from({ length: corners }, (_, i): [number, number] => {
        const angle = (2 * Math.PI * i) / corners;
        return [x + r * Math.cos(angle), y + r * Math.sin(angle)];
      }),
      true,
    );
  add(
    'cut',
    polyline(
      [
        [0, 0],
        [600, 0],
        [600, 400],
        [0, 400],
      ],
      true,
    ),
  );
  for (let n = 0; n * 20 < segments - 100; n++)
    add('cut', ring(12 + 24 * (n % 24), 12 + 24 * (Math.floor(n / 24) % 16), 8, 20));
  for (let k = 0; k < 20; k++) add('valley', straight([0, 24 + 18 * k], [600, 24 + 18 * k]));
  const part = {
    id: 'p',
    name: 'Lattice',
    stockId: 'chalk-300',
    grainRad: null,
    quantity: 1,
    lines,
    glueZones: {},
    marks: {},
  };
  return { ...newDesign('Lattice'), parts: { p: part } };
}

/** Counts pictures for three seconds, in the page; as text, so that it is run as it stands. */
const COUNT_PICTURES = `new Promise((done) => {
  const from = performance.now();
  let [pictures, last, worstMs] = [0, from, 0];
  const picture = (now) => {
    pictures++;
    worstMs = Math.max(worstMs, now - last);
    last = now;
    if (now - from > 3000) done({ rate: (1000 * pictures) / (now - from), worstMs });
    else requestAnimationFrame(picture);
  };
  requestAnimationFrame(picture);
})`;

/** Drags an element to and fro for some seconds; gives back the pictures drawn a second, and the longest wait for one, ms. */
async function dragged(person: Person, target: ElementHandle): Promise<{ rate: number; worstMs: number }> {
  const { page } = person;
  const box = (await target.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  const counted = page.evaluate(COUNT_PICTURES) as Promise<{ rate: number; worstMs: number }>;
  const until = Date.now() + 3100;
  for (let k = 0; Date.now() < until; k++) {
    await page.mouse.move(x + 14 * Math.sin(k / 6), y + 6 * Math.cos(k / 5));
    await pause(8);
  }
  const found = await counted;
  await page.mouse.up();
  await pause(300);
  await person.saved();
  return found;
}

const studio = new Studio();
const seeded = await seedFolder();
const say = (what: string, { rate, worstMs }: { rate: number; worstMs: number }) =>
  console.log(
    `${what.padEnd(58)} ${rate.toFixed(0)} pictures/s, longest wait ${worstMs.toFixed(0)} ms${' '.repeat(4)}(30 pictures/s)`,
  );
try {
  await studio.open({ scene: false, seeded });
  const person = await studio.window('/job/star-terrace/draft');
  await person.page.waitForSelector('.folded-inset');
  await pause(1500);
  const handle = (await person.page.waitForSelector('[data-handle]'))! as ElementHandle;
  say('Dragging a handle of Star Terrace', await dragged(person, handle));
  const made = await send(`${studio.url}/api/jobs`, 'POST', { design: largeDesign(5000) });
  const { id } = (await made.json()) as { id: string };
  await person.page.goto(`${studio.url}/job/${id}/draft`);
  await person.page.waitForSelector('[data-part="p"]');
  await pause(4000);
  const part = (await person.page.waitForSelector('[data-part="p"] .part-body'))! as ElementHandle;
  say('Dragging a part of 5,000 segments', await dragged(person, part));
  await person.page.$eval('[data-part="p"] [data-line="l5"]', (node) =>
    node.dispatchEvent(new PointerEvent('pointerdown', { bubbles: true, button: 0 })),
  );
  const corner = (await person.page.waitForSelector('[data-grip="Corner 1"]'))! as ElementHandle;
  say('Dragging a corner of a line among 5,000 segments', await dragged(person, corner));
  await person.focus('Drawing board');
  await person.keys('l');
  await pause(1000);
  const board = (await person.page.waitForSelector('.board-sheet > svg'))! as ElementHandle;
  say('Drawing a line among 5,000 segments, with its snaps', await dragged(person, board));
} finally {
  await studio.close();
  rmSync(seeded, { recursive: true, force: true });
}
