/**
 * The schema of the design document, and the way by which every document of unknown origin enters: store, file, server. Kept
 * apart from the types, so that a page that only computes does not carry the checking with it.
 */
import { z } from 'zod';
import { canFold, EDGES, PROCESSES } from '../dieline/part.ts';
import { MOST_KERF_MM } from '../stock/readings.ts';
import { idUpTo, ITEM_SCHEMAS } from '../stock/storeSchema.ts';
import { entriesById } from './checked.ts';
import { NEWLY_SET, SCHEMA_VERSION, type Design } from './design.ts';
import { issueWords } from './issueWords.ts';
import { nextVersion } from './migrations.ts';

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
  images: 12,
  pictures: 60,
  packings: 12,
  /** Steps of folding up, and moments at which the angle of a fold is told. */
  stages: 20,
  courseSteps: 181,
} as const;

const coordinate = z.number().min(-LIMITS.coordinateMm).max(LIMITS.coordinateMm);
const id = idUpTo(120);
const name = z.string().min(1).max(120);
const positiveMm = z.number().positive().max(LIMITS.coordinateMm);
const turnRad = z.number().min(-LIMITS.turnsRad).max(LIMITS.turnsRad);
const degrees = z.number().min(-LIMITS.degrees).max(LIMITS.degrees);
/** Millimetres or degrees, whichever a joint or a measure counts. */
const amount = z.number().min(-LIMITS.degrees).max(LIMITS.degrees);

const pointSchema = z.tuple([coordinate, coordinate]).readonly();

const segmentSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('line'), to: pointSchema }),
  z.strictObject({ kind: z.literal('arc'), to: pointSchema, bulge: z.number().min(-1000).max(1000) }),
  z.strictObject({ kind: z.literal('cubic'), c1: pointSchema, c2: pointSchema, to: pointSchema }),
]);

const pathSchema = z.strictObject({
  start: pointSchema,
  segments: z.array(segmentSchema).min(1).max(LIMITS.segmentsPerPath).readonly(),
});

const foldSchema = z.strictObject({
  sense: z.enum(['mountain', 'valley']),
  restDeg: z.number().min(0).max(180).optional(),
  stage: z.int().min(0).max(LIMITS.stages).optional(),
  course: z.array(z.number().min(-180).max(180)).min(2).max(LIMITS.courseSteps).readonly().optional(),
  /** Its angle follows from those of other folds of its part: what it joins hangs on those. */
  follows: z.literal(true).optional(),
});

/** A perforation's own measures. */
export const patternSchema = z.strictObject({
  cutMm: z.number().min(0.2).max(100),
  gapMm: z.number().min(0.1).max(100),
});

/** Small bridges left in a cut. */
export const nicksSchema = z.strictObject({
  count: z.int().min(1).max(100),
  widthMm: z.number().min(0.1).max(10),
  notOn: z.array(z.enum(EDGES)).max(4).readonly().optional(),
});

/** What a line is, and where: a cut or a mark is no fold, only a perforation has a pattern, only a cut has nicks. */
export const lineSchema = z
  .strictObject({
    id,
    process: z.enum(PROCESSES),
    fold: foldSchema.optional(),
    pattern: patternSchema.optional(),
    nicks: nicksSchema.optional(),
    path: pathSchema,
    /** Lines that have it in common are chosen together. */
    group: id.optional(),
    /** The line of its part that it mirrors across the part's axis. */
    imageOf: id.optional(),
    /** Between the ends of this cut the fold on which they lie is left out. */
    opensFold: z.literal(true).optional(),
  })
  .superRefine(({ process, fold, pattern, nicks }, context) => {
    const refuse = (field: string, message: string) =>
      context.addIssue({ code: 'custom', path: [field], message });
    if (fold && !canFold(process))
      refuse('fold', `a ${process} cannot be a fold: score it, perforate it or cut its skin`);
    if (pattern && process !== 'perforate')
      refuse('pattern', `a ${process} has no pattern: only a perforation has one`);
    if (nicks && process !== 'cut') refuse('nicks', `a ${process} has no nicks: only a cut has them`);
  });

