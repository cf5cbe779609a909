/**
 * The schema of the design document, and the way by which every document of unknown origin enters: store, file, server. Kept
 * apart from the types, so that a page that only computes does not carry the checking with it.
 */
import { z } from 'zod';
import { LAYERS } from '../dieline/part.ts';
import { entriesById } from './checked.ts';
import { SCHEMA_VERSION, type Design } from './design.ts';
import { issueWords } from './issueWords.ts';

/** Limits on size: a design beyond them is refused in words. */
const LIMITS = {
  coordinateMm: 4_000,
  linesPerPart: 20_000,
  segmentsPerPath: 5_000,
  parts: 500,
  instances: 300,
  /** Joints, lines drawn on mechanisms, accepted findings. */
  entries: 2_000,
  zonesPerPart: 200,
  turnsRad: 100,
  degrees: 36_000,
} as const;

const coordinate = z.number().min(-LIMITS.coordinateMm).max(LIMITS.coordinateMm);
const id = z.string().min(1).max(120);
const name = z.string().min(1).max(120);
const positiveMm = z.number().positive().max(LIMITS.coordinateMm);
const turnRad = z.number().min(-LIMITS.turnsRad).max(LIMITS.turnsRad);
const degrees = z.number().min(-LIMITS.degrees).max(LIMITS.degrees);
/** Millimetres or degrees, whichever a joint or a measure counts. */
const amount = z.number().min(-LIMITS.degrees).max(LIMITS.degrees);

const pointSchema = z.tuple([coordinate, coordinate]).readonly();

const segmentSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('line'), to: pointSchema }),
  z.object({ kind: z.literal('arc'), to: pointSchema, bulge: z.number().min(-1000).max(1000) }),
  z.object({ kind: z.literal('cubic'), c1: pointSchema, c2: pointSchema, to: pointSchema }),
]);

const pathSchema = z.object({
  start: pointSchema,
  segments: z.array(segmentSchema).min(1).max(LIMITS.segmentsPerPath).readonly(),
});

export const lineSchema = z.object({ id, layer: z.enum(LAYERS), path: pathSchema });

const zoneSchema = z.object({
  id,
  outline: z.array(pointSchema).min(3).max(500).readonly(),
  face: z.enum(['front', 'back']),
  kind: z.enum(['glue', 'keepOut']),
});

const isometrySchema = z.object({
  angleRad: turnRad,
  flip: z.boolean(),
  dx: coordinate,
  dy: coordinate,
});

/** A part that was drafted line by line. */
export const draftedPartSchema = z.object({
  id,
  name,
  stockId: id,
  grainRad: turnRad.nullable(),
  quantity: z.int().min(0).max(500),
  lines: entriesById(id, lineSchema, LIMITS.linesPerPart, 'lines'),
  glueZones: entriesById(id, zoneSchema, LIMITS.zonesPerPart, 'glue zones'),
});

export const paramValueSchema = z.union([amount, z.boolean(), z.string().max(60)]);

/** A mechanism placed on a gutter: its parts, joints and host lines are rebuilt from these values. */
export const instanceSchema = z.object({
  id,
  name,
  family: z.string().min(1).max(60),
  stockId: id,
  params: z.record(z.string().max(60), paramValueSchema),
  /** The fold it stands on, as a fold line of a part. */
  host: z.object({ partId: id, gutterId: id }),
  /** True when the designer asked that handles may go beyond the card's limits. */
  beyondLimits: z.boolean(),
});

const stretchSchema = z.object({ from: amount, to: amount });
const segmentEnds = z.tuple([pointSchema, pointSchema]).readonly();

/**
 * What a person moves: a pull, a wheel, a flap. Millimetres for slides and wraps, degrees for pivots and folds. The
 * movement is tried from `from` to `to` while the card stands open at `atOpeningDeg`; otherwise it is at `rest`.
 */
export const driveSchema = z.object({
  name,
  from: amount,
  to: amount,
  rest: amount,
  atOpeningDeg: z.number().min(0).max(180),
});

const jointBase = { id, partId: id, hostPartId: id };
/** `placement` carries the part's plane into the host's plane, with the joint at rest. */
const placedJoint = { ...jointBase, placement: isometrySchema };

/** Glue: a zone of one part lies on another part. */
export const glueSchema = z.object({
  ...placedJoint,
  kind: z.literal('glue'),
  zoneId: id,
  /** An edge of the part that should lie along an edge of the host, as line ids; null when it need not. */
  mate: z.object({ lineId: id, hostLineId: id }).nullable(),
  /** Layers from the host's paper up to this one, its own included, when it bridges something; else 1. */
  layers: z.int().min(1).max(50).optional(),
});

/**
 * How one part hangs on another.
 * - glue: face to face;
 * - pivot: a brad through both at `at` of the part (degrees, left-turning);
 * - slide: in a channel of the host, along `directionDeg` of the host's plane, between stops (mm);
 * - pin: a pin at `at` of the part runs in the host's slit;
 * - tongue: the part passes through the host's slot; its line `on` lies in the slot at rest, and it may move and lean;
 * - cross: as tongue, without moving through (half slots);
 * - rest: the part's edge `on` stands on the host's line and may slide across it, between stops (mm), and lean;
 * - wrap: a band of the part, `bandMm` long, bends round the host's edge line as it is pulled; its leading line `on` lies
 *   on the edge when the pull is `startMm`;
 * - hand: folds of the part that a person turns (degrees from flat), each by its factor.
 */
