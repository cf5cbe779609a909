/** Seeds the demo jobs once before all files: every studio begins with a copy of them. */
import { spawn } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import type { TestProject } from 'vitest/node';

export const WEB = resolve(import.meta.dirname, '..');

/** The address of the database in a folder. */
export const databaseIn = (folder: string): string => `file:${join(folder, 'test.db')}`;

declare module 'vitest' {
  interface ProvidedContext {
    /** The folder of the seeded database, which is the only thing in it. */
    seeded: string;
  }
}

/** Seeds the demo jobs into a new folder: its name. */
export async function seedFolder(): Promise<string> {
  const folder = mkdtempSync(join(tmpdir(), 'hollow-finch-seeded-'));
  const env = { ...process.env, HOLLOW_FINCH_DB: databaseIn(folder) };
  await new Promise<void>((done, fail) => {
    const seed = spawn('npx', ['tsx', 'src/demo/seed.ts'], { cwd: WEB, env, stdio: 'ignore' });
    seed.on('exit', (code) => (code === 0 ? done() : fail(new Error(`Seeding ended with ${code}.`))));
  });
  return folder;
}

export default async function seeded(project: TestProject): Promise<() => void> {
  const folder = await seedFolder();
  project.provide('seeded', folder);
  return () => rmSync(folder, { recursive: true, force: true });
}