const zoneSchema = z.strictObject({
  id,
  outline: z.array(pointSchema).min(3).max(500).readonly(),
  face: z.enum(['front', 'back']),
  kind: z.enum(['glue', 'keepOut']),
  /** What it is glued with, of the store; unsaid: whatever is at hand. */
  adhesiveId: id.optional(),
  /** Its outline is marked on the paper. */
  marked: z.literal(true).optional(),
});

const isometrySchema = z.strictObject({
  angleRad: turnRad,
  flip: z.boolean(),
  dx: coordinate,
  dy: coordinate,
});

/** A point that tells which panel is meant, whatever folds are added around it. */
const markSchema = z.strictObject({
  id,
  name,
  at: pointSchema,
  origin: pointSchema.optional(),
  /** What it is for, where it is no plain panel: a tab to glue. */
  role: z.literal('tab').optional(),
  /** The panel of the same part behind which it is tucked in. */
  behind: id.optional(),
  /** The cut of the same part through which it goes. */
  through: id.optional(),
});

/**
 * A mirror twin: the part whose image it is, and the isometry that carries places of the original's glue (in the frame of its
 * panel) to those of the twin's (in the frame of its own).
 */
const twinSchema = z.strictObject({ partId: id, map: isometrySchema });

/** The axis of a symmetric part: upright at x, or level at y. */
const symmetrySchema = z.strictObject({ axis: z.enum(['x', 'y']), atMm: coordinate });

/** A part that was drafted line by line. */
export const draftedPartSchema = z.strictObject({
  id,
  name,
  stockId: id,
  grainRad: turnRad.nullable(),
  quantity: z.int().min(0).max(500),
  lines: entriesById(id, lineSchema, LIMITS.linesPerPart, 'lines'),
  glueZones: entriesById(id, zoneSchema, LIMITS.zonesPerPart, 'glue zones'),
  marks: entriesById(id, markSchema, LIMITS.zonesPerPart, 'marks of panels'),
  /** Nothing of it is changed by hand until it is unlocked. */
  locked: z.literal(true).optional(),
  /** What it is the mirror image of, and follows: lines, zones, stock; and its glue lies at the image of the other's. */
  twinOf: twinSchema.optional(),
  /** What is drawn on one side of this line of its plane is mirrored to the other. */
  symmetry: symmetrySchema.optional(),
});

export const paramValueSchema = z.union([amount, z.boolean(), z.string().max(60)]);

/** A mechanism placed on a gutter: its parts, joints and host lines are rebuilt from these values. */
export const instanceSchema = z.strictObject({
  id,
  name,
  family: z.string().min(1).max(60),
  stockId: id,
  params: z.record(z.string().max(60), paramValueSchema),
  /** What it stands on: a fold by its line, a panel, its back, a pair of doors (design/frames.ts). */
  host: z.strictObject({ partId: id, gutterId: id }),
  /**
   * Of what stands by itself and is glued onto a panel: by which of its own panels (its part's own id and the panel's; null for the
   * largest of its first part), with which face, and where the middle of that lies on the panel it stands on.
   */
  mount: z
    .strictObject({
      panelId: z.string().max(200).nullable(),
      face: z.enum(['outside', 'inside']),
      x: coordinate,
      y: coordinate,
    })
    .optional(),
  /** How it is turned on its panel, to the left; upright unless said. */
  turnDeg: z.union([z.literal(0), z.literal(90), z.literal(180), z.literal(270)]).optional(),
  /** True when the designer asked that handles may go beyond the card's limits. */
  beyondLimits: z.boolean(),
  /** Nothing of it is changed by hand until it is unlocked. */
  locked: z.literal(true).optional(),
});

const stretchSchema = z.strictObject({ from: amount, to: amount });
const segmentEnds = z.tuple([pointSchema, pointSchema]).readonly();

/**
 * What a person moves: a pull, a wheel, a flap. Millimetres for slides and wraps, degrees for pivots and folds. The
 * movement is tried from `from` to `to` while the card stands open at `atOpeningDeg`; otherwise it is at `rest`.
 */
