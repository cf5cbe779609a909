/** Names that are not taken yet. */

/** The prefix with the first number under which nothing stands in a record: ids stay short. */
export function freshId(prefix: string, taken: Readonly<Record<string, unknown>>): string {
  for (let n = 1; ; n++) if (!(`${prefix}${n}` in taken)) return `${prefix}${n}`;
}

/**
 * The wanted name, or where it is taken the stem with the first number that is not.
 *
 * @param stem what a number is put after; the wanted name itself unless said
 */
export function freshName(taken: ReadonlySet<string>, wanted: string, stem = wanted): string {
  for (let n = 1; ; n++) {
    const name = n === 1 ? wanted : `${stem} ${n}`;
    if (!taken.has(name)) return name;
  }
}
