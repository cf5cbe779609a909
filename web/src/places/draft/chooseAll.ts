/** Several things chosen at once: mechanisms by any part of them, drafted parts, the card. */
import type { Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { chosenOf, type Selection, type Single } from '../../shared/store/selection.ts';

/** The choice of parts: of a mechanism's parts that mechanism, once. */
export function chosenParts(design: Design, partIds: ReadonlySet<string>): Selection {
  const { parts, instanceOf } = expand(design);
  const instances = new Set(
    parts.flatMap(({ id }) => (partIds.has(id) && instanceOf[id] !== undefined ? [instanceOf[id]] : [])),
  );
  return chosenOf([
    ...[...instances].map((id): Single => ({ kind: 'instance', id })),
    ...parts
      .filter(({ id }) => partIds.has(id) && instanceOf[id] === undefined)
      .map(({ id }): Single => ({ kind: 'part', id })),
  ]);
}

/** Every mechanism and every drafted part. */
export const chooseAll = (design: Design): Selection =>
  chosenOf([
    ...Object.keys(design.instances).map((id): Single => ({ kind: 'instance', id })),
    ...Object.keys(design.parts).map((id): Single => ({ kind: 'part', id })),
  ]);