export const driveSchema = z.strictObject({
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
export const glueSchema = z.strictObject({
  ...placedJoint,
  kind: z.literal('glue'),
  zoneId: id,
  /**
   * A tab must lie wholly on its landing. A piece is decoration: it may stand beyond its support, and is glued by as much
   * of the zone as lies on it. A tab unless said.
   */
  as: z.enum(['tab', 'piece']).optional(),
  /** The panel of the host in whose frame the placement is; else it is in the host's plane. */
  onPanel: id.optional(),
  /** What is marked on the host where the part will lie: its outline, its centre, the glue, which end is up. */
  marks: z
    .array(z.enum(['outline', 'ticks', 'glue', 'up']))
    .max(4)
    .readonly()
    .optional(),
  /** Thickness of what raises it over the host, mm, where that is no pad of the store. */
  padMm: z.number().min(0).max(30).optional(),
  /** The pads of the store that raise it, so many on each other; they go before a thickness. */
  pad: z.strictObject({ hardwareId: id, layers: z.int().min(1).max(10) }).optional(),
  /** An edge of the part that should lie along an edge of the host, as line ids; null when it need not. */
  mate: z.strictObject({ lineId: id, hostLineId: id }).nullable(),
  /** Layers from the host's paper up to this one, its own included, when it bridges something; else 1. */
  layers: z.int().min(1).max(50).optional(),
});

/** A line of the host that a joint is held by, seen from its front, or from behind. */
const onLine = { slot: segmentEnds, behind: z.boolean().optional() };

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
  z.strictObject({
    ...placedJoint,
    kind: z.literal('pivot'),
    /** The brad of the store that pins it; the usual one unless said. */
    hardwareId: id.optional(),
    at: pointSchema,
    face: z.enum(['front', 'back']),
    /** Turns left as seen from behind. */
    behind: z.boolean().optional(),
    stops: stretchSchema.nullable(),
    drive: driveSchema.nullable(),
  }),
  z.strictObject({
    ...placedJoint,
    kind: z.literal('slide'),
    at: pointSchema,
    face: z.enum(['front', 'back']),
    directionDeg: degrees,
    stops: stretchSchema,
    drive: driveSchema.nullable(),
  }),
  z.strictObject({
    ...placedJoint,
    kind: z.literal('pin'),
    at: pointSchema,
    face: z.enum(['front', 'back']),
    slit: segmentEnds,
  }),
  z.strictObject({
    ...jointBase,
    kind: z.enum(['tongue', 'cross', 'rest']),
    ...onLine,
    on: segmentEnds,
    /** A point of the part's panel that the joint holds, when the line `on` runs between two panels. */
    within: pointSchema,
    /** Degrees from flat at which the search begins, and the way it leans: its sign is kept. */
    leanDeg: z.number().min(-180).max(180),
    stops: stretchSchema.nullable(),
    drive: driveSchema.nullable(),
  }),
  z.strictObject({
    ...jointBase,
    kind: z.literal('wrap'),
    ...onLine,
    on: segmentEnds,
    within: pointSchema,
    bandMm: positiveMm,
    startMm: coordinate,
    /** Layers of paper between it and the edge, while it lies in front. */
    layers: z.int().min(0).max(200),
    drive: driveSchema,
  }),
  z.strictObject({
    ...jointBase,
    kind: z.literal('hand'),
    folds: z
      .array(z.strictObject({ lineId: id, factor: z.number().min(-100).max(100) }))
      .min(1)
      .max(20),
    drive: driveSchema,
  }),
]);

/** A line drafted onto a generated part, in the frame of the named panel, so that it survives a rebuild. */
export const additionSchema = z.strictObject({
  id,
  partId: id,
  panelId: id,
  line: lineSchema,
});

/** A line to place things by, upright or level: of the board, or of a part, with which it moves then. */
export const guideSchema = z.strictObject({
  id,
  /** What it holds still: x for an upright line, y for a level one. */
  axis: z.enum(['x', 'y']),
  atMm: coordinate,
  partId: id.nullable(),
});

/** An end of a measure: a corner of a line of the part (0 is where it begins), or a point of its plane. */
const anchorSchema = z.union([
  z.strictObject({ lineId: id, corner: z.int().min(0).max(LIMITS.segmentsPerPath) }),
  z.strictObject({ at: pointSchema }),
]);

