/** What is wrong with a document that was refused, in words: where it is, what stands there, what may stand there. */
import type { z } from 'zod';

type Issue = z.core.$ZodIssue;

const KINDS: Readonly<Record<string, string>> = {
  string: 'a text',
  number: 'a number',
  int: 'a whole number',
  boolean: 'true or false',
  array: 'a list',
  tuple: 'a list',
  record: 'an object',
  object: 'an object',
  null: 'nothing (null)',
};

/** So much of a text that was found is quoted. */
const QUOTED = 40;

/** What was found, in words. */
function found(input: unknown): string {
  if (input === undefined) return 'it is missing';
  if (input === null) return 'it is empty (null)';
  if (typeof input === 'string')
    return `it is the text “${input.length > QUOTED ? `${input.slice(0, QUOTED)}…` : input}”`;
  if (Array.isArray(input)) return `it is a list of ${input.length}`;
  return typeof input === 'object' ? 'it is an object' : `it is ${String(input)}`;
}

const limitWords = (issue: { origin: string; input?: unknown }, bound: string): string => {
  if (issue.origin === 'string')
    return `the text has ${String(issue.input).length} letters; ${bound} ${bound.endsWith(' 1') ? 'letter' : 'letters'} can be held`;
  if (issue.origin === 'array' || issue.origin === 'set')
    return `the list has ${(issue.input as readonly unknown[]).length} entries; ${bound} can be held`;
  return `${found(issue.input)}; ${bound} is allowed`;
};

/** What one issue says, without its place. */
function said(issue: Issue): string {
  switch (issue.code) {
    case 'invalid_type':
      return `${found(issue.input)}; it should be ${KINDS[issue.expected] ?? issue.expected}`;
    case 'too_big':
      return limitWords(issue, `at most ${issue.maximum}`);
    case 'too_small':
      return limitWords(
        issue,
        issue.inclusive === false ? `more than ${issue.minimum}` : `at least ${issue.minimum}`,
      );
    case 'invalid_value':
      return `${found(issue.input)}; it should be ${listed(issue.values.map((value) => `“${String(value)}”`))}`;
    case 'invalid_union':
      return unionWords(issue);
    case 'invalid_key':
      return 'its name is empty or longer than a name may be; call it otherwise';
    case 'unrecognized_keys':
      return `it has ${listed(
        issue.keys.map((key) => `“${key}”`),
        'and',
      )}, which this version does not know`;
    case 'custom':
      return issue.message;
    default:
      return `${found(issue.input)}, which cannot be read`;
  }
}

function unionWords(issue: Extract<Issue, { code: 'invalid_union' }>): string {
  if (issue.discriminator)
    return `“${issue.discriminator}” does not say what it is: ${found((issue.input as Record<string, unknown> | undefined)?.[issue.discriminator])}`;
  const wanted = issue.errors.flatMap(([first]) =>
    first?.code === 'invalid_type' ? [KINDS[first.expected] ?? first.expected] : [],
  );
  const bound = issue.errors.flatMap(([first]) => (first && first.code !== 'invalid_type' ? [first] : []))[0];
  if (bound) return said({ ...bound, input: issue.input } as Issue);
  return `${found(issue.input)}; it should be ${listed([...new Set(wanted)])}`;
}

const listed = (words: readonly string[], last = 'or'): string =>
  words.length < 2 ? words.join('') : `${words.slice(0, -1).join(', ')} ${last} ${words[words.length - 1]}`;

/** The first thing that is wrong: `at parts > p1 > name: it is missing; it should be a text. ` and what to do. */
export function issueWords(issue: Issue): string {
  const where = issue.path.length > 0 ? `at ${issue.path.join(' > ')}` : 'at its top';
  return `${where}: ${said(issue)}. Put that right in the file and try again; nothing was changed.`;
}
