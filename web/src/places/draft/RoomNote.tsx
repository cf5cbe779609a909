import { scaledPart, scaleInRoom, wholePercent } from '@hollow-finch/core/checks/pieceScale';
import type { DraftedPart, GlueJoint } from '@hollow-finch/core/design/design';
import type { Part } from '@hollow-finch/core/dieline/part';
import { Button } from '@mantine/core';
import { useJob } from '../../shared/store/jobStore.ts';
import { usePieceRoom } from './usePieceRoom.ts';

/** Whether a glued piece keeps to the free area of its panel, and the largest that it may be. */
export default function RoomNote({
  part,
  plain,
  joint,
}: {
  part: DraftedPart;
  plain: Part;
  joint: GlueJoint;
}) {
  const shown = useJob((s) => s.calm);
  const room = usePieceRoom(shown, joint);
  if (!room) return null;
  const scale = scaleInRoom(room, plain, joint.placement);
  const percent = scale ? Math.round(wholePercent(scale) * 100) : null;
  const resize = (to: number) =>
    useJob.getState().edit(`Make ${part.name} ${to} % of its size`, {
      do: 'put',
      in: 'parts',
      id: part.id,
      value: scaledPart(part, room.centre, to / 100),
    });
  return (
    <p className={percent === null || percent < 100 ? 'wrong' : 'quiet'}>
      {percent === null
        ? 'Here it catches or pokes out at any size.'
        : percent < 100
          ? `It leaves the free area of its panel; at ${percent} % of its size it would fit here.`
          : 'It lies inside the free area of its panel.'}{' '}
      {percent !== null && percent !== 100 && (
        <Button size="compact-xs" variant="default" onClick={() => resize(percent)}>
          Largest that fits: {percent} %
        </Button>
      )}
    </p>
  );
}
