import { playCutter, type CutterSettings, type Simulation } from '@hollow-finch/core/cutting/cutter';
import { readCutFile, type CutFile } from '@hollow-finch/core/formats/cutFile';
import { expose } from 'comlink';
import { decode, unpack } from './fileBytes.ts';

export interface PlayedFile {
  readonly file: CutFile;
  readonly sim: Simulation;
}

const api = {
  /** Reads a cut file and plays it. */
  play: (bytes: Uint8Array, settings: CutterSettings): PlayedFile => {
    const file = readCutFile(bytes, unpack, decode);
    return { file, sim: playCutter(file.strokes, settings) };
  },
};
export type CutterApi = typeof api;
expose(api);
