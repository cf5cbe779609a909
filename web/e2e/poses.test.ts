/** The pose on screen, saved for other programs and read back. */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { Studio, type Person } from './harness.ts';

const studio = new Studio();
let person: Person;

beforeAll(() => studio.open(), 240_000);
afterAll(() => studio.close());

it('is saved as it stands: each format by its own marks, another place as another file', async () => {
  person = await studio.window('/job/dome-night/fold');
  await person.page.waitForSelector('canvas');
  await person.section('files');
  const save = async (kind: RegExp) => {
    await person.pick('Format', kind);
    await person.press('Save the pose', 'button');
    return person.downloadedBytes();
  };
  const glb = await save(/^glTF/);
  expect(glb.name).toMatch(/^dome-night-at-\d+.*\.glb$/);
  expect(glb.bytes.subarray(0, 4).toString('latin1')).toBe('glTF');
  expect(glb.bytes.readUInt32LE(8)).toBe(glb.bytes.length);
  const stl = await save(/^STL/);
  expect(stl.bytes.length).toBe(84 + 50 * stl.bytes.readUInt32LE(80));
  const fold = JSON.parse((await save(/^FOLD/)).bytes.toString('utf8')) as {
    file_spec: number;
    faces_vertices: unknown[];
  };
  expect(fold.file_spec).toBe(1.2);
  expect(fold.faces_vertices.length).toBeGreaterThan(4);
  const places = (text: string) =>
    text.split('\n').flatMap((line) => (line.startsWith('v ') ? [line.split(' ').slice(1).map(Number)] : []));
  // On the table all of an opened card lies low; closed it is folded over.
  await person.focus('Opening', 'slider');
  await person.keys('End');
  const open = places((await save(/^OBJ/)).bytes.toString('utf8'));
  await person.focus('Opening', 'slider');
  await person.keys('Home');
  const closed = places((await save(/^OBJ/)).bytes.toString('utf8'));
  const wide = (all: number[][]) => Math.max(...all.map(([x]) => x)) - Math.min(...all.map(([x]) => x));
  expect(closed).toHaveLength(open.length);
  expect(Math.abs(wide(open) - wide(closed))).toBeGreaterThan(50);
  expect(studio.complaints).toEqual([]);
});
