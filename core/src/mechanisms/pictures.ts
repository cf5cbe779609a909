/** Pictures as they lie: backdrops to draw after, artwork on parts. */
import type { Design, Picture } from '../design/design.ts';
import {
  compose,
  IDENTITY,
  inverse,
  place,
  placing,
  shift,
  turn,
  TURNED_ABOUT_Y,
  type Isometry,
} from '../geometry/isometry.ts';
import type { Point } from '../geometry/point.ts';
import { counterClockwise, type Region, type Ring } from '../geometry/polygon.ts';
import { intersection, solid } from '../geometry/regions.ts';
import { expand } from './expand.ts';

/** A picture in the plane of its part (of the board, for one that lies there). */
export interface LaidPicture {
  readonly picture: Picture;
  readonly widthMm: number;
  readonly heightMm: number;
  /** From its own plane (its middle at the origin, x to the right, y up as it is looked at) to that of the part. */
  readonly frame: Isometry;
  readonly corners: Ring;
}

/** Where a picture lies; undefined when its file or its panel is gone. */
export function laidPicture(design: Design, picture: Picture): LaidPicture | undefined {
  const image = design.images[picture.imageId];
  const { partId, panelId } = picture;
  const panel =
    partId === null || panelId === undefined ? IDENTITY : expand(design).panelFrames[partId]?.[panelId];
  if (!image || !panel) return undefined;
  const { widthMm, at, turnDeg } = picture;
  const heightMm = (widthMm * image.heightPx) / image.widthPx;
  // What is on the back is looked at from there: its right is the part's left.
  const turned = turn((turnDeg * Math.PI) / 180);
  const own = compose(
    shift(at[0], at[1]),
    picture.face === 'front' ? turned : compose(TURNED_ABOUT_Y, turned),
  );
  const frame = compose(panel, own);
  const [w, h] = [widthMm / 2, heightMm / 2];
  const corners = (
    [
      [-w, -h],
      [w, -h],
      [w, h],
      [-w, h],
    ] as const
  ).map(placing(frame));
  return { picture, widthMm, heightMm, frame, corners };
}

/** All artwork on a part, in the order in which it lies on it. */
export const artworkOn = (design: Design, partId: string): LaidPicture[] =>
  Object.values(design.pictures).flatMap((picture) =>
    picture.use === 'artwork' && picture.partId === partId ? (laidPicture(design, picture) ?? []) : [],
  );

/** What of a picture lies on a region of its part's plane. */
export const pictureWithin = ({ corners }: LaidPicture, region: Region): Region[] =>
  intersection([solid(counterClockwise(corners))], [region]);

/** Where in its picture a place of the part's plane is: 0 to 1 from its left to its right, and from below upwards. */
export function pictureShare({ frame, widthMm, heightMm }: LaidPicture, p: Point): Point {
  const [x, y] = place(inverse(frame), p);
  return [x / widthMm + 0.5, y / heightMm + 0.5];
}
