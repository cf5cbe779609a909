/** Commands and edits that come from outside (a stored history), checked. */
import { z } from 'zod';
import { listOf } from './checked.ts';
import type { Collection, Command, Edit } from './commands.ts';
import {
  acceptedSchema,
  additionSchema,
  baseSchema,
  briefSchema,
  buildStepSchema,
  dimensionSchema,
  draftedPartSchema,
  guideSchema,
  imageSchema,
  instanceSchema,
  jointSchema,
  keptStoreSchema,
  lineSchema,
  keptPackingSchema,
  pictureSchema,
  settingsSchema,
  sheetPlanSchema,
} from './schema.ts';

/** Commands that are made as one. */
const MOST_COMMANDS = 10_000;

export const entrySchemas = {
  parts: draftedPartSchema,
  instances: instanceSchema,
  joints: jointSchema,
  additions: additionSchema,
  accepted: acceptedSchema,
  board: z.strictObject({ x: z.number(), y: z.number() }),
  guides: guideSchema,
  dimensions: dimensionSchema,
  images: imageSchema,
  pictures: pictureSchema,
  packings: keptPackingSchema,
  build: buildStepSchema,
};

/** Fields of a drafted part that are changed without its lines: an edit is as small as what it changes. */
export const partFieldsSchema = draftedPartSchema
  .pick({
    name: true,
    stockId: true,
    grainRad: true,
    quantity: true,
    glueZones: true,
    marks: true,
  })
  .partial()
  // What a part need not have is taken off it by null.
  .extend({
    locked: z.literal(true).nullish(),
    twinOf: draftedPartSchema.shape.twinOf.nullable(),
    symmetry: draftedPartSchema.shape.symmetry.nullable(),
  });

/** What has an id of its own is put under that id. */
function underItsId({ id, value }: { id: string; value: unknown }, context: z.RefinementCtx): void {
  const own = (value as { id?: unknown } | null)?.id;
  if (own !== undefined && own !== id)
    context.addIssue({
      code: 'custom',
      path: ['id'],
      message: `it is “${id}” but calls itself “${String(own)}”; both must be the same`,
    });
}

/** How many entries go before one that comes back. */
const placeSchema = z.int().min(0).max(1_000_000);

const putSchema = z.discriminatedUnion(
  'in',
  (Object.keys(entrySchemas) as Collection[]).map((collection) =>
    z
      .strictObject({
        do: z.literal('put'),
        in: z.literal(collection),
        id: z.string().max(300),
        value: entrySchemas[collection].nullable(),
        at: placeSchema.optional(),
      })
      .superRefine(underItsId),
  ) as unknown as [z.core.$ZodTypeDiscriminable, ...z.core.$ZodTypeDiscriminable[]],
);

const oneCommandSchema = z.discriminatedUnion('do', [
  putSchema,
  z
    .strictObject({
      do: z.literal('line'),
      partId: z.string().max(120),
      id: z.string().max(120),
      value: lineSchema.nullable(),
      at: placeSchema.optional(),
    })
    .superRefine(underItsId),
  z.strictObject({ do: z.literal('part'), id: z.string().max(120), value: partFieldsSchema }),
  z.strictObject({ do: z.literal('base'), value: baseSchema }),
  z.strictObject({ do: z.literal('store'), value: keptStoreSchema }),
  z.strictObject({ do: z.literal('rename'), name: z.string().min(1).max(120) }),
  z.strictObject({ do: z.literal('brief'), value: briefSchema.partial() }),
  z.strictObject({ do: z.literal('settings'), value: settingsSchema.partial() }),
  z.strictObject({ do: z.literal('sheetPlan'), value: sheetPlanSchema.nullable() }),
]);

/** Several commands as one; several of those as one again, but no deeper: what comes from outside has a bottom. */
const allOf = (command: z.ZodType) =>
  z.strictObject({ do: z.literal('all'), commands: listOf(command, MOST_COMMANDS) });
const fewSchema = z.discriminatedUnion('do', [oneCommandSchema, allOf(oneCommandSchema)]);

/**
 * Checks a command that comes from outside (a stored history). What it does is told first: only that one's form is then
 * compared, so that a wrong list costs no more than a right one.
 */
export const commandSchema = z.discriminatedUnion('do', [
  oneCommandSchema,
  allOf(fewSchema),
]) as unknown as z.ZodType<Command>;

export const editSchema: z.ZodType<Edit> = z.strictObject({
  label: z.string().max(200),
  command: commandSchema,
  inverse: commandSchema,
});
