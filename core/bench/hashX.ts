import { createHash } from 'node:crypto';
import { packing } from '../src/sheets/packing.ts';
import { seededRandom } from '../src/geometry/random.ts';
import { solid } from '../src/geometry/regions.ts';
import type { Point } from '../src/geometry/point.ts';
const rnd = seededRandom(5);
const shape = (n: number, r: number) => { const out: Point[] = []; for (let i = 0; i < n; i++) { const a = (2*Math.PI*i)/n; const q = r*(0.5+0.5*rnd()); out.push([q*Math.cos(a), q*Math.sin(a)]); } return out; };
const ring = (r: number, k: number) => ({ outer: Array.from({length: 40}, (_, i): Point => [r*Math.cos(i*Math.PI/20), r*Math.sin(i*Math.PI/20)]), holes: [Array.from({length: 40}, (_, i): Point => [k*r*Math.cos(-i*Math.PI/20), k*r*Math.sin(-i*Math.PI/20)])] });
const t0 = performance.now();
for (const n of [12, 40, 90]) {
  const pieces = Array.from({length: n}, (_, i) => ({ partId: `p${i >> 1}`, copy: (i & 1) + 1, outlines: [i % 5 === 0 ? ring(20 + rnd()*10, 0.6) : solid(shape(4 + Math.floor(rnd()*20), 25))], grainRad: i % 3 ? null : 0, turnsRad: i % 3 ? [0, 0.5*Math.PI, Math.PI, 1.5*Math.PI] : [0, Math.PI] }));
  for (let i = 1; i < n; i += 2) pieces[i] = { ...pieces[i-1], copy: 2 };
  let last: any; const t = performance.now(); let first = 0;
  for (const s of packing({ pieces: pieces as any, sheet: { widthMm: 300, heightMm: 200, marginMm: 5, gapMm: 2, grainRad: 0 }, seed: 3, moves: 400 })) { last = s.best ?? last; if (s.best && !first) first = performance.now() - t; }
  console.log(n, createHash('md5').update(JSON.stringify(last.placed.map((p: any) => [p.piece.partId, p.sheet, p.placement]))).digest('hex').slice(0, 10), last.sheetCount, last.lastExtentMm.toFixed(4), 'first', first | 0, 'all', (performance.now() - t) | 0);
}
console.log((performance.now() - t0) | 0);
