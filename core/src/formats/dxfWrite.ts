/**
 * Cut files as DXF, in millimetres: each kind of line on a layer of its own with its line type; lines and arcs as polylines with
 * bulges, curves as clamped splines of degree three, so that nothing is flattened.
 */
import { DxfWriter, LWPolylineFlags, point3d, SplineFlags, Units } from '@tarikjabiri/dxf';
import type { Making } from '../cutting/making.ts';
import type { CutPiece } from '../cutting/order.ts';
import { cutOrder, type MadeOn } from '../cutting/order.ts';
import { isClosedPath, legsOf } from '../geometry/curve.ts';
import type { Path, Segment } from '../geometry/path.ts';
import type { Point } from '../geometry/point.ts';
import { LAYER_OF, LINE_TYPES } from './dxfLayers.ts';

/** Runs of segments that are one entity: lines and arcs together, curves together. */
function runsOf(path: Path): { readonly from: Point; readonly segments: readonly Segment[] }[] {
  const runs: { from: Point; segments: Segment[] }[] = [];
  for (const { from, segment } of legsOf(path)) {
    const last = runs[runs.length - 1];
    if (last && (last.segments[0].kind === 'cubic') === (segment.kind === 'cubic'))
      last.segments.push(segment);
    else runs.push({ from, segments: [segment] });
  }
  return runs;
}

function drawPath(dxf: DxfWriter, path: Path, layerName: string): void {
  const runs = runsOf(path);
  for (const { from, segments } of runs) {
    if (segments[0].kind === 'cubic') {
      const curves = segments as (Segment & { kind: 'cubic' })[];
      dxf.addSpline(
        {
          degreeCurve: 3,
          flags: SplineFlags.Planar,
          controlPoints: [from, ...curves.flatMap(({ c1, c2, to }) => [c1, c2, to])].map(([x, y]) =>
            point3d(x, y),
          ),
          knots: [
            ...[0, 0, 0, 0],
            ...curves.slice(1).flatMap((_, i) => [i + 1, i + 1, i + 1]),
            ...[0, 0, 0, 0].map(() => curves.length),
          ],
        },
        { layerName },
      );
      continue;
    }
    const whole = runs.length === 1 && isClosedPath(path);
    const corners = [from, ...segments.map(({ to }) => to)];
    dxf.addLWPolyline(
      (whole ? corners.slice(0, -1) : corners).map((at, i) => {
        const segment = segments[i] as Segment | undefined;
        const bulge = segment?.kind === 'arc' ? segment.bulge : 0;
        return { point: { x: at[0], y: at[1] }, bulge };
      }),
      { layerName, flags: whole ? LWPolylineFlags.Closed : LWPolylineFlags.None },
    );
  }
}

/**
 * The DXF cut file of pieces placed on a sheet.
 *
 * @param withMarks whether marks are in it, on their own layer
 * @param making how lines are made, and on which sheet
 */
export function writeDxf(
  pieces: readonly CutPiece[],
  withMarks = false,
  making: Making = {},
  on?: MadeOn,
): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  for (const [name, [letters, lengths]] of Object.entries(LINE_TYPES))
    dxf.addLType(name, letters, [...lengths]);
  const cuts = cutOrder(pieces, withMarks, making, on);
  const known = new Set<string>();
  for (const { stage, path } of cuts) {
    const { name, colour, type } = LAYER_OF[stage];
    if (!known.has(name)) {
      dxf.addLayer(name, colour, type === 'CONTINUOUS' ? 'Continuous' : type);
      known.add(name);
    }
    drawPath(dxf, path, name);
  }
  return dxf.stringify();
}
