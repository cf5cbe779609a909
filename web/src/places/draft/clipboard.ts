/**
 * What was copied on the board: a mechanism with the pieces on it, a drafted part with how it hangs, or a line. Kept in the
 * browser, so that it can be pasted into another job.
 */
import { freshId, freshName } from '@hollow-finch/core/design/ids';
import type { Command } from '@hollow-finch/core/design/commands';
import type { Addition, Design, DraftedPart, Instance, Joint } from '@hollow-finch/core/design/design';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { placePath } from '@hollow-finch/core/geometry/path';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { nowhere, possibleHost } from '@hollow-finch/core/mechanisms/instance';
import { familyById } from '@hollow-finch/core/mechanisms/registry';
import { chosenOf, onesOf, type Selection, type Single } from '../../shared/store/selection.ts';
import { editableLine } from './draftEdits.ts';

/** Some things of a design, each under the id that it has there. */
export interface Copied {
  readonly format: typeof FORMAT;
  readonly version: number;
  readonly name: string;
  /** The mechanisms and parts that were chosen, by their ids; others come along. */
  readonly chosen: readonly string[];
  readonly instances: Readonly<Record<string, Instance>>;
  readonly parts: Readonly<Record<string, DraftedPart>>;
  readonly joints: Readonly<Record<string, Joint>>;
  readonly additions: Readonly<Record<string, Addition>>;
  /** Lines by themselves, each in the plane of its part. */
  readonly lines: readonly { readonly partId: string; readonly line: DraftedPart['lines'][string] }[];
}

const FORMAT = 'hollow-finch board 2';
const KEY = 'hollow-finch:board-clipboard';
/** What is pasted lies so far from what it was copied from, mm. */
const BESIDE_MM = 8;

const pick = <T>(record: Readonly<Record<string, T>>, keep: (value: T) => boolean): Record<string, T> =>
  Object.fromEntries(Object.entries(record).filter(([, value]) => keep(value)));

/** What is chosen, as it is copied; undefined where there is nothing that can be. */
export function copied(design: Design, selection: Selection): Copied | undefined {
  const all = onesOf(selection).flatMap((one) => copiedOne(design, one) ?? []);
  if (all.length < 2) return all[0];
  const together = <K extends 'instances' | 'parts' | 'joints' | 'additions'>(key: K): Copied[K] =>
    Object.assign({}, ...all.map((each) => each[key])) as Copied[K];
  return {
    ...all[0],
    name: `${all.length} things`,
    chosen: all.flatMap(({ chosen }) => chosen),
    instances: together('instances'),
    parts: together('parts'),
    joints: together('joints'),
    additions: together('additions'),
    lines: all.flatMap(({ lines }) => lines),
  };
}

function copiedOne(design: Design, selection: Single): Copied | undefined {
  const nothing = {
    format: FORMAT,
    version: design.schemaVersion,
    chosen: selection.kind === 'line' ? [] : [selection.id],
    instances: {},
    parts: {},
    joints: {},
    additions: {},
    lines: [],
  } as const;
  if (selection.kind === 'line') {
    const found = editableLine(design, selection.partId, selection.id);
    return found && { ...nothing, name: 'line', lines: [{ partId: selection.partId, line: found.line }] };
  }
  if (selection.kind === 'instance') {
    const instance = design.instances[selection.id];
    if (!instance) return undefined;
    const own = (partId: string) => partId.startsWith(`${instance.id}/`);
    const joints = pick(design.joints, ({ hostPartId }) => own(hostPartId));
    const pieces = new Set(Object.values(joints).map(({ partId }) => partId));
    return {
      ...nothing,
      name: instance.name,
      instances: { [instance.id]: instance },
      joints,
      parts: pick(design.parts, ({ id }) => pieces.has(id)),
      additions: pick(design.additions, ({ partId }) => own(partId)),
    };
  }
  const part = design.parts[selection.id];
  if (!part) return undefined;
  return {
    ...nothing,
    name: part.name,
    parts: { [part.id]: part },
    joints: pick(design.joints, ({ partId }) => partId === part.id),
  };
}

/** An edit that pastes something, and what is chosen then; or why it cannot be pasted here, in words. */
export type Pasted =
  | { readonly label: string; readonly command: Command; readonly selection: Selection }
  | { readonly refused: string };

