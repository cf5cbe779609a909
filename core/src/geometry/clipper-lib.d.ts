declare module 'clipper-lib' {
  export interface IntPoint {
    X: number;
    Y: number;
  }
  export type IntPath = IntPoint[];
  export class PolyNode {
    Contour(): IntPath;
    Childs(): PolyNode[];
    IsHole(): boolean;
  }
  export class PolyTree extends PolyNode {}
  export class Clipper {
    constructor(options?: number);
    AddPaths(paths: IntPath[], type: number, closed: boolean): boolean;
    Execute(clipType: number, solution: PolyTree, subjectFill: number, clipFill: number): boolean;
  }
  export class ClipperOffset {
    constructor(miterLimit?: number, arcTolerance?: number);
    AddPaths(paths: IntPath[], joinType: number, endType: number): void;
    Execute(solution: PolyTree, delta: number): void;
  }
  export const ClipType: { ctIntersection: number; ctUnion: number; ctDifference: number; ctXor: number };
  export const PolyType: { ptSubject: number; ptClip: number };
  export const PolyFillType: {
    pftEvenOdd: number;
    pftNonZero: number;
    pftPositive: number;
    pftNegative: number;
  };
  export const JoinType: { jtSquare: number; jtRound: number; jtMiter: number };
  export const EndType: { etClosedPolygon: number; etOpenButt: number; etOpenRound: number };
}
