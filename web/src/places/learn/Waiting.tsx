import { Loader } from '@mantine/core';

/** That an exercise is on its way, or why there is none. */
export function Waiting({ failure }: { failure: string | null }) {
  return failure ? (
    <p role="alert" className="wrong">
      {failure}
    </p>
  ) : (
    <p role="status" className="quiet">
      <Loader size="xs" /> Drafting something…
    </p>
  );
}
