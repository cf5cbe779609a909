/**
 * The design document: plain data, checked by its schema (schema.ts) wherever it enters. Everything else is computed from it.
 * Collections are records keyed by id, so that an edit touches one entry.
 */
import type { z } from 'zod';
import type {
  additionSchema,
  baseSchema,
  briefSchema,
  buildStepSchema,
  designSchema,
  dimensionSchema,
  draftedPartSchema,
  driveSchema,
  glueSchema,
  guideSchema,
  imageSchema,
  instanceSchema,
  jointSchema,
  paramValueSchema,
  planSchema,
  contentsSchema,
  pictureSchema,
  settingsSchema,
  keptPackingSchema,
  sheetPlanSchema,
  sheetSchema,
} from './schema.ts';

export const SCHEMA_VERSION = 2;

export type Design = z.infer<typeof designSchema>;
export type DraftedPart = z.infer<typeof draftedPartSchema>;
export type Instance = z.infer<typeof instanceSchema>;
export type Joint = z.infer<typeof jointSchema>;
export type GlueJoint = z.infer<typeof glueSchema>;
export type Drive = z.infer<typeof driveSchema>;

/** The glue among joints. */
export const gluesOf = (joints: readonly Joint[]): GlueJoint[] =>
  joints.filter((joint): joint is GlueJoint => joint.kind === 'glue');

/** Whether a part is glued onto itself: a sleeve, a tube. */
export const gluesItself = ({ partId, hostPartId }: GlueJoint): boolean => partId === hostPartId;
export type Guide = z.infer<typeof guideSchema>;
export type Dimension = z.infer<typeof dimensionSchema>;
/** A picture file, and a picture made from it. */
export type Image = z.infer<typeof imageSchema>;
export type Picture = z.infer<typeof pictureSchema>;
export type Addition = z.infer<typeof additionSchema>;
export type Base = z.infer<typeof baseSchema>;
export type Brief = z.infer<typeof briefSchema>;
/** From what the card's size follows; and a thing that goes in. */
export type Plan = z.infer<typeof planSchema>;
export type Contents = z.infer<typeof contentsSchema>;
/** What a person changed of a step of the build sheet. */
export type BuildStepEdit = z.infer<typeof buildStepSchema>;
export type Settings = z.infer<typeof settingsSchema>;
export type SheetPlan = z.infer<typeof sheetPlanSchema>;
export type KeptPacking = z.infer<typeof keptPackingSchema>;
export type PackedSheet = z.infer<typeof sheetSchema>;
export type ParamValue = z.infer<typeof paramValueSchema>;

/** What the settings say only since: designs of before are given it. */
export const NEWLY_SET = {
  kerfMm: 0,
  acrossGrain: [],
  overcutMm: 0,
  leadInMm: 0,
  fromBack: false,
  registration: false,
  profileId: 'by-colour',
  otherSheets: true,
  alikeSheets: false,
  lying: {},
  breakFibres: 'heavy',
  buildOrder: [],
} satisfies Partial<Settings>;

/** A new design: one card of the given finished size, nothing on it yet. */
export function newDesign(cardName: string, brief: Partial<Brief> = {}): Design {
  return {
    schemaVersion: SCHEMA_VERSION,
    name: cardName,
    base: { kind: 'card', front: 'left' },
    brief: {
      closedWidthMm: 148,
      closedHeightMm: 105,
      opening: 'side',
      envelopeId: null,
      clearanceMm: 3,
      audience: 'anyone',
      extras: [],
      plan: { held: ['size'], blankMm: null, contents: [], borderMm: 12 },
      note: '',
      ...brief,
    },
    settings: {
      cardStockId: 'chalk-300',
      reachMarginMm: 2,
      machineId: 'desk-blade',
      gapMm: 3,
      marginMm: 8,
      copies: 1,
      ...NEWLY_SET,
    },
    store: {},
    parts: {},
    instances: {},
    joints: {},
    additions: {},
    accepted: {},
    board: {},
    guides: {},
    dimensions: {},
    images: {},
    pictures: {},
    packings: {},
    build: {},
    sheetPlan: null,
  };
}
