/** A lantern from an OBJ file: read, unfolded, an edge moved by hand, laid on the board, folded up, saved as a cut file. */
import type { Design } from '@hollow-finch/core/design/design';
import { newDesign } from '@hollow-finch/core/design/design';
import { readDesign } from '@hollow-finch/core/design/schema';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { linkageOf } from '@hollow-finch/core/motion/linkage';
import { readBack } from '@hollow-finch/core/formats/testing/svgReadBack';
import { sweep } from '@hollow-finch/core/motion/sweep';
import { uniform, withPoints } from '@hollow-finch/core/solids/shapes';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { afterAll, beforeAll, expect, it } from 'vitest';
import { pause, send, Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;
let id: string;

beforeAll(async () => {
  await studio.open();
  const design: Design = {
    ...newDesign('Star Lantern trial'),
    base: { kind: 'structure', rootPartId: null },
  };
  const answer = await send(`${studio.url}/api/jobs`, 'POST', { design });
  ({ id } = (await answer.json()) as { id: string });
});
afterAll(() => studio.close());

const design = async (): Promise<Design> => {
  await person.saved();
  const answer = (await (await fetch(`${studio.url}/api/jobs/${id}`)).json()) as { design: unknown };
  const read = readDesign(answer.design);
  if (!read.ok) throw new Error(read.message);
  return read.design;
};

const folder = mkdtempSync(join(tmpdir(), 'solid-'));
const written = (name: string, text: string): string => {
  const path = join(folder, name);
  writeFileSync(path, text);
  return path;
};
const { points, faces } = withPoints(uniform('octahedron', 30), 14);
const obj = [
  ...points.map((p) => `v ${p.join(' ')}`),
  ...faces.map((face) => `f ${face.map((v) => v + 1).join(' ')}`),
].join('\n');

const choose = async (button: string, path: string): Promise<void> => {
  const element = await person.named(button, 'button');
  const [chooser] = await Promise.all([person.page.waitForFileChooser(), element.click()]);
  await chooser.accept([path]);
};

/** The net is there that was asked for last. */
const settled = (): Promise<unknown> => person.page.waitForSelector('.solid-net[aria-busy="false"]');

/** Presses an edge of the picture, and waits for the net that it makes. */
const pressEdge = async (edge: string): Promise<void> => {
  await person.page.$eval(`.net-picture [data-cut="${edge}"]`, (node) =>
    (node as unknown as SVGElement).dispatchEvent(new MouseEvent('click', { bubbles: true })),
  );
  await settled();
};

/** Laid on the board: the window is closed once it lies there. */
const layIt = async (): Promise<void> => {
  await settled();
  // On a busy machine the net takes longer.
  await person.page.waitForFunction(
    () =>
      [...document.querySelectorAll<HTMLButtonElement>('button:enabled')].some(
        ({ textContent }) => textContent === 'Lay it on the board',
      ),
    { timeout: 90_000 },
  );
  await person.press('Lay it on the board', 'button');
  await person.page.waitForSelector('.solid-net', { hidden: true });
  await pause(300);
};

it('refuses files that hold no solid, in words', async () => {
  person = await studio.window(`/job/${id}/draft`);
  await pause(800);
  await person.keys('Escape');
  await person.press('Solid', 'button');
  await person.pick('Kind of solid', 'From an OBJ, STL or glTF file');
  await choose('Choose an OBJ, STL or glTF file', written('moth.obj', 'v 0 0 0\nf 1 2 3\n'));
  await person.text('.solid-net', /Line 2: a face asks for corner “2”, and there are 1 so far/);
  await choose(
    'Choose an OBJ, STL or glTF file',
    written('open.obj', obj.split('\n').slice(0, -1).join('\n')),
  );
  await person.text('.solid-net', /It cannot be folded yet.*not closed/);
});

it('a star from an OBJ file is unfolded; an edge is moved by hand, and taken back', async () => {
  await choose('Choose another file', written('lantern.obj', obj));
  await person.type('Longest measure', '4in');
  await person.text('.solid-net', /24 faces in \d piece/);
  await settled();
  const figures = () => person.page.$$eval('.net-picture [data-edge]', (all) => all.length);
  const folds = () =>
    person.page.$$eval('.net-picture [data-fold]', (all) =>
      all.map((node) => node.getAttribute('data-fold')).sort(),
    );
  const before = await folds();
  expect(await figures()).toBe(before.length);
  // An edge whose folding leaves no faces on each other.
  const cuts = await person.page.$$eval('.net-picture [data-cut]', (all) =>
    all.map((node) => node.getAttribute('data-cut')!),
  );
  let moved: string | undefined;
  for (const edge of new Set(cuts)) {
    await pressEdge(edge);
    if (!/lie on each other/.test(await person.text('.solid-net', /faces in/))) {
      moved = edge;
      break;
    }
    await person.press('Take the last edge back', 'button');
    await settled();
  }
  expect(moved).toBeDefined();
  expect(await folds()).toContain(moved);
  await person.press('Take the last edge back', 'button');
  await settled();
  expect(await folds()).toEqual(before);
  await pressEdge(moved!);
  await layIt();
  const laid = await design();
  const parts = Object.values(laid.parts);
  expect(parts[0].name).toMatch(/^lantern/);
  expect(laid.base).toEqual({ kind: 'structure', rootPartId: parts[0].id });
  const faceFolds = parts.reduce(
    (sum, part) =>
      sum + Object.values(part.lines).filter(({ fold }) => fold).length - Object.keys(part.glueZones).length,
    0,
  );
  expect(faceFolds).toBe(24 - parts.length);
});

it('folds up until it closes, and is saved as a cut file', async () => {
  await person.figure('fold', /\w/);
  const motion = sweep(linkageOf(expand(await design())));
  expect(motion.residualMm[0]).toBeLessThan(1e-6);
  await person.go('fold');
  await person.page.waitForSelector('canvas');
  await person.go('cut');
  await person.pick('What', /lantern/);
  await person.press('Save the SVG', 'button');
  const { groups } = readBack((await person.downloaded()).text);
  expect(groups).toEqual(expect.arrayContaining(['cut', 'score-mountain', 'score-valley']));
  expect(studio.complaints).toEqual([]);
});

it('a letter gets depth, hollow where it is, and a finer file is made simpler', async () => {
  await person.go('draft');
  await pause(600);
  await person.press('Solid', 'button');
  await person.pick('Kind of solid', 'Regular and half-regular solids');
  await person.text('.solid-net', /12 faces in 1 piece/);
  const cut = () =>
    person.page.$$eval('.net-picture [data-cut]', (all) =>
      all.map((node) => node.getAttribute('data-cut')).join(),
    );
  const before = await cut();
  await person.pick('Where it is cut', 'Below, where it stands');
  await person.page.waitForFunction(
    (was: string) =>
      [...document.querySelectorAll('.net-picture [data-cut]')]
        .map((node) => node.getAttribute('data-cut'))
        .join() !== was,
    {},
    before,
  );
  await person.text('.solid-net', /12 faces in 1 piece/);
  await person.pick('Kind of solid', 'Letter or figure with depth');
  await person.pick('Letter', 'A');
  await person.type('Letter high', '60');
  // Another net than the prism that is there at first.
  await person.text('.solid-net', /(?:^|\D)(?!8 |12 )\d+ faces in 1 piece/);
  await layIt();
  const letter = Object.values((await design()).parts).find(({ name }) => name === 'Letter A')!;
  expect(Object.keys(letter.lines).filter((line) => line.startsWith('c'))).toHaveLength(2);
  await person.press('Solid', 'button');
  await person.pick('Kind of solid', 'From an OBJ, STL or glTF file');
  const fine = withPoints(uniform('truncated icosahedron', 20), 6);
  const text = [
    ...fine.points.map((p) => `v ${p.join(' ')}`),
    ...fine.faces.map((face) => `f ${face.map((v) => v + 1).join(' ')}`),
  ].join('\n');
  await choose('Choose an OBJ, STL or glTF file', written('fine.obj', text));
  await person.text('.solid-net', /180 faces in/);
  await person.type('Faces at most', '60');
  await person.text('.solid-net', /(?:^|\D)([4-9]\d|1[01]\d) faces in/);
  await person.keys('Escape');
  expect(studio.complaints).toEqual([]);
});