/** A measure that is kept with the drawing: between two places of a part, straight, or level or upright only. */
export const dimensionSchema = z.strictObject({
  id,
  partId: id,
  from: anchorSchema,
  to: anchorSchema,
  along: z.enum(['straight', 'x', 'y']),
  /** How far its line stands off what it measures, to the left of the way from one end to the other, mm. */
  offsetMm: z.number().min(-500).max(500),
});

/** The most that the data of a picture file may be long, as text. */
export const LONGEST_IMAGE = 240_000;

/** A picture file that pictures are made from, as a data address: nothing is fetched from anywhere. */
export const imageSchema = z.strictObject({
  id,
  name,
  data: z
    .string()
    .max(LONGEST_IMAGE)
    .regex(/^data:image\/(png|jpeg|webp);base64,[A-Za-z0-9+/]+={0,2}$/, {
      error: 'a picture is kept as the data of a PNG, JPEG or WebP file',
    }),
  widthPx: z.int().min(1).max(20_000),
  heightPx: z.int().min(1).max(20_000),
});

/** A picture on the board to draw after, or on a part as its artwork. It is never cut. */
export const pictureSchema = z.strictObject({
  id,
  name,
  imageId: id,
  use: z.enum(['backdrop', 'artwork']),
  /** The part with which it moves; none for one that lies on the board. */
  partId: id.nullable(),
  /** The panel of a mechanism's part in whose frame it lies, so that it stays there when the mechanism is built anew. */
  panelId: id.optional(),
  face: z.enum(['front', 'back']),
  /** Its middle; and how wide it is. */
  at: pointSchema,
  widthMm: z.number().min(1).max(LIMITS.coordinateMm),
  turnDeg: degrees,
  /** How strongly it is shown, of 1. */
  strength: z.number().min(0.05).max(1),
});

const placedPieceSchema = z.strictObject({
  partId: id,
  copy: z.int().min(1),
  placement: isometrySchema,
  /** It stays where it lies when the rest is packed. */
  locked: z.literal(true).optional(),
});
export const sheetSchema = z.strictObject({
  stockId: id,
  widthMm: positiveMm,
  heightMm: positiveMm,
  pieces: z.array(placedPieceSchema),
  /** Of another size than the stock's own, or an offcut: which it is in the store, and what was said of it there. */
  sheetId: id.optional(),
  grain: z.enum(['along the width', 'along the height']).optional(),
  outline: z.array(pointSchema).min(3).max(100).readonly().optional(),
  price: z.number().min(0).max(100_000).optional(),
});

/**
 * What everything stands on.
 * - card: a folded card of the brief's size and opening; `front` is the leaf whose outside is the front;
 * - sheet: a flat sheet of the brief's size, pulled or plain, both of whose faces can be built on;
 * - structure: no card: a drafted part that holds still, and all folds folded up together, each to its rest angle.
 */
export const baseSchema = z.discriminatedUnion('kind', [
  z.strictObject({ kind: z.literal('card'), front: z.enum(['left', 'right']) }),
  z.strictObject({ kind: z.literal('sheet') }),
  z.strictObject({ kind: z.literal('structure'), rootPartId: id.nullable() }),
]);

/** What a design keeps of the store: the things that it uses which are not as they ship. */
export const keptStoreSchema = z.strictObject({
  stocks: entriesById(id, ITEM_SCHEMAS.stocks, 200, 'stocks').optional(),
  envelopes: entriesById(id, ITEM_SCHEMAS.envelopes, 200, 'envelopes').optional(),
  machines: entriesById(id, ITEM_SCHEMAS.machines, 200, 'machines').optional(),
  hardware: entriesById(id, ITEM_SCHEMAS.hardware, 200, 'pieces of hardware').optional(),
  adhesives: entriesById(id, ITEM_SCHEMAS.adhesives, 200, 'adhesives').optional(),
  fits: entriesById(z.enum(['loose', 'close']), ITEM_SCHEMAS.fits, 2, 'fits').optional(),
  postClasses: entriesById(id, ITEM_SCHEMAS.postClasses, 200, 'classes of post').optional(),
  readings: entriesById(id, ITEM_SCHEMAS.readings, 2000, 'readings').optional(),
  sheets: entriesById(id, ITEM_SCHEMAS.sheets, 2000, 'sheets and offcuts').optional(),
  profiles: entriesById(id, ITEM_SCHEMAS.profiles, 200, 'cutter profiles').optional(),
});

