/** What stands by itself made plain: ordinary parts and joints, changed line by line from then on. */
import type { Command } from '../design/commands.ts';
import type { Design, DraftedPart, Instance, Joint } from '../design/design.ts';
import { freshId, freshName } from '../design/ids.ts';
import { isRuling, type DieLine } from '../dieline/part.ts';
import { expand } from './expand.ts';

/** Whether an instance can be made plain: it stands on nothing that it changes, and nothing of it bends by rulings. */
export function canBePlain(design: Design, { id }: Instance): boolean {
  const { gutterOf, faults, parts, instanceOf } = expand(design);
  return (
    gutterOf[id]?.kind === 'table' &&
    !faults.some(({ subject }) => subject === id) &&
    !parts.some((part) => instanceOf[part.id] === id && part.lines.some(isRuling))
  );
}

/** A line as it is drawn: how paper gives at a fold is known of a family's closed form alone. */
function plainLine(line: DieLine): DieLine {
  if (!line.fold?.gives) return line;
  const { gives: _gives, ...fold } = line.fold;
  return { ...line, fold };
}

/**
 * The command that puts ordinary parts in the place of an instance that stands by itself: lines, zones, panels and joints as they
 * are, with what was drawn on them; where they lie on the board they stay.
 *
 * @param at where the board lays each part now
 * @returns the command, and the first of the new parts
 * @throws RangeError when it cannot be made plain
 */
export function madePlain(
  design: Design,
  instance: Instance,
  at: (partId: string) => { readonly x: number; readonly y: number } | undefined,
): { readonly command: Command; readonly partId: string } {
  if (!canBePlain(design, instance))
    throw new RangeError(
      `${instance.name} stands on something that it changes, or bends: it cannot be made plain.`,
    );
  const { parts, joints, instanceOf } = expand(design);
  const own = parts.filter((part) => instanceOf[part.id] === instance.id);
  const taken: Record<string, unknown> = { ...design.parts };
  const names = new Set(Object.values(design.parts).map(({ name }) => name));
  const idOf = new Map<string, string>();
  for (const part of own) {
    const id = freshId('p', taken);
    taken[id] = true;
    idOf.set(part.id, id);
  }
  const drafted = own.map((part): DraftedPart => {
    const name = freshName(names, part.name);
    names.add(name);
    const lines: Record<string, DieLine> = {};
    for (const line of part.lines) {
      const id = line.id in lines ? freshId(`${line.id}-`, lines) : line.id;
      lines[id] = plainLine({ ...line, id });
    }
    return {
      id: idOf.get(part.id)!,
      name,
      stockId: part.stockId,
      grainRad: part.grainRad,
      quantity: part.quantity,
      lines: lines as DraftedPart['lines'],
      glueZones: Object.fromEntries(
        part.glueZones.map((zone) => [zone.id, zone]),
      ) as DraftedPart['glueZones'],
      marks: Object.fromEntries(part.marks.map((mark) => [mark.id, mark])) as DraftedPart['marks'],
    };
  });
  const takenJoints: Record<string, unknown> = { ...design.joints };
  const mine = joints.filter(({ partId, hostPartId }) => idOf.has(partId) && idOf.has(hostPartId));
  const kept = mine.map((joint): Joint => {
    const id = freshId('j', takenJoints);
    takenJoints[id] = true;
    return { ...joint, id, partId: idOf.get(joint.partId)!, hostPartId: idOf.get(joint.hostPartId)! };
  });
  // What else hangs on them follows. The panels of what stands by itself lie in the planes of its parts.
  const hung = Object.values(design.joints).filter(
    ({ partId, hostPartId }) => idOf.has(partId) || idOf.has(hostPartId),
  );
  const movedOf = <T extends { readonly partId: string | null }>(
    record: Readonly<Record<string, T>>,
  ): [string, T, string][] =>
    Object.entries(record).flatMap(([id, each]): [string, T, string][] => {
      const to = each.partId === null ? undefined : idOf.get(each.partId);
      return to === undefined ? [] : [[id, each, to]];
    });
  const onBoard = own.flatMap((part) => {
    const place = at(part.id);
    return place ? [{ id: idOf.get(part.id)!, place }] : [];
  });
  return {
    partId: drafted[0].id,
    command: {
      do: 'all',
      commands: [
        ...drafted.map((part): Command => ({ do: 'put', in: 'parts', id: part.id, value: part })),
        ...kept.map((joint): Command => ({ do: 'put', in: 'joints', id: joint.id, value: joint })),
        ...hung.map((joint): Command => {
          const value = {
            ...joint,
            partId: idOf.get(joint.partId) ?? joint.partId,
            hostPartId: idOf.get(joint.hostPartId) ?? joint.hostPartId,
          };
          if (value.kind === 'glue' && idOf.has(joint.hostPartId)) delete value.onPanel;
          return { do: 'put', in: 'joints', id: joint.id, value };
        }),
        ...movedOf(design.guides).map(([id, guide, partId]): Command => ({
          do: 'put',
          in: 'guides',
          id,
          value: { ...guide, partId },
        })),
        ...movedOf(design.dimensions).map(([id, dimension, partId]): Command => ({
          do: 'put',
          in: 'dimensions',
          id,
          value: { ...dimension, partId },
        })),
        ...movedOf(design.pictures).map(([id, { panelId: _panel, ...picture }, partId]): Command => ({
          do: 'put',
          in: 'pictures',
          id,
          value: { ...picture, partId },
        })),
        ...Object.values(design.additions)
          .filter(({ partId }) => idOf.has(partId))
          .map(({ id }): Command => ({ do: 'put', in: 'additions', id, value: null })),
        ...onBoard.map(({ id, place }): Command => ({ do: 'put', in: 'board', id, value: place })),
        { do: 'put', in: 'instances', id: instance.id, value: null },
        ...(design.base.kind === 'structure' &&
        design.base.rootPartId !== null &&
        idOf.has(design.base.rootPartId)
          ? [
              {
                do: 'base',
                value: { kind: 'structure', rootPartId: idOf.get(design.base.rootPartId)! },
              } as const,
            ]
          : []),
      ],
    },
  };
}
