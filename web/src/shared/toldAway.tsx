import { Button } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { saidOf } from './api.ts';
import { sayFault } from './sayFault.ts';

/** Tells that something was taken away, and offers to put it back; what then goes wrong is told as well. */
export function toldAway(words: string, putBack: () => Promise<unknown>): void {
  const id = `away ${words}`;
  const back = () => {
    notifications.hide(id);
    putBack().catch((fault: unknown) => sayFault(saidOf(fault)));
  };
  notifications.show({
    id,
    color: 'juniper',
    message: (
      <>
        {words}{' '}
        <Button size="compact-xs" variant="default" onClick={back}>
          Put it back
        </Button>
      </>
    ),
  });
}
