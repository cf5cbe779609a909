import { Button, Group, Progress } from '@mantine/core';

/** How far a packing is, and its stop. */
export function PackingBar({ progress, onStop }: { progress: number; onStop: () => void }) {
  return (
    <Group gap="sm" wrap="nowrap">
      <Progress value={100 * progress} aria-label="Packing" style={{ flex: 1 }} />
      <Button variant="default" onClick={onStop}>
        Stop
      </Button>
    </Group>
  );
}
