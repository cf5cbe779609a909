/**
 * What turns documents of earlier versions into the present one: designs, and the stored edits that belong to them. What a
 * document does not have is left as it is; the schema says what is wrong with it afterwards.
 */
type Json = Record<string, unknown>;

const isObject = (value: unknown): value is Json =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** Every entry of a record changed; what is no record stays as it is. */
const each = (record: unknown, change: (entry: unknown) => unknown): unknown =>
  isObject(record)
    ? Object.fromEntries(Object.entries(record).map(([key, entry]) => [key, change(entry)]))
    : record;

/** What a line of version 1 was called by its layer, as process and fold. */
const WORK_1: Readonly<Record<string, Json>> = {
  cut: { process: 'cut' },
  mountain: { process: 'score', fold: { sense: 'mountain' } },
  valley: { process: 'score', fold: { sense: 'valley' } },
  perforation: { process: 'perforate' },
  kiss: { process: 'kiss' },
  guide: { process: 'mark' },
};

function line1(line: unknown): unknown {
  if (!isObject(line) || typeof line.layer !== 'string' || !Object.hasOwn(WORK_1, line.layer)) return line;
  const { layer, ...rest } = line;
  return { ...rest, ...WORK_1[layer as string] };
}

const part1 = (part: unknown): unknown =>
  isObject(part) ? { ...part, lines: each(part.lines, line1), marks: part.marks ?? {} } : part;

const addition1 = (addition: unknown): unknown =>
  isObject(addition) ? { ...addition, line: line1(addition.line) } : addition;

/** Whether a design of version 1 is a top-fold card. */
const isTopFold = ({ brief }: Json): boolean => isObject(brief) && brief.opening === 'top';

/** A wrap of version 1 may still tell a height, which its layers tell since. */
function joint1(joint: unknown): unknown {
  if (!isObject(joint) || joint.kind !== 'wrap' || !('heightMm' in joint)) return joint;
  const { heightMm: _heightMm, ...rest } = joint;
  return rest;
}

/** On a top-fold card mechanisms lay on their side until they could be turned: those that did are left as they were. */
function instance1(instance: unknown, topFold: boolean): unknown {
  if (!isObject(instance) || !topFold) return instance;
  const { host } = instance;
  const onCard = isObject(host) && host.partId === 'card' && String(host.gutterId).startsWith('panel:');
  return onCard ? { ...instance, turnDeg: 270 } : instance;
}

/** Version 2: lines by process and fold, panels with marks, what the design stands on. */
const design1 = (design: Json): Json => ({
  ...design,
  schemaVersion: 2,
  base: { kind: 'card', front: 'left' },
  store: {},
  parts: each(design.parts, part1),
  instances: each(design.instances, (instance) => instance1(instance, isTopFold(design))),
  joints: each(design.joints, joint1),
  additions: each(design.additions, addition1),
});

function command1(command: unknown, design: Json): unknown {
  if (!isObject(command)) return command;
  switch (command.do) {
    case 'all':
      return Array.isArray(command.commands)
        ? { ...command, commands: command.commands.map((one) => command1(one, design)) }
        : command;
    case 'line':
      return { ...command, value: line1(command.value) };
    case 'put':
      if (command.in === 'parts') return { ...command, value: part1(command.value) };
      if (command.in === 'instances')
        return { ...command, value: instance1(command.value, isTopFold(design)) };
      if (command.in === 'joints') return { ...command, value: joint1(command.value) };
      return command.in === 'additions' ? { ...command, value: addition1(command.value) } : command;
    default:
      return command;
  }
}

interface Migration {
  readonly design: (design: Json) => Json;
  readonly command: (command: unknown, design: Json) => unknown;
}

/** What turns what is of version n into what is of version n + 1, by n. */
const MIGRATIONS: Readonly<Record<number, Migration>> = { 1: { design: design1, command: command1 } };

/** A design brought to the next version, or undefined when there is no way from its own. */
export const nextVersion = (design: Json): Json | undefined =>
  typeof design.schemaVersion === 'number' ? MIGRATIONS[design.schemaVersion]?.design(design) : undefined;

/**
 * Stored edits of a design of some version, as the present version has them.
 *
 * @param edits parsed JSON: label, command and inverse each
 * @param stored the design that they belong to, in the version in which it is stored
 */
export function presentEdits(edits: unknown, stored: unknown): unknown {
  if (!Array.isArray(edits) || !isObject(stored) || typeof stored.schemaVersion !== 'number') return edits;
  let current: unknown[] = edits;
  let design: Json = stored;
  for (let from = stored.schemaVersion; MIGRATIONS[from]; from++) {
    const { command } = MIGRATIONS[from];
    const of = design;
    current = current.map((edit) =>
      isObject(edit)
        ? { ...edit, command: command(edit.command, of), inverse: command(edit.inverse, of) }
        : edit,
    );
    design = MIGRATIONS[from].design(design);
  }
  return current;
}
