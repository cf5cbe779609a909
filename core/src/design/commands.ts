/**
 * Edits as commands. A command is plain data; applying it gives the new design and the command that takes it back, so
 * undo and redo are the same operation and can be stored.
 */
import type { z } from 'zod';
import type { entrySchemas, partFieldsSchema } from './commandSchema.ts';
import type { Design, DraftedPart } from './design.ts';
import type { lineSchema } from './schema.ts';

export type Collection = keyof typeof entrySchemas;
export type EntryOf<C extends Collection> = z.infer<(typeof entrySchemas)[C]>;

type PartFields = z.infer<typeof partFieldsSchema>;

/**
 * One edit. `put` with value null removes the entry. An entry that comes back takes its place among the others again: `at` says
 * how many went before it, so that what is taken back is the same to the byte.
 */
export type Command =
  | {
      readonly [C in Collection]: {
        readonly do: 'put';
        readonly in: C;
        readonly id: string;
        readonly value: EntryOf<C> | null;
        readonly at?: number;
      };
    }[Collection]
  | {
      readonly do: 'line';
      readonly partId: string;
      readonly id: string;
      readonly value: z.infer<typeof lineSchema> | null;
      readonly at?: number;
    }
  | { readonly do: 'part'; readonly id: string; readonly value: PartFields }
  | { readonly do: 'base'; readonly value: Design['base'] }
  | { readonly do: 'store'; readonly value: Design['store'] }
  | { readonly do: 'rename'; readonly name: string }
  | { readonly do: 'brief'; readonly value: Partial<Design['brief']> }
  | { readonly do: 'settings'; readonly value: Partial<Design['settings']> }
  | { readonly do: 'sheetPlan'; readonly value: Design['sheetPlan'] }
  | { readonly do: 'all'; readonly commands: readonly Command[] };

/** An edit as it is remembered: what a person calls it, the command, and the command that takes it back. */
export interface Edit {
  readonly label: string;
  readonly command: Command;
  readonly inverse: Command;
}

export interface Applied {
  readonly design: Design;
  readonly inverse: Command;
}

function withEntry<T>(
  record: Readonly<Record<string, T>>,
  id: string,
  value: T | null,
  at: number | undefined,
): Record<string, T> {
  if (value !== null && at !== undefined && !Object.hasOwn(record, id))
    return Object.fromEntries(Object.entries(record).toSpliced(at, 0, [id, value]));
  const next = { ...record };
  if (value === null) delete next[id];
  else next[id] = value;
  return next;
}

/** Where an entry is among the others, when it is to be removed. */
const placeBefore = (record: object, id: string, value: unknown): { at?: number } =>
  value === null && Object.hasOwn(record, id) ? { at: Object.keys(record).indexOf(id) } : {};

/** What a drafted part need not have: null takes it off. */
const MAY_LACK = ['locked', 'twinOf', 'symmetry'] as const;

/** A drafted part with some fields changed. */
function withFields(part: DraftedPart, fields: PartFields): DraftedPart {
  const next: Record<string, unknown> = { ...part, ...fields };
  for (const key of MAY_LACK) if (next[key] === null || next[key] === undefined) delete next[key];
  return next as DraftedPart;
}

/** The same fields of a part as they are; null for what it does not have. */
const fieldsBefore = (part: DraftedPart, fields: PartFields): PartFields =>
  Object.fromEntries(
    Object.keys(fields).map((key) => [key, part[key as keyof DraftedPart] ?? null]),
  ) as PartFields;

function pick<T extends object>(whole: T, keys: readonly string[]): Partial<T> {
  return Object.fromEntries(keys.map((key) => [key, whole[key as keyof T]])) as Partial<T>;
}

/**
 * Applies one command.
 *
 * @param design the design before; it is not changed
 * @param command the edit; a `line` or `part` edit on a part that does not exist throws a RangeError
 * @returns the design after and the inverse command
 */
export function applyCommand(design: Design, command: Command): Applied {
  switch (command.do) {
    case 'put': {
      const record = design[command.in] as Record<string, unknown>;
      const before = record[command.id] ?? null;
      return {
        design: {
          ...design,
          [command.in]: withEntry<unknown>(record, command.id, command.value, command.at),
        },
        inverse: {
          do: 'put',
          in: command.in,
          id: command.id,
          value: before,
          ...placeBefore(record, command.id, command.value),
        } as Command,
      };
    }
    case 'line': {
      const part = design.parts[command.partId];
      if (!part) throw new RangeError(`There is no part "${command.partId}" to draw on.`);
      const lines = withEntry(part.lines, command.id, command.value, command.at);
      return {
        design: { ...design, parts: { ...design.parts, [part.id]: { ...part, lines } } },
        inverse: {
          do: 'line',
          partId: part.id,
          id: command.id,
          value: part.lines[command.id] ?? null,
          ...placeBefore(part.lines, command.id, command.value),
        },
      };
    }
    case 'part': {
      const part = design.parts[command.id];
      if (!part) throw new RangeError(`There is no part "${command.id}" to change.`);
      return {
        design: { ...design, parts: { ...design.parts, [part.id]: withFields(part, command.value) } },
        inverse: { do: 'part', id: part.id, value: fieldsBefore(part, command.value) },
      };
    }
    case 'base':
      return { design: { ...design, base: command.value }, inverse: { do: 'base', value: design.base } };
    case 'store':
      return { design: { ...design, store: command.value }, inverse: { do: 'store', value: design.store } };
    case 'rename':
      return { design: { ...design, name: command.name }, inverse: { do: 'rename', name: design.name } };
    case 'brief':
      return {
        design: { ...design, brief: { ...design.brief, ...command.value } },
        inverse: { do: 'brief', value: pick(design.brief, Object.keys(command.value)) },
      };
    case 'settings':
      return {
        design: { ...design, settings: { ...design.settings, ...command.value } },
        inverse: { do: 'settings', value: pick(design.settings, Object.keys(command.value)) },
      };
    case 'sheetPlan':
      return {
        design: { ...design, sheetPlan: command.value },
        inverse: { do: 'sheetPlan', value: design.sheetPlan },
      };
    case 'all': {
      let current = design;
      const inverses: Command[] = [];
      for (const inner of command.commands) {
        const applied = applyCommand(current, inner);
        current = applied.design;
        inverses.unshift(applied.inverse);
      }
      return { design: current, inverse: { do: 'all', commands: inverses } };
    }
  }
}
