/** Lays pieces of the sheets by hand, away from the page: where a piece may lie among many takes a moment. */
import '@hollow-finch/core/mechanisms/structures/all';
import { expose } from 'comlink';
import { movedByHand } from '../places/sheets/handMoves.ts';

const api = { movedByHand };

export type HandApi = typeof api;
expose(api);
