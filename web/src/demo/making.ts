/** What demo jobs are made with: mechanisms where they usually go, drafted parts, lines on panels. */
import '@hollow-finch/core/mechanisms/structures/all';
import { type Design, type DraftedPart, type Instance } from '@hollow-finch/core/design/design';
import { workOf, type DieLine, type Layer } from '@hollow-finch/core/dieline/part';
import type { Path } from '@hollow-finch/core/geometry/path';
import type { Params } from '@hollow-finch/core/mechanisms/family';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { newInstance, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { familyById } from '@hollow-finch/core/mechanisms/registry';

export function mechanism(
  design: Design,
  id: string,
  familyId: string,
  name: string,
  stockId: string,
  params: Params,
): Instance {
  const family = familyById(familyId)!;
  return newInstance(family, usualHost(family, expand(design).gutters), id, { name, stockId, params });
}

export const line = (id: string, layer: Layer, path: Path): DieLine => ({ id, ...workOf(layer), path });

export function part(
  id: string,
  name: string,
  stockId: string,
  lines: readonly DieLine[],
  rest: Partial<DraftedPart> = {},
): DraftedPart {
  return {
    id,
    name,
    stockId,
    grainRad: null,
    quantity: 1,
    lines: Object.fromEntries(lines.map((l) => [l.id, l])),
    glueZones: {},
    marks: {},
    ...rest,
  };
}

export const onPanel = (id: string, partId: string, panelId: string, layer: Layer, path: Path) => ({
  id,
  partId,
  panelId,
  line: line(`added-${id}`, layer, path),
});

export const byId = <T extends { readonly id: string }>(list: readonly T[]): Record<string, T> =>
  Object.fromEntries(list.map((entry) => [entry.id, entry]));
