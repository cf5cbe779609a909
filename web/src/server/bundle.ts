/**
 * Jobs as a file and back: one JSON document with everything that is kept of them (docs/bundle.md). A bundle is checked whole
 * before anything of it is stored, and each of its jobs becomes a new one: nothing that is there is touched.
 */
import { readDesign } from '@hollow-finch/core/design/schema';
import { asc, eq } from 'drizzle-orm';
import { BUNDLE_FORMAT, BUNDLE_VERSION, bundleSchema, type Bundle } from '../shared/contracts.ts';
import type { Database } from './db/client.ts';
import { cutJobs, jobs, kept, revisions, trials } from './db/schema.ts';
import { imagesOf, Packing, withImages } from './images.ts';
import { gone, newId } from './jobs.ts';
import { listTrials } from './records.ts';
import { checkedBy, Problem } from './problem.ts';

/** A design's text as a document, its pictures by their names; one that is damaged goes along as the text that it is. */
function documentOf(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return text;
  }
}

/**
 * The bundle of one job, or of all.
 *
 * @throws Problem 404 when there is no such job
 */
export async function bundleOf(db: Database, id?: string): Promise<Bundle> {
  const rows = await db
    .select()
    .from(jobs)
    .where(id === undefined ? undefined : eq(jobs.id, id))
    .orderBy(asc(jobs.createdAt));
  if (id !== undefined && rows.length === 0) throw gone(id);
  const taken = await Promise.all(
    rows.map(async (job) => ({
      name: job.name,
      archived: job.archived,
      createdAt: job.createdAt,
      updatedAt: job.updatedAt,
      revision: job.revision,
      design: documentOf(job.design),
      revisions: (
        await db.select().from(revisions).where(eq(revisions.jobId, job.id)).orderBy(asc(revisions.revision))
      ).map(({ revision, savedAt, design }) => ({ revision, savedAt, design: documentOf(design) })),
      kept: (await db.select().from(kept).where(eq(kept.jobId, job.id)).orderBy(asc(kept.id))).map(
        ({ baseRevision, reason, keptAt, design }) => ({
          baseRevision,
          reason,
          keptAt,
          design: documentOf(design),
        }),
      ),
      cuts: (
        await db.select().from(cutJobs).where(eq(cutJobs.jobId, job.id)).orderBy(asc(cutJobs.number))
      ).map(({ jobId: _jobId, ...cut }) => cut),
      trials: (await listTrials(db, job.id)).reverse(),
    })),
  );
  const images = await imagesOf(db, [JSON.stringify(taken)]);
  return {
    format: BUNDLE_FORMAT,
    version: BUNDLE_VERSION,
    savedAt: Date.now(),
    ...(images.size > 0 && { images: Object.fromEntries(images) }),
    jobs: taken,
  };
}

/**
 * Stores the jobs of a bundle as new jobs, all or none.
 *
 * @returns their names, in the bundle's order
 * @throws Problem 422 with the place of what is wrong
 */
export async function takeIn(db: Database, document: unknown): Promise<string[]> {
  const title = 'Not a bundle of jobs';
  const wrong = (words: string) => new Problem(422, title, words);
  const { format, version } = (document ?? {}) as { format?: unknown; version?: unknown };
  if (format !== BUNDLE_FORMAT)
    throw wrong(
      `This is no file of jobs: its "format" should be "${BUNDLE_FORMAT}". Choose a file that was saved on the shelf.`,
    );
  if (typeof version === 'number' && version > BUNDLE_VERSION)
    throw wrong(
      `This file was saved by a newer version (${version}); this one reads up to ${BUNDLE_VERSION}.`,
    );
  const bundle = checkedBy(bundleSchema, document, title);
  const at = Date.now();
  const packing = new Packing();
  const pictures = new Map(Object.entries(bundle.images ?? {}));
  const statements = bundle.jobs.flatMap((job, i) => {
    const jobId = newId();
    const checked = (design: unknown, where: string): string => {
      const whole =
        pictures.size > 0 ? (JSON.parse(withImages(JSON.stringify(design), pictures)) as unknown) : design;
      const read = readDesign(whole);
      if (!read.ok) throw wrong(`Job ${i + 1} (“${job.name}”), ${where}: ${read.message}`);
      return packing.text(JSON.stringify(read.design));
    };
    const design = checked(job.design, 'its design');
    const past = job.revisions.filter(({ revision }) => revision < job.revision);
    return [
      db.insert(jobs).values({
        id: jobId,
        name: job.name,
        revision: job.revision,
        design,
        undo: '[]',
        redo: '[]',
        archived: job.archived,
        createdAt: job.createdAt,
        updatedAt: at,
      }),
      ...past.map(({ revision, savedAt, design: text }) =>
        db
          .insert(revisions)
          .values({ jobId, revision, savedAt, design: checked(text, `revision ${revision}`) }),
      ),
      db.insert(revisions).values({ jobId, revision: job.revision, design, savedAt: job.updatedAt }),
      ...job.kept.map(({ design: text, ...rest }) =>
        db.insert(kept).values({ jobId, ...rest, design: checked(text, 'what was put aside') }),
      ),
      ...job.cuts.map((cut) => db.insert(cutJobs).values({ jobId, ...cut })),
      ...job.trials.map(({ number, ...value }) =>
        db.insert(trials).values({ jobId, number, value: JSON.stringify(value) }),
      ),
    ];
  });
  const [first, ...more] = statements;
  if (!first) throw wrong('There is no job in this file.');
  await db.batch([first, ...more, ...packing.statements(db)]);
  return bundle.jobs.map(({ name }) => name);
}
