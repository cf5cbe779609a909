/** What is chosen on the board: nothing, one thing, or several. */
export type Single =
  | { readonly kind: 'instance'; readonly id: string }
  | { readonly kind: 'part'; readonly id: string }
  | { readonly kind: 'line'; readonly partId: string; readonly id: string };

export type Selection = Single | { readonly kind: 'several'; readonly of: readonly Single[] } | null;

/** The chosen things, one by one. */
export const onesOf = (selection: Selection): readonly Single[] =>
  selection === null ? [] : selection.kind === 'several' ? selection.of : [selection];

const same = (a: Single, b: Single): boolean =>
  a.kind === b.kind && a.id === b.id && (a.kind !== 'line' || a.partId === (b as typeof a).partId);

/** Whether a thing is among what is chosen. */
export const isChosen = (selection: Selection, one: Single): boolean =>
  onesOf(selection).some((each) => same(each, one));

/** Things as a choice: none is nothing, one is that one. */
export const chosenOf = (ones: readonly Single[]): Selection =>
  ones.length === 0 ? null : ones.length === 1 ? ones[0] : { kind: 'several', of: ones };

/** The choice with a thing added, or taken out where it was chosen. */
export const toggled = (selection: Selection, one: Single): Selection => {
  const rest = onesOf(selection).filter((each) => !same(each, one));
  return chosenOf(rest.length < onesOf(selection).length ? rest : [...rest, one]);
};

/** The parts that are chosen, by themselves or with their mechanism or a line of them. */
export const partIdsOf = (
  selection: Selection,
  instanceOf: Readonly<Record<string, string>>,
): Set<string> => {
  const ones = onesOf(selection);
  const instances = new Set(ones.filter(({ kind }) => kind === 'instance').map(({ id }) => id));
  return new Set([
    ...ones.flatMap((one) => (one.kind === 'part' ? [one.id] : one.kind === 'line' ? [one.partId] : [])),
    ...Object.keys(instanceOf).filter((partId) => instances.has(instanceOf[partId])),
  ]);
};