/** A finding that the designer accepted, by its key: why, and how it was; when that changes it is no longer accepted. */
export const acceptedSchema = z.strictObject({
  reason: z.string().min(1).max(500),
  was: z.string().max(200).optional(),
});

/** A packing, with the fingerprint of what was packed. */
export const sheetPlanSchema = z.strictObject({
  fingerprint: z.string().max(100),
  sheets: z.array(sheetSchema).max(500),
  seed: z.int(),
});

/** A packing that was kept beside the one that is cut from, to compare. */
export const keptPackingSchema = z.strictObject({
  id,
  name,
  plan: sheetPlanSchema,
  /** What it was packed with, in millimetres, as it is told beside its name. */
  with: z.string().max(120).optional(),
  /** When it was kept, ms. */
  at: z.number().min(0),
});

/** The longest that a step of a build sheet is named by: what it is, and a joint's id. */
const stepId = idUpTo(160);

/** What a person changed of a step of the build sheet, or a step of their own. */
export const buildStepSchema = z.strictObject({
  id: stepId,
  /** Their words for it; and what was said there when they wrote them. */
  words: z.string().min(1).max(600).optional(),
  was: z.string().max(1000).optional(),
  minutes: z.number().min(0).max(1000).optional(),
  waitMinutes: z.number().min(0).max(10_000).optional(),
  /** Whether a part is decorated while it lies flat, or when it is on. */
  when: z.enum(['flat', 'after']).optional(),
  leftOut: z.literal(true).optional(),
  /** A step that the person added. */
  own: z.literal(true).optional(),
});

/** What goes into a card, a wallet or a box: so large each, so many of them. */
export const contentsSchema = z.strictObject({
  id,
  name,
  longMm: z.number().min(0.1).max(2000),
  wideMm: z.number().min(0.1).max(2000),
  thickMm: z.number().min(0.01).max(500),
  pieces: z.int().min(1).max(200),
});

/** From what the card's size follows: what is held as it was typed, and what else there is to follow from. */
export const planSchema = z.strictObject({
  held: z.array(z.enum(['size', 'blank', 'envelope', 'contents'])).max(4),
  /** The blank at hand, as it lies when the card is open before the reader: width and height. */
  blankMm: z.tuple([z.number().min(10).max(2000), z.number().min(10).max(2000)]).nullable(),
  contents: z.array(contentsSchema).max(20),
  /** Free all round the contents. */
  borderMm: z.number().min(0).max(100),
});

export const briefSchema = z.strictObject({
  closedWidthMm: z.number().min(20).max(1000),
  closedHeightMm: z.number().min(20).max(1000),
  /** Folded at the side or at the top, or a gatefold: two doors, each half as wide as the card, over its back. */
  opening: z.enum(['side', 'top', 'gate']),
  envelopeId: z.string().max(60).nullable(),
  clearanceMm: z.number().min(0).max(50),
  audience: z.enum(['anyone', 'young children']),
  plan: planSchema,
  /** What else is put on it that is bought ready: gems, magnets, cords, so many of each. */
  extras: z.array(z.strictObject({ hardwareId: id, pieces: z.int().min(1).max(1000) })).max(30),
  note: z.string().max(4000),
});

/** What briefs of older designs do not say. */
const NEWLY_SAID = {
  plan: { held: ['size'], blankMm: null, contents: [], borderMm: 12 },
  extras: [],
} satisfies Partial<z.infer<typeof briefSchema>>;

/** What a design of before did not say is put in where it says nothing of it. */
const saidToo = (usual: object) => (value: unknown) =>
  typeof value === 'object' && value !== null ? { ...usual, ...value } : value;

/** How the pieces of a part may lie on sheets. */
export const lyingSchema = z.strictObject({
  /** As drawn, that and upside down, by quarters, or at every angle of 15 degrees; as far as grain allows. */
  turns: z.enum(['drawn', 'half', 'quarters', 'any']).optional(),
  /** Face down, too. */
  mirror: z.literal(true).optional(),
  /** On the same sheet as the pieces of this part that belong to the same card: of itself, or another one. */
  withPart: id.optional(),
});

