/** Cutting plates, made away from the page. */
import '@hollow-finch/core/mechanisms/structures/all';
import { bedsFor, plateOf, type Plate, type PlateOptions } from '@hollow-finch/core/cutting/plates';
import type { Design } from '@hollow-finch/core/design/design';
import { writePlateDxf, writePlatePdf, writePlateSvg } from '@hollow-finch/core/formats/plateWrite';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { expose } from 'comlink';

export interface MadePlate {
  readonly plate: Plate | null;
  readonly beds: readonly string[];
}

const partsOf = (design: Design, ids: readonly string[]) =>
  expand(design).parts.filter(({ id, lines }) => ids.includes(id) && lines.length > 0);

const made = (design: Design, ids: readonly string[], options: PlateOptions, widestMm: number) =>
  plateOf(partsOf(design, ids), options, widestMm);

const api = {
  plate(design: Design, ids: readonly string[], options: PlateOptions, widestMm: number): MadePlate {
    const plate = made(design, ids, options, widestMm);
    return { plate, beds: plate ? bedsFor(plate) : [] };
  },
  /** The plate as a file. */
  async file(plate: Plate, title: string, kind: 'svg' | 'dxf' | 'pdf'): Promise<string | Uint8Array> {
    return kind === 'svg'
      ? writePlateSvg(plate, title)
      : kind === 'dxf'
        ? writePlateDxf(plate)
        : writePlatePdf(plate, title);
  },
};

export type PlatesApi = typeof api;
expose(api);
