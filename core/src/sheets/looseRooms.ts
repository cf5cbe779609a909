/** The sheets that pieces were cut from with room between, as they are put together again (loosePuzzle.ts). */
import type { Box } from '../geometry/path.ts';
import type { Region } from '../geometry/polygon.ts';
import { solid } from '../geometry/regions.ts';
import type { SheetSpec } from './pieces.ts';

/** The end of the last sheet is known only so well, mm. */
export const END_MM = 1.5;
/** Of what is free so much is taken away round each piece, mm, so that no hairs are left. */
export const HAIR_MM = 0.5;
/** Pieces whose area with the slack is by so much of a sheet more than some sheets fill these still. */
const SPARE = 0.05;
/** Sheets lie so far from each other while they are filled, in their widths. */
const APART = 2;

/** The sheets that pieces may have been cut from, and how far anything is from their rims. */
export class Rooms {
  readonly apartMm: number;
  readonly rooms: readonly Box[];

  /**
   * @param areaMm2 of all pieces with the room between them
   * @param beyondMm outlines may reach so far beyond the margin
   */
  constructor(sheet: SheetSpec, areaMm2: number, beyondMm: number) {
    const from = sheet.marginMm - beyondMm;
    const [wide, high] = [sheet.widthMm - 2 * from, sheet.heightMm - 2 * from];
    this.apartMm = APART * sheet.widthMm;
    const sheets = Math.max(1, Math.ceil(areaMm2 / (wide * high) - SPARE));
    this.rooms = Array.from({ length: sheets }, (_, k): Box => {
      const minX = k * this.apartMm + from;
      const long = k < sheets - 1 ? wide : Math.min(wide, areaMm2 / high - k * wide);
      return { minX, maxX: minX + long, minY: from, maxY: from + high };
    });
  }

  /** The sheet on which what has its middle at a place lies. */
  at(x: number): number {
    return Math.min(this.rooms.length - 1, Math.max(0, Math.floor((x + this.apartMm / 4) / this.apartMm)));
  }

  /** How far a place is within a sheet, mm; the end of the last one is known only nearly. */
  inside(k: number, x: number, y: number): number {
    const { minX, maxX, minY, maxY } = this.rooms[k];
    const end = maxX - x;
    return Math.min(
      x - minX,
      y - minY,
      maxY - y,
      k === this.rooms.length - 1 && Math.abs(end) < END_MM ? 0 : end,
    );
  }

  /** All of them, without the hairs along their sides. */
  free(): Region[] {
    return this.rooms.map(({ minX, maxX, minY, maxY }, k): Region => {
      const end = maxX - (k < this.rooms.length - 1 ? HAIR_MM : 0);
      return solid([
        [minX + HAIR_MM, minY + HAIR_MM],
        [end, minY + HAIR_MM],
        [end, maxY - HAIR_MM],
        [minX + HAIR_MM, maxY - HAIR_MM],
      ]);
    });
  }
}
