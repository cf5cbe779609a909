/** Edits that are kept for undo and redo with a job. */
export const MAX_HISTORY = 200;

/** Raised when pictures or rules change, so that jobs are looked at anew. */
export const LOOK_VERSION = 4;
/** Faces in a job's small picture, and letters of each one's outline. */
export const MAX_FACES = 300;
export const MAX_OUTLINE = 3_000;
