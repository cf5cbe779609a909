/** Panels over a travel, as catches are looked for among them: where they are, how fast they move, and how two of them cross. */
import { RIGID_SIZE } from '../geometry/rigid.ts';
import { crossingOf, onLine, pose, type Crossing, type PosedPanel } from './crossing.ts';
import { flatPanelsOf, type FlatPanel } from './flatPanels.ts';
import { allowedOn, slotsByPair } from './passages.ts';
import { POSES } from './places.ts';
import { bodyAt } from './pose.ts';
import { movesBody, type Sweep } from './swept.ts';

/** Panels that are nearer than this are looked at however slowly they move, mm. */
const LEAST_NEAR_MM = 0.5;

/** How a panel moves over a travel: how far at most from each place to the ones beside it, and the box of all that it sweeps, mm. */
interface Way {
  readonly nearby: Float64Array;
  readonly low: ArrayLike<number>;
  readonly high: ArrayLike<number>;
}

/** The third difference of four places in a row. */
const THIRD = [1, -3, 3, -1] as const;
/** What stands still makes no steps. */
const STILL = new Float64Array(POSES);

/** Panels over a travel: posed at whole places and between them, with how fast they move and how smoothly. */
export class Stage {
  readonly flat: readonly FlatPanel[];
  private readonly slots: ReturnType<typeof slotsByPair>;
  private readonly standing = new Map<number, PosedPanel>();
  private readonly ways: (Way | undefined)[] = [];
  private readonly scratch = [new Float64Array(RIGID_SIZE), new Float64Array(RIGID_SIZE)];

  constructor(readonly sweep: Sweep) {
    this.flat = flatPanelsOf(sweep.linkage);
    this.slots = slotsByPair(sweep.linkage);
  }

  private offset(panel: number, t: number): number {
    const { panels, bodyCount } = this.sweep.linkage;
    return (t * bodyCount + panels[panel].body) * RIGID_SIZE;
  }

  /** A panel at a whole place. */
  at(panel: number, t: number): PosedPanel {
    if (movesBody(this.sweep, this.sweep.linkage.panels[panel].body))
      return pose(this.flat[panel], this.sweep.bodies, this.offset(panel, t));
    const known = this.standing.get(panel);
    if (known) return known;
    const posed = pose(this.flat[panel], this.sweep.bodies, this.offset(panel, t));
    this.standing.set(panel, posed);
    return posed;
  }

  /** The way of a panel: a rigid motion moves no point further than the furthest corner of its box. */
  private wayOf(panel: number): Way {
    const known = this.ways[panel];
    if (known) return known;
    const moves = movesBody(this.sweep, this.sweep.linkage.panels[panel].body);
    return (this.ways[panel] = moves ? this.movingWay(panel) : { ...this.at(panel, 0), nearby: STILL });
  }

  private movingWay(panel: number): Way {
    const nearby = new Float64Array(POSES);
    const low = new Float64Array(3).fill(Infinity);
    const high = new Float64Array(3).fill(-Infinity);
    const { bodies, linkage } = this.sweep;
    const stride = linkage.bodyCount * RIGID_SIZE;
    for (const [x, y] of this.flat[panel].corners)
      for (let t = 0, at = this.offset(panel, 0); t < POSES; t++, at += stride) {
        let square = 0;
        for (let d = 0, row = at; d < 3; d++, row += 4) {
          const here = bodies[row] * x + bodies[row + 1] * y + bodies[row + 3];
          if (here < low[d]) low[d] = here;
          if (here > high[d]) high[d] = here;
          if (t === 0) continue;
          const was = row - stride;
          const by = here - (bodies[was] * x + bodies[was + 1] * y + bodies[was + 3]);
          square += by * by;
        }
        const far = Math.sqrt(square);
        nearby[t] = Math.max(nearby[t], far);
        if (t > 0) nearby[t - 1] = Math.max(nearby[t - 1], far);
      }
    return { nearby, low, high };
  }

  /** Whether two panels come near each other anywhere on their ways. */
  waysMeet(a: number, b: number): boolean {
    const [p, q] = [this.wayOf(a), this.wayOf(b)];
    for (let d = 0; d < 3; d++)
      if (p.low[d] > q.high[d] + LEAST_NEAR_MM || q.low[d] > p.high[d] + LEAST_NEAR_MM) return false;
    return true;
  }

  /** So near two panels may come to each other within a step of the travel to either side of a place, mm. */
  nearMm(a: number, b: number, t: number): number {
    return LEAST_NEAR_MM + this.wayOf(a).nearby[t] + this.wayOf(b).nearby[t];
  }

  /** By how much poses between whole places may be wrong there, mm: a sixteenth of the third difference of the corners. */
  roughMm(panel: number, deg: number): number {
    const { bodies, linkage } = this.sweep;
    const stride = linkage.bodyCount * RIGID_SIZE;
    const from = this.offset(panel, Math.min(POSES - 3, Math.max(1, Math.floor(deg))) - 1);
    let most = 0;
    for (const [x, y] of this.flat[panel].corners) {
      let square = 0;
      for (let row = from; row < from + RIGID_SIZE; row += 4) {
        let third = 0;
        for (let n = 0, at = row; n < 4; n++, at += stride)
          third += THIRD[n] * (bodies[at] * x + bodies[at + 1] * y + bodies[at + 3]);
        square += third * third;
      }
      most = Math.max(most, square);
    }
    return Math.sqrt(most) / 16;
  }

  /** Whether paper can be at a place as this travel has both panels there. */
  sound(a: number, b: number, t: number): boolean {
    const { unsound, linkage } = this.sweep;
    const at = t * linkage.bodyCount;
    return unsound[at + linkage.panels[a].body] === 0 && unsound[at + linkage.panels[b].body] === 0;
  }

  /** Whether poses between places next to `deg` may be used: all that they are made from are sound. */
  soundRound(a: number, b: number, deg: number): boolean {
    const base = Math.min(POSES - 3, Math.max(1, Math.floor(deg)));
    return [base - 1, base, base + 1, base + 2].every((t) => this.sound(a, b, t));
  }

  /** Two panels at any place, and how they cross: as long as no other place is asked for. */
  between(a: number, b: number, deg: number) {
    const [forA, forB] = this.scratch;
    const { panels } = this.sweep.linkage;
    bodyAt(this.sweep, panels[a].body, deg, forA);
    bodyAt(this.sweep, panels[b].body, deg, forB);
    const [one, two] = [pose(this.flat[a], forA, 0), pose(this.flat[b], forB, 0)];
    return {
      one,
      two,
      body: forA,
      crossing: this.cross(a, b, one, two, (panel) => (panel === a ? forA : forB)),
    };
  }

  /** How two posed panels cross, their slots left out. */
  cross(
    a: number,
    b: number,
    one: PosedPanel,
    two: PosedPanel,
    bodyOf: (panel: number) => Float64Array,
  ): Crossing {
    const slots = this.slots.size > 0 ? this.slots.get(`${a},${b}`) : undefined;
    if (!slots) return crossingOf(one, two);
    return crossingOf(one, two, (along) => allowedOn(slots, bodyOf, along, onLine(one, two, along, 0)));
  }

  /** The placement of a panel's body at a whole place. */
  bodyOf(panel: number, t: number): Float64Array {
    const at = this.offset(panel, t);
    return this.sweep.bodies.subarray(at, at + RIGID_SIZE);
  }
}
