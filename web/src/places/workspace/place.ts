import type { StageId } from './stages.ts';

/** What every place is given: how to go to another one. */
export interface PlaceProps {
  onStage(stage: StageId): void;
}
