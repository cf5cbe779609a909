/**
 * Material between two cuts, or between ends of one, thinner than the stock can hold. Exact: the shortest link between two
 * cut segments that runs through material; its middle must be as far from every cut as from these two, which keeps
 * corners and neighbouring pieces of one curve out.
 */
import { indexSegments } from '../dieline/planarGraph.ts';
import { panelPlan } from '../dieline/panels.ts';
import { isCut, type Part } from '../dieline/part.ts';
import { boxOf, flatten } from '../geometry/path.ts';
import { distance, distanceToSegment, middle, segmentGap, type Point } from '../geometry/point.ts';
import { stockById } from '../stock/stock.ts';
import { mm, type Finding, type Rule } from './finding.ts';

interface Piece {
  readonly a: Point;
  readonly b: Point;
  readonly lineId: string;
}

export interface Web {
  readonly widthMm: number;
  readonly from: Point;
  readonly to: Point;
  readonly lineIds: readonly [string, string];
}

/** How much nearer than half the link another cut may be to its middle before the link is no web of its own. */
const CLEAR_SHARE = 0.4;

/** Every web of a part narrower than `limitMm`, the narrowest one per pair of lines and place (cells of 4 limits). */
export function websOf(part: Part, limitMm: number): Web[] {
  const pieces: Piece[] = part.lines
    .filter((line) => isCut(line.layer))
    .flatMap((line) => {
      const points = flatten(line.path);
      return points.slice(1).map((b, i) => ({ a: points[i], b, lineId: line.id }));
    });
  const index = indexSegments(pieces, 0);
  if (!index) return [];
  const { panelContaining } = panelPlan(part);
  const near = (p: Point, r: number) => index.search(p[0] - r, p[1] - r, p[0] + r, p[1] + r);
  const best = new Map<string, Web>();
  pieces.forEach((p, i) => {
    const box = boxOf([p.a, p.b]);
    for (const j of index.search(
      box.minX - limitMm,
      box.minY - limitMm,
      box.maxX + limitMm,
      box.maxY + limitMm,
    )) {
      if (j <= i) continue;
      const q = pieces[j];
      const gap = segmentGap(p.a, p.b, q.a, q.b);
      if (gap.distance >= limitMm || gap.distance < 1e-6) continue;
      const at = middle(gap.onFirst, gap.onSecond);
      const clear = CLEAR_SHARE * gap.distance;
      if (near(at, clear).some((k) => distanceToSegment(at, pieces[k].a, pieces[k].b) < clear)) continue;
      if (panelContaining(at) < 0) continue;
      const cell = at.map((v) => Math.round(v / (4 * limitMm))).join();
      const lineIds = [p.lineId, q.lineId].sort() as [string, string];
      const key = `${lineIds.join('|')}|${cell}`;
      const known = best.get(key);
      if (!known || gap.distance < known.widthMm)
        best.set(key, { widthMm: gap.distance, from: gap.onFirst, to: gap.onSecond, lineIds });
    }
  });
  // One web can fall into neighbouring cells: keep the narrower of two that nearly touch.
  const webs = [...best.values()].sort((x, y) => x.widthMm - y.widthMm);
  return webs.filter(
    (web, i) =>
      !webs
        .slice(0, i)
        .some(
          (w) =>
            distance(middle(w.from, w.to), middle(web.from, web.to)) < 4 * limitMm &&
            w.lineIds.join() === web.lineIds.join(),
        ),
  );
}

/** Thin strips of material tear when the waste is pushed out, and bridges that are too narrow do not hold. */
export const thinWeb: Rule = {
  id: 'thinWeb',
  title: 'Thin web or bridge',
  protects: 'Strips between cuts and bridges are wide enough for the stock.',
  run({ expanded }) {
    return expanded.parts.flatMap((part) => {
      const stock = stockById(part.stockId);
      return websOf(part, stock.minWebMm).map((web): Finding => ({
        key: `thinWeb:${part.id}:${web.lineIds.join(':')}:${middle(web.from, web.to)
          .map((v) => Math.round(v / (4 * stock.minWebMm)))
          .join()}`,
        rule: 'thinWeb',
        severity: 'fault',
        sentence: `Between two cuts of ${part.name} only ${mm(web.widthMm)} of material is left; ${stock.name} wants ${mm(stock.minWebMm)}.`,
        measured: web.widthMm,
        limit: stock.minWebMm,
        unit: 'mm',
        limitFrom: `the least web of ${stock.name}`,
        places: [{ partId: part.id, at: middle(web.from, web.to), points: [web.from, web.to] }],
        mend: null,
      }));
    });
  },
};
