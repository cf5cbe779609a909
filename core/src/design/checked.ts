/**
 * Lists and records whose entries are checked one after another, up to the first that is wrong: a document of ten megabytes
 * with a fault in every line costs no more than one with a single fault, and tells one.
 */
import { z } from 'zod';

/** Tells the first thing that is wrong with an entry as a fault of its place in the whole. */
function tell(context: z.RefinementCtx, key: PropertyKey, error: z.core.$ZodError): void {
  const [issue] = error.issues;
  context.addIssue({ ...issue, path: [key, ...issue.path], continue: false } as z.core.$ZodRawIssue);
}

/** A list of at most so many entries. */
export const listOf = <T>(entry: z.ZodType<T>, most: number) =>
  z
    .array(z.unknown())
    .max(most)
    .transform((list, context): T[] => {
      const checked: T[] = [];
      for (const [i, value] of list.entries()) {
        const read = entry.safeParse(value, { reportInput: true });
        if (read.success) checked.push(read.data);
        else {
          tell(context, i, read.error);
          return z.NEVER;
        }
      }
      return checked;
    });

/** Entries by their id: so many at most, each under its own id. */
export const entriesById = <T extends { readonly id: string }>(
  key: z.ZodType<string>,
  entry: z.ZodType<T>,
  most: number,
  what: string,
) =>
  z.record(z.string(), z.unknown()).transform((entries, context): Record<string, T> => {
    const keys = Object.keys(entries);
    const wrong = (message: string, path: PropertyKey[] = []) => {
      context.addIssue({ code: 'custom', message, path });
      return z.NEVER;
    };
    if (keys.length > most) return wrong(`there are ${keys.length} ${what}; at most ${most} can be held`);
    const checked: Record<string, T> = {};
    for (const name of keys) {
      if (!key.safeParse(name).success)
        return wrong('an entry cannot have that name: it is empty or too long', [name]);
      const read = entry.safeParse(entries[name], { reportInput: true });
      if (!read.success) {
        tell(context, name, read.error);
        return z.NEVER;
      }
      if (read.data.id !== name)
        return wrong(`it is kept as “${name}” but calls itself “${read.data.id}”; both must be the same`, [
          name,
        ]);
      checked[name] = read.data;
    }
    return checked;
  });