/** Pastes what was copied: under names of its own, a little beside what it was copied from. */
export function pasted(design: Design, from: Copied, onto: Selection): Pasted {
  const things = Object.keys(from.instances).length + Object.keys(from.parts).length;
  if (from.lines.length > 0 && things === 0) return pastedLines(design, from.lines, onto);
  const commands: Command[] = [];
  const taken = {
    instances: { ...design.instances } as Record<string, unknown>,
    parts: { ...design.parts } as Record<string, unknown>,
    joints: { ...design.joints } as Record<string, unknown>,
    additions: { ...design.additions } as Record<string, unknown>,
  };
  const names = new Set([
    ...Object.values(design.instances).map(({ name }) => name),
    ...Object.values(design.parts).map(({ name }) => name),
  ]);
  const called = (wanted: string): string => {
    const name = freshName(names, wanted, wanted.replace(/ \d+$/, ''));
    names.add(name);
    return name;
  };
  const fresh = (kind: keyof typeof taken, prefix: string): string => {
    const id = freshId(prefix, taken[kind]);
    taken[kind][id] = true;
    return id;
  };
  const chosen: Single[] = [];
  /** New ids by the old ones: of mechanisms, and of drafted parts. */
  const ids = new Map<string, string>();
  for (const instance of Object.values(from.instances)) {
    const family = familyById(instance.family);
    const { gutters } = expand(design);
    const here = gutters.some(
      (g) => g.partId === instance.host.partId && g.lineId === instance.host.gutterId,
    );
    const host = here || !family ? undefined : possibleHost(family, gutters);
    if (!here && !host)
      return { refused: family ? nowhere(family) : 'This version does not have that mechanism.' };
    const id = fresh('instances', 'm');
    ids.set(instance.id, id);
    const value: Instance = {
      ...instance,
      id,
      name: called(instance.name),
      host: host ? { partId: host.partId, gutterId: host.lineId } : instance.host,
      params:
        typeof instance.params.alongMm === 'number'
          ? { ...instance.params, alongMm: instance.params.alongMm + BESIDE_MM }
          : instance.params,
    };
    commands.push({ do: 'put', in: 'instances', id, value });
    if (from.chosen.includes(instance.id)) chosen.push({ kind: 'instance', id });
  }
  for (const part of Object.values(from.parts)) ids.set(part.id, fresh('parts', 'p'));
  for (const part of Object.values(from.parts)) {
    const id = ids.get(part.id)!;
    // A twin follows its original where that comes along; else it stands alone.
    const { twinOf, ...alone } = part;
    const original = twinOf && ids.get(twinOf.partId);
    commands.push({
      do: 'put',
      in: 'parts',
      id,
      value: {
        ...alone,
        id,
        name: called(part.name),
        ...(twinOf && original ? { twinOf: { ...twinOf, partId: original } } : {}),
      },
    });
    if (from.chosen.includes(part.id)) chosen.push({ kind: 'part', id });
  }
  const mapped = (partId: string): string => {
    const [owner, ...rest] = partId.split('/');
    return [ids.get(owner) ?? owner, ...rest].join('/');
  };
  const known = new Set(expand(design).parts.map((part) => part.id));
  for (const joint of Object.values(from.joints)) {
    const hostPartId = mapped(joint.hostPartId);
    // What it hung on is not in this job: it is pasted without.
    if (hostPartId === joint.hostPartId && !known.has(hostPartId)) continue;
    const id = fresh('joints', 'j');
    const beside = hostPartId === joint.hostPartId && 'placement' in joint;
    const value = {
      ...joint,
      id,
      partId: mapped(joint.partId),
      hostPartId,
      ...(beside
        ? {
            placement: {
              ...joint.placement,
              dx: joint.placement.dx + BESIDE_MM,
              dy: joint.placement.dy - BESIDE_MM,
            },
          }
        : {}),
    } as Joint;
    commands.push({ do: 'put', in: 'joints', id, value });
  }
  for (const addition of Object.values(from.additions)) {
    const id = fresh('additions', 'a');
    const value: Addition = {
      ...addition,
      id,
      partId: mapped(addition.partId),
      line: { ...addition.line, id: `added-${id}` },
    };
    commands.push({ do: 'put', in: 'additions', id, value });
  }
  // A mechanism brings its pieces along: it alone is chosen then, as it was when it was copied.
  const selection = chosenOf(chosen);
  return { label: `Paste ${from.name}`, command: { do: 'all', commands }, selection };
}

/** Lines onto the drafted part that is chosen, or that they came from. */
function pastedLines(design: Design, lines: Copied['lines'], onto: Selection): Pasted {
  const [at] = onesOf(onto);
  const target = at && at.kind !== 'instance' ? (at.kind === 'line' ? at.partId : at.id) : lines[0].partId;
  const part = design.parts[target];
  if (!part) return { refused: 'Choose a drafted part first: a line is pasted onto one.' };
  const taken: Record<string, unknown> = { ...part.lines };
  const made = lines.map(({ line }): { command: Command; one: Single } => {
    const id = freshId('l', taken);
    taken[id] = true;
    const path = placePath(shift(BESIDE_MM, -BESIDE_MM), line.path);
    return {
      command: { do: 'line', partId: target, id, value: { ...line, id, path } as never },
      one: { kind: 'line', partId: target, id },
    };
  });
  return {
    label: made.length === 1 ? 'Paste a line' : `Paste ${made.length} lines`,
    command:
      made.length === 1 ? made[0].command : { do: 'all', commands: made.map(({ command }) => command) },
    selection: chosenOf(made.map(({ one }) => one)),
  };
}

/** Keeps what was copied in this browser; where that cannot be, only on this page. */
let here: Copied | null = null;
export function keepCopied(what: Copied): void {
  here = what;
  try {
    localStorage.setItem(KEY, JSON.stringify(what));
  } catch {
    // A full or blocked store: it can still be pasted here.
  }
}

/** What was copied last, in whatever window of this browser. */
export function lastCopied(version: number): Copied | null {
  try {
    const kept = JSON.parse(localStorage.getItem(KEY) ?? 'null') as Copied | null;
    if (kept?.format === FORMAT && kept.version === version) return kept;
  } catch {
    // Nothing that can be read.
  }
  return here;
}
