/** What travels between page and server: checked by the server when it comes in, and the types of what it answers. */
import { ITEM_SCHEMAS } from '@hollow-finch/core/stock/storeSchema';
import { designSchema } from '@hollow-finch/core/design/schema';
import { listOf } from '@hollow-finch/core/design/checked';
import { editSchema } from '@hollow-finch/core/design/commandSchema';
import { z } from 'zod';
import { trialSchema } from './records.ts';
import { MAX_FACES, MAX_HISTORY, MAX_OUTLINE } from './limits.ts';

export const saveSchema = z.object({
  baseRevision: z.int().min(0),
  design: designSchema,
  undo: listOf(editSchema, MAX_HISTORY),
  redo: listOf(editSchema, MAX_HISTORY),
});
export type SaveRequest = z.infer<typeof saveSchema>;

export const createSchema = z.object({ design: designSchema });

/** A design that is put aside with a job's revisions: one that lost a conflict, or was left unsaved. */
export const keepSchema = z.object({
  design: designSchema,
  baseRevision: z.int().min(0),
  reason: z.string().min(1).max(200),
});
export type KeepRequest = z.infer<typeof keepSchema>;

/** What is kept of a job: its revisions, newest first, and designs that were put aside. */
export const historySchema = z.object({
  revisions: z.array(z.object({ revision: z.int(), savedAt: z.number() })),
  kept: z.array(z.object({ id: z.int(), baseRevision: z.int(), reason: z.string(), keptAt: z.number() })),
});
export type History = z.infer<typeof historySchema>;

/** How a cut came out. */
const cutResult = z.enum(['open', 'good', 'spoiled']);

/** What became of a cut job. */
export const cutOutcomeSchema = z.strictObject({
  result: cutResult,
  /** How long it took; null where nobody looked at the clock. */
  minutes: z.number().min(0).max(100_000).nullable(),
  /** Sheets that it used up, those that were spoiled as well. */
  sheets: z.int().min(0).max(100_000),
});
export type CutOutcome = z.infer<typeof cutOutcomeSchema>;

export const cutJobSchema = z.object({
  number: z.int(),
  revision: z.int(),
  subject: z.string(),
  title: z.string(),
  fileName: z.string(),
  stockId: z.string(),
  machineId: z.string(),
  profileId: z.string(),
  marks: z.enum(['none', 'drawn', 'kiss']),
  fingerprint: z.string(),
  createdAt: z.number(),
  // What jobs of before did not say.
  checksum: z.string().max(64).default(''),
  result: cutResult.default('open'),
  minutes: z.number().nullable().default(null),
  sheets: z.int().default(0),
  sheetId: z.string().max(120).default(''),
  estimatedS: z.number().nullable().default(null),
  times: z.int().default(1),
});
export type CutJob = z.infer<typeof cutJobSchema>;

/** Things for the store, each of a kind. */
export const storeItemsSchema = z.object({
  items: listOf(
    z.discriminatedUnion('kind', [
      z.strictObject({ kind: z.literal('stocks'), item: ITEM_SCHEMAS.stocks }),
      z.strictObject({ kind: z.literal('envelopes'), item: ITEM_SCHEMAS.envelopes }),
      z.strictObject({ kind: z.literal('machines'), item: ITEM_SCHEMAS.machines }),
      z.strictObject({ kind: z.literal('hardware'), item: ITEM_SCHEMAS.hardware }),
      z.strictObject({ kind: z.literal('postClasses'), item: ITEM_SCHEMAS.postClasses }),
      z.strictObject({ kind: z.literal('readings'), item: ITEM_SCHEMAS.readings }),
      z.strictObject({ kind: z.literal('sheets'), item: ITEM_SCHEMAS.sheets }),
      z.strictObject({ kind: z.literal('profiles'), item: ITEM_SCHEMAS.profiles }),
      z.strictObject({ kind: z.literal('adhesives'), item: ITEM_SCHEMAS.adhesives }),
      z.strictObject({ kind: z.literal('fits'), item: ITEM_SCHEMAS.fits }),
    ]),
    2_000,
  ),
});

export const BUNDLE_FORMAT = 'hollow-finch jobs';
export const BUNDLE_VERSION = 1;
const time = z.number().min(0);

