import type { Design } from '@hollow-finch/core/design/design';
import type { Isometry } from '@hollow-finch/core/geometry/isometry';
import { useRef, useState } from 'react';
import { faultWords, Helper } from '../../shared/helper.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import type { HandApi } from '../../workers/hand.worker.ts';
import { nowAt, samePiece, type PieceRef } from './handMoves.ts';

const helper = new Helper<HandApi>(
  () => new Worker(new URL('../../workers/hand.worker.ts', import.meta.url), { type: 'module' }),
);

/** Where a piece is wanted, from where it lies when its turn has come; undefined where it stays. */
export type Wanted = (design: Design, ref: PieceRef) => Isometry | undefined;

/** A piece on its way: where it is wanted, until it is known where it may lie. */
export interface OnItsWay {
  readonly ref: PieceRef;
  readonly at: Isometry;
}

/** What a hand does with pieces. */
export interface Hand {
  readonly chosen: PieceRef | null;
  /** What was said of the last move. */
  readonly said: string | null;
  readonly onItsWay: OnItsWay | null;
  /** Whether moves are still worked out. */
  readonly busy: boolean;
  choose(ref: PieceRef | null): void;
  move(ref: PieceRef, wanted: Wanted, toSheet?: number): void;
}

/** Moves pieces by hand, one move after another, each from where the last one left its piece. */
export function useHand(): Hand {
  const [chosen, setChosen] = useState<PieceRef | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [onItsWay, setOnItsWay] = useState<OnItsWay | null>(null);
  const [waiting, setWaiting] = useState(0);
  const queue = useRef<Promise<void>>(Promise.resolve());
  const moveNow = async (asked: PieceRef, wanted: Wanted, toSheet?: number) => {
    const { id, design } = useJob.getState();
    const ref = nowAt(design, asked);
    const at = ref && wanted(design, ref);
    if (!ref || !at) return;
    setOnItsWay({ ref, at });
    try {
      const moved = await helper.api.movedByHand(design, ref, at, toSheet ?? ref.sheet);
      const now = useJob.getState();
      if (now.id !== id) return;
      if (now.design !== design) {
        setSaid('The design was changed meanwhile: move the piece again.');
        return;
      }
      if (moved.plan) now.edit('Move a piece', { do: 'sheetPlan', value: moved.plan });
      setChosen(moved.ref);
      setSaid(moved.said);
    } catch (fault) {
      setSaid(faultWords(fault));
    } finally {
      setOnItsWay(null);
    }
  };
  return {
    chosen,
    said,
    onItsWay,
    busy: waiting > 0,
    choose(ref) {
      if (ref === null || !samePiece(chosen, ref)) setSaid(null);
      setChosen(ref);
    },
    move(ref, wanted, toSheet) {
      setWaiting((count) => count + 1);
      queue.current = queue.current
        .then(() => moveNow(ref, wanted, toSheet))
        .finally(() => setWaiting((count) => count - 1));
    },
  };
}
