/**
 * The design document: plain data, checked by its schema wherever it enters (store, file, server). Everything else is
 * computed from it. Collections are records keyed by id, so that an edit touches one entry.
 */
import { z } from 'zod';
import { LAYERS } from '../dieline/part.ts';

export const SCHEMA_VERSION = 1;

/** Limits on size: a design beyond them is refused in words. */
export const LIMITS = {
  coordinateMm: 4_000,
  linesPerPart: 20_000,
  segmentsPerPath: 5_000,
  entries: 2_000,
} as const;

const coordinate = z.number().min(-LIMITS.coordinateMm).max(LIMITS.coordinateMm);
const id = z.string().min(1).max(120);
const name = z.string().min(1).max(120);
const positiveMm = z.number().positive().max(LIMITS.coordinateMm);

export const pointSchema = z.tuple([coordinate, coordinate]).readonly();

const segmentSchema = z.discriminatedUnion('kind', [
  z.object({ kind: z.literal('line'), to: pointSchema }),
  z.object({ kind: z.literal('arc'), to: pointSchema, bulge: z.number().min(-1000).max(1000) }),
  z.object({ kind: z.literal('cubic'), c1: pointSchema, c2: pointSchema, to: pointSchema }),
]);

export const pathSchema = z.object({
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

export const isometrySchema = z.object({
  angleRad: z.number(),
  flip: z.boolean(),
  dx: coordinate,
  dy: coordinate,
});

/** A part that was drafted line by line. */
export const draftedPartSchema = z.object({
  id,
  name,
  stockId: id,
  grainRad: z.number().nullable(),
  quantity: z.int().min(0).max(500),
  lines: z.record(id, lineSchema),
  glueZones: z.record(id, zoneSchema),
});

export const paramValueSchema = z.union([z.number(), z.boolean(), z.string().max(60)]);

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

/** Glue: a zone of one part lies on another part; `placement` carries the part's plane into the host part's plane. */
export const jointSchema = z.object({
  id,
  kind: z.literal('glue'),
  partId: id,
  zoneId: id,
  hostPartId: id,
  placement: isometrySchema,
  /** An edge of the part that should lie along an edge of the host, as line ids; null when it need not. */
  mate: z.object({ lineId: id, hostLineId: id }).nullable(),
});

/** A line drafted onto a generated part, in the frame of the named panel, so that it survives a rebuild. */
export const additionSchema = z.object({
  id,
  partId: id,
  panelId: id,
  line: lineSchema,
});

const placedPieceSchema = z.object({ partId: id, copy: z.int().min(1), placement: isometrySchema });
const sheetSchema = z.object({
  stockId: id,
  widthMm: positiveMm,
  heightMm: positiveMm,
  pieces: z.array(placedPieceSchema),
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
  opening: z.enum(['side', 'top']),
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
  parts: z.record(id, draftedPartSchema),
  instances: z.record(id, instanceSchema),
  joints: z.record(id, jointSchema),
  additions: z.record(id, additionSchema),
  /** Findings that the designer accepted, by finding key, with the reason. */
  accepted: z.record(z.string().max(300), z.object({ reason: z.string().min(1).max(500) })),
  /** Where parts lie on the drawing board, by part id. */
  board: z.record(id, z.object({ x: coordinate, y: coordinate })),
  sheetPlan: sheetPlanSchema.nullable(),
});

export type Design = z.infer<typeof designSchema>;
export type DraftedPart = z.infer<typeof draftedPartSchema>;
export type Instance = z.infer<typeof instanceSchema>;
export type Joint = z.infer<typeof jointSchema>;
export type Addition = z.infer<typeof additionSchema>;
export type Brief = z.infer<typeof briefSchema>;
export type Settings = z.infer<typeof settingsSchema>;
export type SheetPlan = z.infer<typeof sheetPlanSchema>;
export type PackedSheet = z.infer<typeof sheetSchema>;
export type ParamValue = z.infer<typeof paramValueSchema>;

/** A new design: one card of the given finished size, nothing on it yet. */
export function newDesign(cardName: string, brief: Partial<Brief> = {}): Design {
  return {
    schemaVersion: SCHEMA_VERSION,
    name: cardName,
    brief: {
      closedWidthMm: 148,
      closedHeightMm: 105,
      opening: 'side',
      envelopeId: null,
      clearanceMm: 3,
      audience: 'anyone',
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
    },
    parts: {},
    instances: {},
    joints: {},
    additions: {},
    accepted: {},
    board: {},
    sheetPlan: null,
  };
}

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
  const result = designSchema.safeParse(current);
  if (result.success) return { ok: true, design: result.data };
  const issue = result.error.issues[0];
  return {
    ok: false,
    message: `The design is damaged at ${issue.path.join(' > ') || 'its top'}: ${issue.message}.`,
  };
}
