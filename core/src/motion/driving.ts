/** Bodies that the drivers place by themselves, from the still half over driven links, and where they are for given drivers. */
import { fromTwist, invert, multiply, RIGID_SIZE, rigidIdentity } from '../geometry/rigid.ts';
import { treeEdge, type TreeEdge } from './component.ts';
import type { Linkage } from './linkage.ts';
import { drivenValue, givenTwist, motionAfter, wrapMotion, type LinkDrive } from './links.ts';

/** Bodies whose pose the drivers fix, as tree edges from the root over driven links. */
function drivenEdges(linkage: Linkage): { edges: TreeEdge[]; known: boolean[] } {
  const known = Array.from({ length: linkage.bodyCount }, () => false);
  for (const root of [linkage.root, ...linkage.islands.keys()]) known[root] = true;
  const edges: TreeEdge[] = [];
  const grow = (followers: boolean): boolean => {
    let grown = false;
    for (const [index, link] of linkage.links.entries()) {
      if (!link.drive || known[link.left] === known[link.right]) continue;
      if ((link.drive.follows !== undefined) !== followers) continue;
      if (link.kind === 'wrap' && !known[link.left]) continue;
      const edge = treeEdge(link, index, known[link.left] ? link.left : link.right, -1);
      edges.push(edge);
      known[edge.child] = true;
      grown = true;
      if (followers) break;
    }
    return grown;
  };
  // What only follows carries something where nothing else does.
  while (grow(false) || grow(true));
  return { edges, known };
}

/** The drivers that move each known body. */
function driversOfBodies(linkage: Linkage, edges: readonly TreeEdge[]): ReadonlySet<number>[] {
  const movers = Array.from({ length: linkage.bodyCount }, () => new Set<number>());
  for (const edge of edges)
    movers[edge.child] = new Set([...movers[edge.parent], linkage.links[edge.link].drive!.driver]);
  return movers;
}

/** The half of the card (or door, or back) that each known body belongs to: the body that the opening turns, or the root. */
function halvesOfBodies(linkage: Linkage, edges: readonly TreeEdge[]): number[] {
  const halves = Array.from({ length: linkage.bodyCount }, () => linkage.root);
  for (const { link, parent, child } of edges)
    halves[child] = linkage.links[link].drive!.driver === 0 ? child : halves[parent];
  return halves;
}

/** What hangs on drivers alone is the same for every travel of a linkage: made once. */
export interface Reach {
  readonly edges: readonly TreeEdge[];
  readonly known: readonly boolean[];
  readonly movers: readonly ReadonlySet<number>[];
  readonly halfOf: readonly number[];
  /** By driver: the links that it drives, and the edges that it moves, in their order. */
  readonly linksOf: readonly (readonly number[])[];
  readonly edgesOf: readonly (readonly TreeEdge[])[];
}

const reaches = new WeakMap<Linkage, Reach>();

/** What the drivers reach by themselves; remembered per linkage. */
export function reachOf(linkage: Linkage): Reach {
  const made = reaches.get(linkage);
  if (made) return made;
  const { edges, known } = drivenEdges(linkage);
  const movers = driversOfBodies(linkage, edges);
  const linksOf: number[][] = linkage.drivers.map(() => []);
  linkage.links.forEach(({ drive }, i) => drive && linksOf[drive.driver].push(i));
  const edgesOf: TreeEdge[][] = linkage.drivers.map(() => []);
  for (const edge of edges) for (const driver of movers[edge.child]) edgesOf[driver].push(edge);
  const reach: Reach = { edges, known, movers, halfOf: halvesOfBodies(linkage, edges), linksOf, edgesOf };
  reaches.set(linkage, reach);
  return reach;
}

/** Placements of all bodies and values of driven links, for the drivers' values that were set last. */
export class Driven {
  readonly bodies: Float64Array;
  /** Values of driven links, radians or mm. */
  readonly values: Float64Array;
  readonly reach: Reach;
  private readonly drivers: Float64Array;
  private readonly frame = new Float64Array(RIGID_SIZE);
  private readonly turned = new Float64Array(RIGID_SIZE);
  private readonly twisted = new Float64Array(RIGID_SIZE);
  private readonly between = new Float64Array(RIGID_SIZE);
  private readonly twist = new Float64Array(6);

  constructor(private readonly linkage: Linkage) {
    const { bodyCount, links, drivers } = linkage;
    this.bodies = new Float64Array(bodyCount * RIGID_SIZE);
    for (let b = 0; b < bodyCount; b++)
      this.bodies.set(linkage.islands.get(b) ?? rigidIdentity(), b * RIGID_SIZE);
    this.values = new Float64Array(links.length);
    this.reach = reachOf(linkage);
    this.drivers = new Float64Array(drivers.length).fill(NaN);
  }

  /**
   * Places what the drivers reach by themselves; only what has changed since the last time is placed anew.
   *
   * @param valueOf the value of each driver: radians for the opening, degrees or mm for pulls
   */
  set(valueOf: (driver: number) => number): void {
    const { reach, drivers } = this;
    let [changed, last] = [0, -1];
    for (let d = 0; d < drivers.length; d++) {
      const value = valueOf(d);
      if (value === drivers[d]) continue;
      this.tell(d, value);
      [changed, last] = [changed + 1, d];
    }
    // Most often one driver moves, and what it does not move stays where it is.
    if (changed > 0) for (const edge of changed === 1 ? reach.edgesOf[last] : reach.edges) this.place(edge);
  }

  /** As `set`, when no other driver has moved since. */
  setOne(driver: number, value: number): void {
    const { reach, drivers } = this;
    if (value === drivers[driver]) return;
    this.tell(driver, value);
    for (const edge of reach.edgesOf[driver]) this.place(edge);
  }

  private tell(driver: number, value: number): void {
    this.drivers[driver] = value;
    for (const i of this.reach.linksOf[driver]) {
      this.values[i] = drivenValue(this.linkage.links[i].drive!, value);
    }
  }

  private place(edge: TreeEdge): void {
    const { bodies, values, frame, turned } = this;
    multiply(frame, bodies, edge.pre, 0, edge.parent * RIGID_SIZE, 0);
    if (edge.kind === 'wrap')
      wrapMotion(turned, edge.post, values[edge.link], this.linkage.links[edge.link].bandMm);
    else {
      const link = this.linkage.links[edge.link];
      const { drive } = link;
      if (drive?.gives) this.giving(edge, drive, drive.gives.fromLeft === (edge.parent === link.left));
      else motionAfter(turned, edge.kind, edge.post, edge.sense * values[edge.link]);
    }
    multiply(bodies, frame, turned, edge.child * RIGID_SIZE, 0, 0);
  }

  /** The turn of a link whose paper gives: the twist comes after the turn on the way to what hangs on it, before it on the way back. */
  private giving(edge: TreeEdge, drive: LinkDrive, onwards: boolean): void {
    const { turned, twist, twisted, between } = this;
    fromTwist(twisted, givenTwist(drive, this.drivers[drive.driver], twist));
    const value = edge.sense * this.values[edge.link];
    if (onwards) {
      multiply(between, twisted, edge.post);
      motionAfter(turned, edge.kind, between, value);
    } else {
      motionAfter(between, edge.kind, edge.post, value);
      multiply(turned, invert(twisted), between);
    }
  }
}