export const settingsSchema = z.strictObject({
  cardStockId: id,
  /** How far inside the open edges everything must stay when the card is closed. */
  reachMarginMm: z.number().min(0).max(50),
  machineId: id,
  gapMm: z.number().min(0).max(50),
  marginMm: z.number().min(0).max(100),
  copies: z.int().min(1).max(500),
  /** What the tool takes away: cuts that bound the paper are moved to the waste side by half of it. */
  kerfMm: z.number().min(0).max(MOST_KERF_MM),
  /** Stocks whose pieces may lie across the grain of their sheets. */
  acrossGrain: z.array(id).max(500).readonly(),
  /** Whether other sizes and offcuts of the store are taken besides a stock's own sheets. */
  otherSheets: z.boolean(),
  /** A run of copies is cut from few sheets that repeat. */
  alikeSheets: z.boolean(),
  /** How pieces of some parts may lie where it is not as usual, by part. */
  lying: z.record(id, lyingSchema).readonly(),
  /** Closed cuts run on past their beginning by so much, and are entered from the waste, so far from it. */
  overcutMm: z.number().min(0).max(20),
  leadInMm: z.number().min(0).max(20),
  /** Files are mirrored: cut from the back; and sheets carry marks by which they are laid true. */
  fromBack: z.boolean(),
  registration: z.boolean(),
  /** How the cutter tells lines apart, by a profile of the store. */
  profileId: id,
  /** Whose folds are worked both ways before it is put together: of mechanism parts of heavy stock, of all, of none. */
  breakFibres: z.enum(['heavy', 'all', 'none']),
  /** The steps of the build sheet in an order that was set by hand; empty while it is the one that was found. */
  buildOrder: z.array(stepId).max(1000).readonly(),
});

export const designSchema = z.strictObject({
  schemaVersion: z.literal(SCHEMA_VERSION),
  name,
  base: baseSchema,
  // What a brief, or the settings, say only since: an edit of one field must not bring it with it.
  brief: z.preprocess(saidToo(NEWLY_SAID), briefSchema),
  settings: z.preprocess(saidToo(NEWLY_SET), settingsSchema),
  store: keptStoreSchema,
  parts: entriesById(id, draftedPartSchema, LIMITS.parts, 'parts'),
  instances: entriesById(id, instanceSchema, LIMITS.instances, 'mechanisms'),
  joints: entriesById(id, jointSchema, LIMITS.entries, 'joints'),
  additions: entriesById(id, additionSchema, LIMITS.entries, 'lines drawn on mechanisms'),
  accepted: z.record(z.string().max(300), acceptedSchema),
  /** Where parts lie on the drawing board, by part id. */
  board: z.record(id, z.strictObject({ x: coordinate, y: coordinate })),
  guides: entriesById(id, guideSchema, LIMITS.entries, 'guides').default({}),
  dimensions: entriesById(id, dimensionSchema, LIMITS.entries, 'measures').default({}),
  images: entriesById(id, imageSchema, LIMITS.images, 'picture files').default({}),
  pictures: entriesById(id, pictureSchema, LIMITS.pictures, 'pictures').default({}),
  sheetPlan: sheetPlanSchema.nullable(),
  packings: entriesById(id, keptPackingSchema, LIMITS.packings, 'packings').default({}),
  build: entriesById(stepId, buildStepSchema, LIMITS.entries, 'steps of the build sheet').default({}),
});

export type ReadDesign =
  { readonly ok: true; readonly design: Design } | { readonly ok: false; readonly message: string };

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
    const next = nextVersion(current);
    if (!next)
      return {
        ok: false,
        message:
          typeof version === 'number' && version > SCHEMA_VERSION
            ? `This design was saved by a newer version (${version}); this one reads up to ${SCHEMA_VERSION}.`
            : 'This is not a design: its schemaVersion is missing or unknown.',
      };
    current = next;
  }
  const result = designSchema.safeParse(current, { reportInput: true });
  if (result.success) return { ok: true, design: result.data };
  return { ok: false, message: `The design is damaged ${issueWords(result.error.issues[0])}` };
}
