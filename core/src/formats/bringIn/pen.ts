/** Draws paths under a map: circular arcs stay arcs where the map keeps circles, elliptical ones become cubics. */
import { after, mapPath, mapPoint, type Affine } from '../../geometry/affine.ts';
import type { Path, Segment } from '../../geometry/path.ts';
import { add, distance, scale, type Point } from '../../geometry/point.ts';
import { BEYOND, isPlain, type Counted, type Notes } from './drawing.ts';

/** Shorter pieces are none, in units of the drawing. */
const NOTHING = 1e-9;

/** Collects paths of a drawing, each placed by the map that is given. */
export class Pen {
  readonly paths: Path[] = [];
  private start: Point | undefined;
  private segments: Segment[] = [];
  /** Where the pen is, and where its path began, before the map. */
  at: Point = [0, 0];
  private begun: Point = [0, 0];

  constructor(
    private readonly map: Affine,
    private readonly count: Counted,
    private readonly notes: Notes,
  ) {}

  move(to: Point): void {
    this.end();
    this.at = this.begun = to;
  }

  private push(segment: Segment, to: Point): void {
    if (!isPlain(...segment.to)) return this.beyond();
    this.count.add();
    const start = this.start ?? mapPoint(this.map, this.at);
    if (!isPlain(...start)) {
      // It begins where it can.
      this.at = this.begun = to;
      return this.beyond();
    }
    this.start = start;
    this.segments.push(segment);
    this.at = to;
  }

  private beyond(): void {
    this.notes.add(BEYOND);
  }

  line(to: Point): void {
    if (distance(this.at, to) <= NOTHING) return;
    this.push({ kind: 'line', to: mapPoint(this.map, to) }, to);
  }

  cubic(c1: Point, c2: Point, to: Point): void {
    if (distance(this.at, to) + distance(this.at, c1) + distance(c2, to) <= NOTHING) return;
    const [p, q, r] = [c1, c2, to].map((each) => mapPoint(this.map, each));
    if (!isPlain(...p, ...q)) return this.beyond();
    this.push({ kind: 'cubic', c1: p, c2: q, to: r }, to);
  }

  /** A quadratic curve is a cubic whose handles lie two thirds towards its own. */
  quadratic(c: Point, to: Point): void {
    const towards = (from: Point): Point => add(scale(from, 1 / 3), scale(c, 2 / 3));
    this.cubic(towards(this.at), towards(to), to);
  }

  /**
   * An arc of an ellipse by its centre, half axes (the first turned by an angle) and the angles between which it runs, in the
   * ellipse's own parameter; from where the pen is.
   */
  ellipse(
    centre: Point,
    rx: number,
    ry: number,
    turnRad: number,
    fromRad: number,
    sweepRad: number,
    to: Point,
  ): void {
    const [c, s] = [Math.cos(turnRad), Math.sin(turnRad)];
    const own: Affine = { a: c * rx, b: s * rx, c: -s * ry, d: c * ry, e: centre[0], f: centre[1] };
    const whole = after(this.map, own);
    if (!isPlain(whole.a, whole.b, whole.c, whole.d, whole.e, whole.f)) return this.beyond();
    // Half a turn at most each, so that every piece has a finite bulge.
    const pieces = Math.max(1, Math.ceil(Math.abs(sweepRad) / Math.PI - 1e-9));
    const on = (angle: number): Point => [Math.cos(angle), Math.sin(angle)];
    const unit: Path = {
      start: on(fromRad),
      segments: Array.from({ length: pieces }, (_, i): Segment => ({
        kind: 'arc',
        to: on(fromRad + (sweepRad * (i + 1)) / pieces),
        bulge: Math.tan(sweepRad / pieces / 4),
      })),
    };
    const { segments } = mapPath(whole, unit);
    segments.forEach((segment, i) => {
      const last = i === segments.length - 1;
      this.push(last ? { ...segment, to: mapPoint(this.map, to) } : segment, last ? to : this.at);
    });
    this.at = to;
  }

  /** An arc by its end, as a path says it: half axes, turn, the long way or not, and its sense. */
  arcTo(rx: number, ry: number, turnDeg: number, long: boolean, positive: boolean, to: Point): void {
    const from = this.at;
    if (distance(from, to) <= NOTHING) return;
    let [a, b] = [Math.abs(rx), Math.abs(ry)];
    if (a <= NOTHING || b <= NOTHING) return this.line(to);
    const turn = (turnDeg * Math.PI) / 180;
    const [c, s] = [Math.cos(turn), Math.sin(turn)];
    const half: Point = [(from[0] - to[0]) / 2, (from[1] - to[1]) / 2];
    const [x, y] = [c * half[0] + s * half[1], -s * half[0] + c * half[1]];
    // Too small to reach: both are made larger.
    const reach = Math.sqrt((x * x) / (a * a) + (y * y) / (b * b));
    if (reach > 1) [a, b] = [a * reach, b * reach];
    const root = Math.sqrt(
      Math.max(0, (a * a * b * b - a * a * y * y - b * b * x * x) / (a * a * y * y + b * b * x * x)),
    );
    const sign = long === positive ? -1 : 1;
    const [cx, cy] = [(sign * root * a * y) / b, (-sign * root * b * x) / a];
    const centre: Point = [c * cx - s * cy + (from[0] + to[0]) / 2, s * cx + c * cy + (from[1] + to[1]) / 2];
    const angleOf = (px: number, py: number) => Math.atan2((py - cy) / b, (px - cx) / a);
    const begin = angleOf(x, y);
    let sweep = angleOf(-x, -y) - begin;
    if (positive && sweep < 0) sweep += 2 * Math.PI;
    if (!positive && sweep > 0) sweep -= 2 * Math.PI;
    this.ellipse(centre, a, b, turn, begin, sweep, to);
  }

  /** Back to where the path began; the next one begins there, too. */
  close(): void {
    if (!this.start) return;
    if (distance(this.at, this.begun) > NOTHING) this.line(this.begun);
    // Closed to the last digit.
    const last = this.segments.length - 1;
    this.segments[last] = { ...this.segments[last], to: this.start };
    const { begun } = this;
    this.end();
    this.at = this.begun = begun;
  }

  /** Ends the path that is being drawn. */
  end(): void {
    if (this.start && this.segments.length > 0)
      this.paths.push({ start: this.start, segments: this.segments });
    this.start = undefined;
    this.segments = [];
  }
}
