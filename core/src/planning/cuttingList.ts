/** What is cut and what else is needed: parts by size, stock and grain; hardware, adhesives; for one, and for so many. */
import { gluesOf, type Design } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import type { Expanded } from '../mechanisms/expand.ts';
import { ringArea } from '../geometry/polygon.ts';
import { partsList } from '../sheets/partsList.ts';
import { bradIn } from '../stock/store.ts';

export interface CutRow {
  readonly name: string;
  readonly count: number;
  readonly widthMm: number;
  readonly heightMm: number;
  readonly areaMm2: number;
  readonly stock: string;
  readonly colour: string;
  /** Which way the grain runs in it. */
  readonly grain: string;
}

export interface NeedRow {
  readonly name: string;
  readonly kind: 'hardware' | 'adhesive';
  /** Pieces, or for tape and glue the length of their zones and their area. */
  readonly count: number | null;
  readonly lengthMm: number;
  readonly areaMm2: number;
  readonly childSafe: boolean;
}

export interface CuttingList {
  readonly cut: readonly CutRow[];
  readonly needs: readonly NeedRow[];
}

/** Which way the grain runs, in words: angles are from the part's own x axis. */
export function grainWords(grainRad: number | null, stockGrain: 'long' | 'short' | 'none'): string {
  if (stockGrain === 'none') return 'none';
  if (grainRad === null) return 'any';
  const deg = ((((grainRad * 180) / Math.PI) % 180) + 180) % 180;
  if (deg < 5 || deg > 175) return 'across';
  if (Math.abs(deg - 90) < 5) return 'upright';
  return `${Math.round(deg)}°`;
}

/** Parts alike in all that is told of them are one row with a count. */
function cutRows(expanded: Expanded, copies: number): CutRow[] {
  const rows = new Map<string, CutRow>();
  for (const { part, stock, quantity, areaMm2, widthMm, heightMm } of partsList(expanded, { copies })) {
    if (quantity === 0 || areaMm2 === 0) continue;
    const row: CutRow = {
      name: part.name,
      count: quantity,
      widthMm,
      heightMm,
      areaMm2,
      stock: stock.name,
      colour: stock.colour,
      grain: grainWords(part.grainRad, stock.grain),
    };
    const key = [
      row.name,
      row.stock,
      row.grain,
      widthMm.toFixed(2),
      heightMm.toFixed(2),
      areaMm2.toFixed(2),
    ].join('|');
    const known = rows.get(key);
    rows.set(key, known ? { ...known, count: known.count + row.count } : row);
  }
  return [...rows.values()];
}

const longSide = (ring: readonly (readonly [number, number])[]): number => {
  // The longest way across the ring by any of its edges' directions: the long side of a strip of tape on it.
  let most = 0;
  ring.forEach(([x, y], i) => {
    const [u, v] = ring[(i + 1) % ring.length];
    const long = Math.hypot(u - x, v - y);
    if (long < 1e-9) return;
    const along = ring.map(([p, q]) => ((p - x) * (u - x) + (q - y) * (v - y)) / long);
    most = Math.max(most, Math.max(...along) - Math.min(...along));
  });
  return most;
};

/** What is pinned, raised and glued. */
function needRows({ parts, joints, store }: Expanded, copies: number): NeedRow[] {
  const rows = new Map<string, NeedRow>();
  const add = (key: string, row: NeedRow) => {
    const known = rows.get(key);
    rows.set(
      key,
      known
        ? {
            ...known,
            count: known.count === null ? null : known.count + (row.count ?? 0),
            lengthMm: known.lengthMm + row.lengthMm,
            areaMm2: known.areaMm2 + row.areaMm2,
          }
        : row,
    );
  };
  const partOf = new Map(parts.map((part) => [part.id, part]));
  const many = (id: string) => (partOf.get(id)?.quantity ?? 1) * copies;
  const none = { lengthMm: 0, areaMm2: 0 };
  for (const joint of joints) {
    if (joint.kind !== 'pivot') continue;
    const item = joint.hardwareId === undefined ? undefined : store.hardware[joint.hardwareId];
    const name = item?.name ?? `Brad, ${2 * bradIn(store, joint.hardwareId).radiusMm} mm head`;
    add(`h ${name}`, {
      name,
      kind: 'hardware',
      count: many(joint.partId),
      ...none,
      childSafe: item?.childSafe ?? false,
    });
  }
  for (const { partId, zoneId, pad, padMm = 0 } of gluesOf(joints)) {
    const part = partOf.get(partId);
    const zone = part?.glueZones.find(({ id }) => id === zoneId);
    if (!part || !zone) continue;
    const areaMm2 = Math.abs(ringArea(zone.outline)) * many(partId);
    const lengthMm = longSide(zone.outline) * many(partId);
    const item = pad && store.hardware[pad.hardwareId];
    if (item) {
      // So many pads as cover half of the zone, at least one, on each other as often as is asked.
      const each = Math.max(
        1,
        Math.round(Math.abs(ringArea(zone.outline)) / 2 / Math.max(1, item.widthMm ** 2)),
      );
      add(`h ${item.name}`, {
        name: item.name,
        kind: 'hardware',
        count: each * pad.layers * many(partId),
        ...none,
        childSafe: item.childSafe,
      });
      continue;
    }
    if (padMm > 0) {
      const name = `Pads ${Math.round(padMm * 100) / 100} mm thick`;
      add(`h ${name}`, { name, kind: 'hardware', count: many(partId), ...none, childSafe: true });
      continue;
    }
    const adhesive = zone.adhesiveId === undefined ? undefined : store.adhesives[zone.adhesiveId];
    const name = adhesive?.name ?? 'Glue or tape, whichever is at hand';
    add(`a ${name}`, { name, kind: 'adhesive', count: null, lengthMm, areaMm2, childSafe: true });
  }
  return [...rows.values()];
}

/** The cutting list of a design, for so many copies, with what else is put on it. The card or sheet comes first. */
export function cuttingList(
  expanded: Expanded,
  copies = 1,
  extras: Design['brief']['extras'] = [],
): CuttingList {
  const card = expanded.parts.find(({ id }) => id === CARD_ID);
  const cut = cutRows(expanded, copies);
  const first = cut.findIndex(({ name }) => name === card?.name);
  return {
    cut: first > 0 ? [cut[first], ...cut.slice(0, first), ...cut.slice(first + 1)] : cut,
    needs: [
      ...needRows(expanded, copies),
      ...extras.flatMap(({ hardwareId, pieces }): NeedRow[] => {
        const item = expanded.store.hardware[hardwareId];
        return item
          ? [
              {
                name: item.name,
                kind: 'hardware',
                count: pieces * copies,
                lengthMm: 0,
                areaMm2: 0,
                childSafe: item.childSafe,
              },
            ]
          : [];
      }),
    ],
  };
}
