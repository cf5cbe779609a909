import { thinnestPlaces, Widths, type WidthPicture } from '@hollow-finch/core/checks/widths';
import type { Part } from '@hollow-finch/core/dieline/part';
import type { Point } from '@hollow-finch/core/geometry/point';
import { expose } from 'comlink';

/** The widths over a part, and its thinnest places. */
export interface WidthsOfPart {
  readonly picture: WidthPicture;
  readonly thinnest: readonly { readonly widthMm: number; readonly from: Point; readonly to: Point }[];
}

const api = {
  widths: (part: Part, places: number, count: number): WidthsOfPart => ({
    picture: new Widths(part).picture(places),
    thinnest: thinnestPlaces(part, count),
  }),
};
export type WidthsApi = typeof api;
expose(api);
