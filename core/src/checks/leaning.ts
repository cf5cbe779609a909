/** What leans on the card on the way: paper that is meant to be pressed aside there, told with how far and how long. */
import { CARD_ID } from '../design/frames.ts';
import { catchesOf } from '../motion/catches.ts';
import type { Sweep } from '../motion/sweep.ts';
import { namedPanel } from './catchWords.ts';
import { mm } from './finding.ts';

/** A part that leans on a panel of the card: between which openings, pressed aside by how much at most. */
export interface Leaning {
  readonly partId: string;
  readonly fromDeg: number;
  readonly toDeg: number;
  readonly mostMm: number;
  readonly words: string;
}

/** All leanings of an opening, the deepest of each part on each panel of the card, deepest first. */
export function leaningsOf(sweep: Sweep): Leaning[] {
  const { panels, leaning } = sweep.linkage;
  if (leaning.length === 0) return [];
  const found = new Map<string, Leaning>();
  for (const { a, b, fromDeg, toDeg, depthMm } of catchesOf(sweep, leaning)) {
    const [part, on] = panels[a].part.id === CARD_ID ? [panels[b], panels[a]] : [panels[a], panels[b]];
    const key = `${part.part.id}|${on.id}`;
    const known = found.get(key);
    const [from, to] = [Math.min(fromDeg, known?.fromDeg ?? 180), Math.max(toDeg, known?.toDeg ?? 0)];
    const mostMm = Math.max(depthMm, known?.mostMm ?? 0);
    found.set(key, {
      partId: part.part.id,
      fromDeg: from,
      toDeg: to,
      mostMm,
      words: `${part.part.name} runs into ${namedPanel(on)} from ${from.toFixed(0)}° to ${to.toFixed(0)}°, by up to ${mm(mostMm)}, where its paper is pressed aside: cut it from paper that gives, or give it more folds.`,
    });
  }
  return [...found.values()].sort((p, q) => q.mostMm - p.mostMm);
}
