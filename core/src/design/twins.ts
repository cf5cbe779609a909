/**
 * Mirror twins: two drafted parts, each the mirror image of the other. Whichever is changed, the other follows: its lines, zones,
 * marks, stock and grain, and the place where it is glued.
 */
import { TURNED_ABOUT_Y, compose, inverse, type Isometry } from '../geometry/isometry.ts';
import { placePath } from '../geometry/path.ts';
import { applyCommand, type Command } from './commands.ts';
import { gluesItself, gluesOf, type Design, type DraftedPart, type GlueJoint } from './design.ts';

/** A part's plane mirrored about its upright axis; done twice it is nothing. */
const MIRROR = TURNED_ABOUT_Y;

type Followed = Pick<DraftedPart, 'lines' | 'glueZones' | 'marks' | 'stockId' | 'grainRad' | 'symmetry'>;

const each = <T, U>(record: Readonly<Record<string, T>>, change: (value: T) => U): Record<string, U> =>
  Object.fromEntries(Object.entries(record).map(([key, value]) => [key, change(value)]));

const mirrored = ([x, y]: readonly [number, number]): [number, number] => [-x, y];

/** What a part's twin has in common with it, mirrored. */
export const mirrorOf = ({
  lines,
  glueZones,
  marks,
  stockId,
  grainRad,
  symmetry,
}: DraftedPart): Followed => ({
  lines: each(lines, (line) => {
    const { fold, ...rest } = line;
    return { ...rest, ...(fold && { fold }), path: placePath(MIRROR, line.path) as typeof line.path };
  }),
  // Turned round again, so that a ring that turns left still does.
  glueZones: each(glueZones, (zone) => ({ ...zone, outline: zone.outline.map(mirrored).reverse() })),
  marks: each(marks, (mark) => ({
    ...mark,
    at: mirrored(mark.at),
    ...(mark.origin && { origin: mirrored(mark.origin) }),
  })),
  stockId,
  grainRad: grainRad === null ? null : Math.PI - grainRad,
  ...(symmetry && {
    symmetry: { ...symmetry, atMm: symmetry.axis === 'x' ? -symmetry.atMm : symmetry.atMm },
  }),
});

/** Where a twin lies when the other lies at `placement`: the map between the frames of their panels, both planes mirrored. */
export const twinPlacement = (map: Isometry, placement: Isometry): Isometry =>
  compose(compose(map, placement), MIRROR);

/** The commands that make one part of a pair follow the other: only what differs. */
function following(
  from: DraftedPart,
  to: DraftedPart,
  map: Isometry,
  joints: readonly GlueJoint[],
): Command[] {
  const wanted = mirrorOf(from);
  const commands: Command[] = [];
  const differ = (a: unknown, b: unknown) => JSON.stringify(a) !== JSON.stringify(b);
  for (const id of new Set([...Object.keys(wanted.lines), ...Object.keys(to.lines)])) {
    const value = wanted.lines[id] ?? null;
    if (differ(value, to.lines[id] ?? null)) commands.push({ do: 'line', partId: to.id, id, value });
  }
  const { lines: _lines, ...fields } = { ...wanted, symmetry: wanted.symmetry ?? null };
  const changed = Object.entries(fields).filter(([key, value]) =>
    differ(value, to[key as keyof Followed] ?? null),
  );
  if (changed.length > 0) commands.push({ do: 'part', id: to.id, value: Object.fromEntries(changed) });
  const glue = (id: string) => joints.find((joint) => joint.partId === id && !gluesItself(joint));
  const [mine, other] = [glue(from.id), glue(to.id)];
  if (mine && other) {
    const { padMm: _padMm, pad: _pad, ...rest } = other;
    const value: GlueJoint = {
      ...rest,
      ...(mine.padMm === undefined ? {} : { padMm: mine.padMm }),
      ...(mine.pad === undefined ? {} : { pad: mine.pad }),
      placement: twinPlacement(map, mine.placement),
    };
    if (differ(value, other)) commands.push({ do: 'put', in: 'joints', id: other.id, value });
  }
  return commands;
}

/** Twins of twins follow at most so deep. */
const MOST_ROUNDS = 20;

/** Whether a part, or where it is glued, is another value than before. */
function isChanged(before: Design, after: Design, id: string): boolean {
  if (before.parts[id] !== after.parts[id]) return true;
  const [was, is] = [before, after].map(({ joints }) =>
    gluesOf(Object.values(joints)).filter((joint) => joint.partId === id),
  );
  return was.length !== is.length || was.some((joint, i) => joint !== is[i]);
}

/**
 * A command with what it entails for twins: what is a mirror image of something that it changes is changed with it. A twin
 * whose original is taken away stands alone.
 */
export function withTwins(design: Design, command: Command): Command {
  let after = applyCommand(design, command).design;
  const more: Command[] = [];
  const done = (next: Command) => {
    more.push(next);
    after = applyCommand(after, next).design;
  };
  const changed = new Set<string>();
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const before = more.length;
    for (const twin of Object.values(after.parts)) {
      if (!twin.twinOf) continue;
      const { partId, map } = twin.twinOf;
      const original = after.parts[partId];
      if (!original || original.id === twin.id) {
        done({ do: 'part', id: twin.id, value: { twinOf: null } });
        continue;
      }
      const [ofOriginal, ofTwin] = [original.id, twin.id].map(
        (id) => changed.has(id) || isChanged(design, after, id),
      );
      if (!ofOriginal && !ofTwin) continue;
      const joints = gluesOf(Object.values(after.joints));
      const commands = ofOriginal
        ? following(original, twin, map, joints)
        : following(twin, original, inverse(map), joints);
      if (commands.length === 0) continue;
      changed.add(ofOriginal ? twin.id : original.id);
      commands.forEach(done);
    }
    if (more.length === before) break;
  }
  return more.length === 0 ? command : { do: 'all', commands: [command, ...more] };
}

/** The mirror image of places about the upright line at x. */
export const acrossUpright = (x: number): Isometry => ({ ...MIRROR, dx: 2 * x });
