/** Records that a studio keeps beside its designs: trial builds, kits, practice. What travels is checked by these. */
import { listOf } from '@hollow-finch/core/design/checked';
import { LONGEST_IMAGE } from '@hollow-finch/core/design/schema';
import { z } from 'zod';
import { TRIAL_FAULTS, VERDICTS, type TrialFaultKind, type Verdict } from './trialWords.ts';

const coordinate = z.number().min(-100_000).max(100_000);

export const trialFaultSchema = z.strictObject({
  id: z.string().min(1).max(40),
  kind: z.enum(Object.keys(TRIAL_FAULTS) as [TrialFaultKind, ...TrialFaultKind[]]),
  words: z.string().max(400),
  /** Where it was pressed: on a part, in its own plane, mm; and how far open it stood. */
  partId: z.string().max(120).nullable(),
  partName: z.string().max(160),
  at: z.tuple([coordinate, coordinate]).nullable(),
  openDeg: z.number().min(0).max(180).nullable(),
  /** The mechanism that the part belongs to, by its family; empty of the card and of drafted parts. */
  family: z.string().max(60),
});
export type TrialFault = z.infer<typeof trialFaultSchema>;

/** What is written down of a trial build. */
export const trialWrittenSchema = z.strictObject({
  revision: z.int().min(1),
  builtAt: z.number().min(0),
  by: z.string().max(80),
  minutes: z.number().min(0).max(100_000).nullable(),
  verdict: z.enum(Object.keys(VERDICTS) as [Verdict, ...Verdict[]]),
  note: z.string().max(2000),
  faults: listOf(trialFaultSchema, 100),
  photos: listOf(
    z
      .string()
      .max(LONGEST_IMAGE)
      .regex(/^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/]+={0,2}$/, {
        error: 'a photo is kept as the data of a PNG, JPEG or WebP file',
      }),
    6,
  ),
  /** The edit that it led to, as it is called in the job’s history, and the revision it was made on. */
  change: z.strictObject({ label: z.string().min(1).max(200), revision: z.int().min(1) }).nullable(),
});
export type TrialWritten = z.infer<typeof trialWrittenSchema>;

export const trialSchema = trialWrittenSchema.extend({ number: z.int().min(1) });
export type Trial = z.infer<typeof trialSchema>;
export const trialListSchema = z.array(trialSchema);

/** A fault of any job's trials, for counting: what it was, of which mechanism, and what it led to. */
export const lessonSchema = z.object({
  jobId: z.string(),
  jobName: z.string(),
  trial: z.int(),
  revision: z.int(),
  kind: z.string(),
  family: z.string(),
  words: z.string(),
  change: z.string().nullable(),
});
export type Lesson = z.infer<typeof lessonSchema>;

/** Several designs and loose parts that are sold together, so many of them. */
export const kitWrittenSchema = z.strictObject({
  name: z.string().trim().min(1).max(120),
  copies: z.int().min(1).max(500),
  items: listOf(z.strictObject({ jobId: z.string().min(1).max(120), pieces: z.int().min(1).max(100) }), 30),
  /** Plain rectangles that go along: mats, spare paper. */
  loose: listOf(
    z.strictObject({
      id: z.string().min(1).max(40),
      name: z.string().min(1).max(120),
      stockId: z.string().min(1).max(120),
      widthMm: z.number().min(1).max(2000),
      heightMm: z.number().min(1).max(2000),
      pieces: z.int().min(1).max(1000),
    }),
    60,
  ),
  /** What an hour of a person's work costs, and of the machine's. */
  handsPerHour: z.number().min(0).max(10_000),
  machinePerHour: z.number().min(0).max(10_000),
  people: z.int().min(1).max(5),
  note: z.string().max(4000),
});
export type KitWritten = z.infer<typeof kitWrittenSchema>;
export const kitSchema = kitWrittenSchema.extend({ id: z.string(), updatedAt: z.number() });
export type Kit = z.infer<typeof kitSchema>;

/** One round of practice. */
export const roundWrittenSchema = z.strictObject({
  exercise: z.enum(['faults', 'closed', 'sheets']),
  /** Of the faults: the group of rules; of the others the same as the exercise. */
  group: z.string().min(1).max(60),
  difficulty: z.int().min(1).max(3),
  /** Out of so many, so many were right; and so many were accused wrongly. */
  of: z.int().min(0).max(1000),
  right: z.int().min(0).max(1000),
  wrong: z.int().min(0).max(1000),
});
export type RoundWritten = z.infer<typeof roundWrittenSchema>;
export const roundSchema = roundWrittenSchema.extend({ at: z.number() });
export type Round = z.infer<typeof roundSchema>;
