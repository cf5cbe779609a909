/** Which picture is in hand on the board. */
import { create } from 'zustand';

export const usePictures = create<{ readonly chosen: string | null }>(() => ({ chosen: null }));