export const jointSchema = z.discriminatedUnion('kind', [
  glueSchema,
  z.object({
    ...placedJoint,
    kind: z.literal('pivot'),
    at: pointSchema,
    face: z.enum(['front', 'back']),
    stops: stretchSchema.nullable(),
    drive: driveSchema.nullable(),
  }),
  z.object({
    ...placedJoint,
    kind: z.literal('slide'),
    at: pointSchema,
    face: z.enum(['front', 'back']),
    directionDeg: degrees,
    stops: stretchSchema,
    drive: driveSchema.nullable(),
  }),
  z.object({
    ...placedJoint,
    kind: z.literal('pin'),
    at: pointSchema,
    face: z.enum(['front', 'back']),
    slit: segmentEnds,
  }),
  z.object({
    ...jointBase,
    kind: z.enum(['tongue', 'cross', 'rest']),
    slot: segmentEnds,
    on: segmentEnds,
    /** A point of the part's panel that the joint holds, when the line `on` runs between two panels. */
    within: pointSchema,
    /** Degrees from flat at which the search begins, and the way it leans: its sign is kept. */
    leanDeg: z.number().min(-180).max(180),
    stops: stretchSchema.nullable(),
    drive: driveSchema.nullable(),
  }),
  z.object({
    ...jointBase,
    kind: z.literal('wrap'),
    slot: segmentEnds,
    on: segmentEnds,
    within: pointSchema,
    bandMm: positiveMm,
    startMm: coordinate,
    /** Layers of paper between it and the edge, while it lies in front. */
    layers: z.int().min(0).max(200),
    drive: driveSchema,
  }),
  z.object({
    ...jointBase,
    kind: z.literal('hand'),
    folds: z
      .array(z.object({ lineId: id, factor: z.number().min(-100).max(100) }))
      .min(1)
      .max(20),
    drive: driveSchema,
  }),
]);

/** A line drafted onto a generated part, in the frame of the named panel, so that it survives a rebuild. */
export const additionSchema = z.object({
  id,
  partId: id,
  panelId: id,
  line: lineSchema,
});

const placedPieceSchema = z.object({ partId: id, copy: z.int().min(1), placement: isometrySchema });
export const sheetSchema = z.object({
  stockId: id,
  widthMm: positiveMm,
  heightMm: positiveMm,
  pieces: z.array(placedPieceSchema),
});

/** A finding that the designer accepted, by its key: why, and how it was; when that changes it is no longer accepted. */
export const acceptedSchema = z.object({
  reason: z.string().min(1).max(500),
  was: z.string().max(200).optional(),
});

/** A packing, with the fingerprint of what was packed. */
export const sheetPlanSchema = z.object({
  fingerprint: z.string().max(100),
  sheets: z.array(sheetSchema).max(500),
  seed: z.int(),
});

export const briefSchema = z.object({
  closedWidthMm: z.number().min(20).max(1000),
  closedHeightMm: z.number().min(20).max(1000),
  /** Folded at the side or at the top, or a gatefold: two doors, each half as wide as the card, over its back. */
  opening: z.enum(['side', 'top', 'gate']),
  envelopeId: z.string().max(60).nullable(),
  clearanceMm: z.number().min(0).max(50),
  audience: z.enum(['anyone', 'young children']),
  note: z.string().max(4000),
});

export const settingsSchema = z.object({
  cardStockId: id,
  /** How far inside the open edges everything must stay when the card is closed. */
  reachMarginMm: z.number().min(0).max(50),
  machineId: id,
  gapMm: z.number().min(0).max(50),
  marginMm: z.number().min(0).max(100),
  copies: z.int().min(1).max(500),
});

export const designSchema = z.object({
  schemaVersion: z.literal(SCHEMA_VERSION),
  name,
  brief: briefSchema,
  settings: settingsSchema,
  parts: entriesById(id, draftedPartSchema, LIMITS.parts, 'parts'),
  instances: entriesById(id, instanceSchema, LIMITS.instances, 'mechanisms'),
  joints: entriesById(id, jointSchema, LIMITS.entries, 'joints'),
  additions: entriesById(id, additionSchema, LIMITS.entries, 'lines drawn on mechanisms'),
  accepted: z.record(z.string().max(300), acceptedSchema),
  /** Where parts lie on the drawing board, by part id. */
  board: z.record(id, z.object({ x: coordinate, y: coordinate })),
  sheetPlan: sheetPlanSchema.nullable(),
});

export type ReadDesign =
  { readonly ok: true; readonly design: Design } | { readonly ok: false; readonly message: string };

type Migration = (document: Record<string, unknown>) => Record<string, unknown>;

/** What turns a document of version n into one of version n + 1, by n. */
const MIGRATIONS: Readonly<Record<number, Migration>> = {};

/**
 * Reads a stored design of any earlier schema version.
 *
 * @param document parsed JSON of unknown origin
 * @returns the design in the current version, or a sentence that says what is wrong and where in the document
 */
export function readDesign(document: unknown): ReadDesign {
  if (typeof document !== 'object' || document === null)
    return { ok: false, message: 'This is not a design: it should be an object with a schemaVersion.' };
  let current = document as Record<string, unknown>;
  for (let version = current.schemaVersion; version !== SCHEMA_VERSION; version = current.schemaVersion) {
    const migrate = typeof version === 'number' ? MIGRATIONS[version] : undefined;
    if (!migrate)
      return {
        ok: false,
        message:
          typeof version === 'number' && version > SCHEMA_VERSION
            ? `This design was saved by a newer version (${version}); this one reads up to ${SCHEMA_VERSION}.`
            : 'This is not a design: its schemaVersion is missing or unknown.',
      };
    current = migrate(current);
  }
  const result = designSchema.safeParse(current, { reportInput: true });
  if (result.success) return { ok: true, design: result.data };
  return { ok: false, message: `The design is damaged ${issueWords(result.error.issues[0])}` };
}
