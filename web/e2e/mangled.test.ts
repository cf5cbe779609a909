/**
 * Mangled designs on the page: each is refused by the server with place and cure, or stands on the page, looked at or saying why
 * not, without an error in the console. MANGLED says how many (60 unless said), SEED which.
 */
import { afterAll, beforeAll, expect, it } from 'vitest';
import { mangledDesigns } from '../src/demo/testing/mangle.ts';
import { Studio, pause, send, type Person } from './harness.ts';

const COUNT = Number(process.env.MANGLED ?? 60);
const SEED = Number(process.env.SEED ?? 9);
const LONGEST_MS = 60_000;
const STAGES = ['draft', 'inspect', 'sheets', 'brief', 'cut'];

const studio = new Studio();
let person: Person;
beforeAll(async () => {
  await studio.open();
  person = await studio.window('/');
});
afterAll(() => studio.close());

/** What the rail says of a job once it was looked at: how many faults, or why not. */
const LOOKED = `(() => {
  const said = document.querySelector('[data-stage="inspect"]')?.textContent ?? '';
  return said && !/…$/.test(said) ? said : null;
})()`;

it(
  `of ${COUNT} mangled designs every one is refused in words or opens on the page`,
  async () => {
    let [refused, opened, n] = [0, 0, 0];
    for (const design of mangledDesigns(SEED, COUNT)) {
      const answer = await send(`${studio.url}/api/jobs`, 'POST', { design });
      const said = (await answer.json()) as { id: string; detail: string };
      if (!answer.ok) {
        expect(answer.status).toBe(422);
        expect(said.detail).toMatch(/[Aa]t .+: .+\. Put that right/);
        refused++;
        continue;
      }
      const from = Date.now();
      await person.page.goto(`${studio.url}/job/${said.id}/${STAGES[n++ % STAGES.length]}`);
      let words: unknown = null;
      while (!words && Date.now() - from < LONGEST_MS) {
        words = await person.page.evaluate(LOOKED);
        if (!words) await pause(30);
      }
      expect(words, JSON.stringify(design)).toMatch(/\w/);
      expect(await person.page.$('main'), JSON.stringify(design)).not.toBeNull();
      expect(studio.complaints, JSON.stringify(design)).toEqual([]);
      opened++;
    }
    expect(Math.min(refused, opened)).toBeGreaterThan(COUNT / 10);
  },
  60_000 + COUNT * 10_000,
);