/** Jobs as a file (docs/bundle.md). Designs are checked one by one when they are taken in. */
export const bundleSchema = z.object({
  format: z.literal(BUNDLE_FORMAT),
  version: z.literal(BUNDLE_VERSION),
  savedAt: time,
  /** The data of pictures, once each: designs hold `stored-image:` and the name instead. */
  images: z.record(z.string().regex(/^[0-9a-f]{64}$/), z.string().max(300_000)).optional(),
  jobs: listOf(
    z.object({
      name: z.string().min(1).max(120),
      archived: z.boolean(),
      createdAt: time,
      updatedAt: time,
      revision: z.int().min(1),
      design: z.unknown(),
      revisions: listOf(z.object({ revision: z.int().min(1), savedAt: time, design: z.unknown() }), 100_000),
      kept: listOf(
        z.object({
          baseRevision: z.int().min(0),
          reason: z.string().min(1).max(200),
          keptAt: time,
          design: z.unknown(),
        }),
        10_000,
      ),
      cuts: listOf(
        cutJobSchema.extend({
          number: z.int().min(1),
          revision: z.int().min(1),
          svg: z.string(),
          createdAt: time,
        }),
        10_000,
      ),
      /** What files of before did not have. */
      trials: listOf(trialSchema, 10_000).default([]),
    }),
    10_000,
  ),
});
export type Bundle = z.infer<typeof bundleSchema>;

export const archiveSchema = z.object({ archived: z.boolean() });

export const cutRequestSchema = z.object({
  revision: z.int().min(1),
  subject: z.string().min(1).max(160),
  title: z.string().min(1).max(200),
  stockId: z.string().max(120),
  sheetId: z.string().max(120).default(''),
  /** How long the machine takes for it once, s. */
  estimatedS: z.number().min(0).max(1e7).nullable().default(null),
  /** How many alike sheets are cut from it. */
  times: z.int().min(1).max(100_000).default(1),
  machineId: z.string().max(120),
  profileId: z.string().max(120),
  marks: z.enum(['none', 'drawn', 'kiss']).default('none'),
  fingerprint: z.string().min(1).max(100),
  svg: z.string().min(1).max(6_000_000),
});
export type CutRequest = z.infer<typeof cutRequestSchema>;

export const jobSchema = z.object({
  id: z.string(),
  revision: z.int(),
  design: designSchema,
  undo: z.array(editSchema),
  redo: z.array(editSchema),
  archived: z.boolean(),
  updatedAt: z.number(),
});
export type Job = z.infer<typeof jobSchema>;

/** A small picture of a folded card: its frame, and its faces from the farthest to the nearest, in mm with y down. */
export const pictureSchema = z.object({
  box: z.tuple([z.number(), z.number(), z.number().positive(), z.number().positive()]),
  faces: z
    .array(
      z.object({
        colour: z.string().max(20),
        light: z.number().min(0).max(1.01),
        front: z.boolean(),
        d: z
          .string()
          .max(MAX_OUTLINE)
          .regex(/^[MLZ\d .-]*$/, 'an outline has only M, L, Z and figures in it'),
      }),
    )
    .max(MAX_FACES),
});
export type Picture = z.infer<typeof pictureSchema>;

/** What a page saw of a saved revision. */
export const lookSchema = z.object({
  revision: z.int().min(1),
  version: z.int().min(1),
  faults: z.int().min(0),
  picture: pictureSchema,
});
export type Look = z.infer<typeof lookSchema>;

/** What the shelf tells of a job without its design; nulls where the stored design cannot be read. */
export const jobListSchema = z.array(
  z.object({
    id: z.string(),
    name: z.string(),
    revision: z.int(),
    archived: z.boolean(),
    updatedAt: z.number(),
    readable: z.boolean(),
    closedWidthMm: z.number().nullable(),
    closedHeightMm: z.number().nullable(),
    /** Names of its mechanisms, and what each is. */
    mechanisms: z.array(z.object({ name: z.string(), title: z.string() })),
    /** What was last seen of it, maybe of an earlier revision. */
    look: lookSchema.nullable(),
    lastCut: z.object({ number: z.int(), revision: z.int() }).nullable(),
  }),
);
export type JobListEntry = z.infer<typeof jobListSchema>[number];

export const cutListSchema = z.array(cutJobSchema);
