/** Paths as SVG data, and texts as XML. */
import { arcGeometry, type Path } from '../geometry/path.ts';

/** A coordinate to 0.1 micrometre. */
export const numberText = (value: number): string => {
  const text = value.toFixed(4).replace(/\.?0+$/, '');
  return text === '-0' ? '0' : text;
};

/** Path data of a path in a drawing of the given height: y is turned over here and nowhere else. */
export function pathData(path: Path, heightMm: number): string {
  const xy = ([x, y]: readonly [number, number]) => `${numberText(x)} ${numberText(heightMm - y)}`;
  const out = [`M${xy(path.start)}`];
  let from = path.start;
  for (const segment of path.segments) {
    if (segment.kind === 'line') out.push(`L${xy(segment.to)}`);
    else if (segment.kind === 'cubic') out.push(`C${xy(segment.c1)} ${xy(segment.c2)} ${xy(segment.to)}`);
    else {
      const arc = arcGeometry(from, segment.to, segment.bulge);
      if (!arc) out.push(`L${xy(segment.to)}`);
      else {
        // Turning left with y up is turning clockwise (sweep 0) with y down. Quarters at most: the centre of a half circle
        // hangs on the last digit of its radius (by the root of it), that of a quarter does not.
        const sweep = segment.bulge > 0 ? 0 : 1;
        const quarters = Math.ceil(Math.abs(arc.sweepRad) / (Math.PI / 2) - 1e-9);
        for (let k = 1; k <= quarters; k++) {
          const angle = arc.startRad + (arc.sweepRad * k) / quarters;
          const to =
            k === quarters
              ? segment.to
              : ([
                  arc.centre[0] + arc.radius * Math.cos(angle),
                  arc.centre[1] + arc.radius * Math.sin(angle),
                ] as const);
          out.push(`A${numberText(arc.radius)} ${numberText(arc.radius)} 0 0 ${sweep} ${xy(to)}`);
        }
      }
    }
    from = segment.to;
  }
  return out.join('');
}

/** What XML cannot hold at all: control characters, halves of a pair, two that are no characters. */
const NOT_XML =
  /[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

/** A text as XML content or as an attribute's value, whatever is in it. */
export const escapeXml = (text: string): string =>
  text
    .replace(NOT_XML, '\ufffd')
    .replace(
      /[&<>"']/g,
      (c) => ({ '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' })[c]!,
    );

/** A path as SVG data in its own plane with y up turned over about y = 0, for drawing on screen. */
export const screenPathData = (path: Path): string => pathData(path, 0);
