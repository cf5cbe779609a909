import type { PieceRoom } from '@hollow-finch/core/checks/pieceScale';
import { gluesItself, type Design, type GlueJoint } from '@hollow-finch/core/design/design';
import { useEffect, useRef, useState } from 'react';
import { reportWorker } from '../../shared/store/reporter.ts';

/** The room of a glued piece, asked anew when anything but the piece's own place changes; a part glued onto itself has none. */
export function usePieceRoom(design: Design, joint: GlueJoint | undefined): PieceRoom | null {
  const [room, setRoom] = useState<PieceRoom | null>(null);
  const latest = useRef(design);
  latest.current = design;
  const { instances, parts, brief, settings } = design;
  const [id, hostPartId] = joint && !gluesItself(joint) ? [joint.id, joint.hostPartId] : [];
  useEffect(() => {
    setRoom(null);
    if (!id) return;
    let left = false;
    reportWorker()
      .pieceRoom(latest.current, id)
      .then(
        (found) => !left && setRoom(found),
        // Without its room a piece is moved without being warned: the report tells what it runs into.
        () => undefined,
      );
    return () => {
      left = true;
    };
  }, [id, hostPartId, instances, parts, brief, settings.reachMarginMm]);
  return room;
}
