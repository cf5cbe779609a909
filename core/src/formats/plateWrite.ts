/** A cutting plate as files: rules, scores, metal, bridges and connectors each on a layer of its own, in true size. */
import { DxfWriter, LWPolylineFlags, Units } from '@tarikjabiri/dxf';
import type { Plate } from '../cutting/plates.ts';
import { flatten, type Path } from '../geometry/path.ts';
import { polyline } from '../geometry/path.ts';
import { allRings } from '../geometry/polygon.ts';
import { isClosedPath } from '../geometry/curve.ts';
import { escapeXml, numberText, pathData, screenPathData } from './pathData.ts';
import { newDocument, PT, QUIET, write } from './pdfPage.ts';
import { rgb } from 'pdf-lib';

/** Names of the layers, with the colours and dashes by which they are told apart. */
const LAYERS = [
  ['rule', '#1d1d1b', []],
  ['score', '#2f6b57', [4, 2]],
  ['metal', '#8a8577', [1, 1]],
  ['bridge', '#a8442a', [2, 1]],
  ['connector', '#5b4a86', [3, 1, 1, 1]],
] as const;
type PlateLayer = (typeof LAYERS)[number][0];

/** What is on each layer, moved so that the plate begins at the origin. */
function drawn(plate: Plate): Readonly<Record<PlateLayer, readonly Path[]>> {
  const [dx, dy] = [-plate.box.minX, -plate.box.minY];
  const moved = (path: Path): Path => {
    const points = flatten(path).map(([x, y]) => [x + dx, y + dy] as const);
    return isClosedPath(path) ? polyline(points.slice(0, -1), true) : polyline(points);
  };
  const rings = (list: Plate['bridges']) => list.map((ring) => moved(polyline(ring, true)));
  return {
    rule: plate.rules.map(moved),
    score: plate.scores.map(moved),
    metal: rings(allRings(plate.metal)),
    bridge: rings(plate.bridges),
    connector: rings(plate.connectors),
  };
}

const sizeOf = ({ box }: Plate): [number, number] => [box.maxX - box.minX, box.maxY - box.minY];

export function writePlateSvg(plate: Plate, title: string): string {
  const [w, h] = sizeOf(plate);
  const layers = drawn(plate);
  const groups = LAYERS.map(([name, colour, dash]) => {
    const paths = layers[name].map((path) => `    <path d="${pathData(path, h)}"/>`).join('\n');
    const dashes = dash.length > 0 ? ` stroke-dasharray="${dash.join(' ')}"` : '';
    return `  <g id="${name}" fill="none" stroke="${colour}" stroke-width="0.1"${dashes}>\n${paths}\n  </g>`;
  });
  return `<?xml version="1.0" encoding="UTF-8"?>\n<svg xmlns="http://www.w3.org/2000/svg" width="${numberText(w)}mm" height="${numberText(h)}mm" viewBox="0 0 ${numberText(w)} ${numberText(h)}">\n  <title>${escapeXml(title)}</title>\n${groups.join('\n')}\n</svg>\n`;
}

export function writePlateDxf(plate: Plate): string {
  const dxf = new DxfWriter();
  dxf.setUnits(Units.Millimeters);
  const layers = drawn(plate);
  LAYERS.forEach(([name], i) => {
    dxf.addLayer(name, i + 1, 'Continuous');
    for (const path of layers[name]) {
      const points = flatten(path);
      const closed = isClosedPath(path);
      dxf.addLWPolyline(
        (closed ? points.slice(0, -1) : points).map(([x, y]) => ({ point: { x, y } })),
        { layerName: name, flags: closed ? LWPolylineFlags.Closed : LWPolylineFlags.None },
      );
    }
  });
  return dxf.stringify();
}

const MARGIN_MM = 10;

/** On one page as large as the plate with a margin, in true size. */
export async function writePlatePdf(plate: Plate, title: string): Promise<Uint8Array> {
  const { pdf, font } = await newDocument(title);
  const [w, h] = sizeOf(plate);
  const [pageW, pageH] = [Math.max(w, 120) + 2 * MARGIN_MM, h + 3 * MARGIN_MM];
  const page = pdf.addPage([pageW * PT, pageH * PT]);
  const layers = drawn(plate);
  for (const [name, colour, dash] of LAYERS) {
    const [r, g, b] = [1, 3, 5].map((at) => parseInt(colour.slice(at, at + 2), 16) / 255);
    for (const path of layers[name])
      page.drawSvgPath(screenPathData(path), {
        x: MARGIN_MM * PT,
        y: 2 * MARGIN_MM * PT,
        scale: PT,
        borderColor: rgb(r, g, b),
        borderWidth: name === 'rule' ? 0.25 : 0.12,
        ...(dash.length > 0 ? { borderDashArray: [...dash] } : {}),
      });
  }
  write(
    { page, font },
    `${title}: ${w.toFixed(1)} x ${h.toFixed(1)} mm, print at 100 %`,
    MARGIN_MM,
    6,
    8,
    QUIET,
  );
  return pdf.save();
}
