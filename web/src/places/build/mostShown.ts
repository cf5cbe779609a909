/** So many steps of a schedule are drawn at most. */
export const MOST_SHOWN = 600;
