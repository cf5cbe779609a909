/** Requests of every sort, to be packed in tests. */
import { circle, flatten } from '../../geometry/path.ts';
import type { Point } from '../../geometry/point.ts';
import type { Region, Ring } from '../../geometry/polygon.ts';
import { solid } from '../../geometry/regions.ts';
import { rectangle } from '../../mechanisms/pieces.ts';
import type { PackRequest } from '../packRequest.ts';
import type { PackPiece, SheetSpec } from '../pieces.ts';

/** A request of any sort. */
export function randomRequest(random: () => number, k: number): PackRequest {
  const between = (low: number, high: number): number => low + (high - low) * random();
  const gapMm = random() < 0.2 ? 0 : between(0.2, 4);
  const spec = (rest: Partial<SheetSpec> = {}): SheetSpec => ({
    widthMm: between(140, 320),
    heightMm: between(120, 260),
    marginMm: random() < 0.3 ? 0 : between(1, 10),
    gapMm,
    grainRad: k % 3 === 0 ? null : k % 3 === 1 ? 0 : Math.PI / 2,
    price: Math.round(between(0, 300)) / 100,
    ...rest,
  });
  const sheet = spec();
  const others = Array.from({ length: Math.floor(random() * 3) }, (_, i): SheetSpec => {
    const other = spec({ id: `kind ${i}`, count: 1 + Math.floor(random() * 2) });
    const { widthMm: w, heightMm: h } = other;
    if (random() < 0.5) return other;
    // An offcut: a corner, or a bay, is cut out of it.
    const [u, v] = [w * between(0.3, 0.7), h * between(0.3, 0.7)];
    const corner: Ring = [
      [0, 0],
      [w, 0],
      [w, v],
      [u, v],
      [u, h],
      [0, h],
    ];
    const bay: Ring = [
      [0, 0],
      [w, 0],
      [w, h],
      [u + 0.2 * w, h],
      [u, v],
      [u - 0.2 * w, h],
      [0, h],
    ];
    return { ...other, price: 0, count: 1, outline: random() < 0.5 ? corner : bay };
  });
  const shape = (): { outlines: Region[]; straight?: true } => {
    const which = random();
    const [w, h] = [between(15, 80), between(15, 70)];
    if (which < 0.25) return { outlines: [solid(rectangle(0, 0, w, h))], straight: true };
    if (which < 0.5) {
      // A frame: others may lie in it.
      const rim = between(3, 9);
      const [a, b] = [w + 40, h + 40];
      return {
        outlines: [
          {
            outer: rectangle(-900, 700, a, b),
            holes: [[...rectangle(-900 + rim, 700 + rim, a - 2 * rim, b - 2 * rim)].reverse()],
          },
        ],
        straight: true,
      };
    }
    if (which < 0.6) {
      const [outer, inner] = [30 + w / 3, 20 + w / 4].map((r) => flatten(circle([0, 0], r)).slice(0, -1));
      return { outlines: [{ outer, holes: [[...inner].reverse()] }] };
    }
    const count = 4 + Math.floor(random() * 8);
    const star = Array.from({ length: count }, (_, i): Point => {
      const a = (2 * Math.PI * i) / count;
      const r = between(8, 40);
      return [r * Math.cos(a), r * Math.sin(a)];
    });
    return { outlines: [solid(star)], straight: true };
  };
  const pieces = Array.from({ length: 2 + Math.floor(random() * 4) }, (_, p) => {
    const drawn = shape();
    const turns = random();
    const base = {
      partId: `p${p}`,
      ...drawn,
      grainRad: random() < 0.6 ? null : between(0, 3),
      ...(turns < 0.15
        ? { turnsRad: [0] }
        : turns < 0.3
          ? { turnsRad: [0, Math.PI] }
          : turns < 0.4
            ? { turnsRad: Array.from({ length: 24 }, (_, i) => (i * Math.PI) / 12) }
            : {}),
      ...(random() < 0.3 ? { mirror: true as const } : {}),
    };
    const twins = random() < 0.25;
    return Array.from({ length: 1 + Math.floor(random() * 5) }, (_, copy): PackPiece => ({
      ...base,
      copy: copy + 1,
      ...(twins ? { together: `${base.partId}-${copy >> 1}` } : {}),
    }));
  }).flat();
  return { pieces, sheet, others, seed: k, moves: 120 };
}
