/**
 * What differs between two designs: in words, in millimetres, and as commands that make the one out of the other. So a
 * revision can be compared with what is on the board, and be put back as an edit that can be undone.
 */
import type { Collection, Command } from '../design/commands.ts';
import type { Design, DraftedPart, Instance, Joint } from '../design/design.ts';
import { CARD_ID } from '../design/frames.ts';
import { USUAL_STORE } from '../stock/store.ts';
import { familyById } from './registry.ts';

/** One difference: what it is about, what was and is, and the command that makes it. */
export interface Difference {
  readonly subject: string;
  readonly words: string;
  readonly command: Command;
}

/** As text, the entries of every object in the order of their names: what was read and what was made are told alike. */
const asText = (value: unknown): string =>
  JSON.stringify(value, (_, part: unknown) =>
    typeof part === 'object' && part !== null && !Array.isArray(part)
      ? Object.fromEntries(Object.entries(part).sort(([a], [b]) => (a < b ? -1 : 1)))
      : part,
  );
/** Whether entries that both have come in another order. */
const otherOrder = (a: object, b: object): boolean => {
  const [was, is] = [Object.keys(a), Object.keys(b)];
  return was.filter((key) => key in b).join() !== is.filter((key) => key in a).join();
};
const same = (a: unknown, b: unknown): boolean => a === b || asText(a) === asText(b);
const mm = (value: unknown): string => `${Math.round(Number(value) * 100) / 100} mm`;
const quoted = (text: unknown): string => `“${String(text)}”`;
/** What a stock is called, in a design's own store or among those that ship. */
type StockName = (id: string) => string;
const namesIn = (...designs: readonly Design[]): StockName => {
  const stocks = Object.assign(
    {},
    USUAL_STORE.stocks,
    ...designs.map(({ store }) => store.stocks ?? {}),
  ) as typeof USUAL_STORE.stocks;
  return (id) => (Object.hasOwn(stocks, id) ? stocks[id].name : quoted(id));
};
const count = (n: number, one: string, more: string): string => (n === 1 ? `1 ${one}` : `${n} ${more}`);

const BRIEF: Readonly<Record<keyof Design['brief'], readonly [string, (value: never) => string]>> = {
  closedWidthMm: ['closed width', mm],
  closedHeightMm: ['closed height', mm],
  opening: ['opening', quoted],
  envelopeId: ['envelope', (id: string | null) => (id === null ? 'none' : id.toUpperCase())],
  clearanceMm: ['clearance', mm],
  audience: ['audience', quoted],
  extras: [
    'what else is on it',
    (extras: Design['brief']['extras']) =>
      extras.map(({ hardwareId, pieces }) => `${pieces} × ${hardwareId}`).join(', ') || 'nothing',
  ],
  plan: [
    'plan',
    ({ held, blankMm, contents, borderMm }: Design['brief']['plan']) =>
      [
        `from ${held.join(' and ') || 'nothing that is held'}`,
        ...(blankMm ? [`blank ${blankMm.map((side) => mm(side)).join(' × ')}`] : []),
        ...contents.map(({ name, pieces }) => `${pieces} × ${name}`),
        ...(contents.length > 0 ? [`border ${mm(borderMm)}`] : []),
      ].join(', '),
  ],
  note: [
    'note',
    (text: string) => (text === '' ? 'empty' : quoted(text.length > 60 ? `${text.slice(0, 60)}…` : text)),
  ],
};
const BASES: Readonly<Record<Design['base']['kind'], string>> = {
  card: 'a folded card',
  sheet: 'a flat sheet',
  structure: 'a structure without a card',
};
const yesOrNo = (is: boolean): string => (is ? 'yes' : 'no');
const settingsWords = (
  stockName: StockName,
): Readonly<Record<keyof Design['settings'], readonly [string, (value: never) => string]>> => ({
  cardStockId: ['stock of the card', stockName],
  reachMarginMm: ['margin at the open edges', mm],
  machineId: ['machine', quoted],
  gapMm: ['gap between pieces', mm],
  marginMm: ['margin of the sheets', mm],
  copies: ['copies', String],
  kerfMm: ['kerf', mm],
  overcutMm: ['overcut', mm],
  leadInMm: ['lead-in', mm],
  fromBack: ['cut from the back', yesOrNo],
  registration: ['registration marks', yesOrNo],
  profileId: ['cutter profile', quoted],
  breakFibres: ['fibres broken in folds', quoted],
  buildOrder: [
    'order of the build sheet',
    (ids: readonly string[]) => (ids.length === 0 ? 'as it is found' : 'set by hand'),
  ],
  otherSheets: ['other sizes and offcuts taken', yesOrNo],
  alikeSheets: ['sheets that repeat', yesOrNo],
  lying: [
    'how pieces may lie',
    (lying: Design['settings']['lying']) =>
      Object.keys(lying).length === 0
        ? 'as usual'
        : `otherwise for ${count(Object.keys(lying).length, 'part', 'parts')}`,
  ],
  acrossGrain: [
    'stocks laid across the grain',
    (ids: readonly string[]) => (ids.length === 0 ? 'none' : ids.map(stockName).join(', ')),
  ],
});

/** Fields of a group that differ, each as its own difference. */
function fields<T extends object>(
  subject: string,
  before: T,
  after: T,
  names: Readonly<Record<keyof T, readonly [string, (value: never) => string]>>,
  command: (change: Partial<T>) => Command,
): Difference[] {
  return (Object.keys(names) as (keyof T)[])
    .filter((key) => !same(before[key], after[key]))
    .map((key) => {
      const [name, say] = names[key];
      return {
        subject,
        words: `${name} ${say(before[key] as never)} → ${say(after[key] as never)}`,
        command: command({ [key]: after[key] } as unknown as Partial<T>),
      };
    });
}

/** Whether something was locked or unlocked, in words. */
const lockWords = (before: { locked?: true }, after: { locked?: true }): string[] =>
  before.locked === after.locked ? [] : [after.locked ? 'locked' : 'unlocked'];

/** What of a mechanism differs, in words. */
function instanceWords(before: Instance, after: Instance, stockName: StockName): string {
  const family = familyById(after.family);
  const said: string[] = [];
  if (before.name !== after.name) said.push(`called ${quoted(before.name)} → ${quoted(after.name)}`);
  if (before.family !== after.family) said.push(`another mechanism (${family?.title ?? after.family})`);
  if (before.stockId !== after.stockId)
    said.push(`stock ${stockName(before.stockId)} → ${stockName(after.stockId)}`);
  if (!same(before.host, after.host)) said.push('stands elsewhere');
  if (before.beyondLimits !== after.beyondLimits)
    said.push(after.beyondLimits ? 'may go beyond the card' : 'held to the card');
  if (before.turnDeg !== after.turnDeg) said.push('turned otherwise');
  if (!same(before.mount, after.mount)) said.push('glued on otherwise');
  said.push(...lockWords(before, after));
  for (const key of new Set([...Object.keys(before.params), ...Object.keys(after.params)])) {
    const [was, is] = [before.params[key], after.params[key]];
    if (was === is) continue;
    const spec = family?.specs.find((each) => each.key === key);
    const say = (value: typeof was): string =>
      value === undefined
        ? 'not there'
        : spec?.kind === 'length'
          ? mm(value)
          : spec?.kind === 'angle'
            ? `${Math.round(Number(value) * 100) / 100}°`
            : spec?.kind === 'choice'
              ? quoted(spec.choices.find((one) => one.value === value)?.label ?? value)
              : typeof value === 'boolean'
                ? value
                  ? 'yes'
                  : 'no'
                : quoted(value);
    said.push(`${(spec?.label ?? key).toLowerCase()} ${say(was)} → ${say(is)}`);
  }
  return said.join('; ');
}

/** Entries of two records: how many are new, gone and changed. */
function tally<T>(
  before: Readonly<Record<string, T>>,
  after: Readonly<Record<string, T>>,
  one: string,
  more: string,
): string[] {
  const [was, is] = [Object.keys(before), Object.keys(after)];
  const added = is.filter((key) => !(key in before)).length;
  const gone = was.filter((key) => !(key in after)).length;
  const changed = is.filter((key) => key in before && !same(before[key], after[key])).length;
  return [
    ...(added > 0 ? [`${count(added, one, more)} added`] : []),
    ...(gone > 0 ? [`${count(gone, one, more)} taken away`] : []),
    ...(changed > 0 ? [`${count(changed, one, more)} changed`] : []),
  ];
}

function partWords(before: DraftedPart, after: DraftedPart, stockName: StockName): string {
  return [
    ...(before.name === after.name ? [] : [`called ${quoted(before.name)} → ${quoted(after.name)}`]),
    ...(before.stockId === after.stockId
      ? []
      : [`stock ${stockName(before.stockId)} → ${stockName(after.stockId)}`]),
    ...(before.grainRad === after.grainRad ? [] : ['grain turned']),
    ...(before.quantity === after.quantity ? [] : [`quantity ${before.quantity} → ${after.quantity}`]),
    ...tally(before.lines, after.lines, 'line', 'lines'),
    ...tally(before.glueZones, after.glueZones, 'glue zone', 'glue zones'),
    ...tally(before.marks, after.marks, 'mark', 'marks'),
    ...(otherOrder(before.lines, after.lines) ? ['lines in another order'] : []),
    ...lockWords(before, after),
    ...(same(before.symmetry, after.symmetry)
      ? []
      : [after.symmetry ? 'the same on both sides of an axis' : 'no axis any more']),
    ...(same(before.twinOf, after.twinOf) ? [] : [after.twinOf ? 'follows its mirror twin' : 'stands alone']),
  ].join('; ');
}

/** Whether the lines of a part lie over each other in another order. */
const linesMoved = (was: unknown, is: unknown): boolean =>
  otherOrder((was as DraftedPart).lines, (is as DraftedPart).lines);

/** Entries of a collection that differ: taken away, added, or changed as `words` say. */
function entries<C extends Collection>(
  before: Design,
  after: Design,
  collection: C,
  nameOf: (id: string, design: Design) => string,
  words: (before: Design[C][string], after: Design[C][string]) => string,
): Difference[] {
  const [was, is] = [before[collection], after[collection]] as unknown as Record<string, Design[C][string]>[];
  const put = (id: string, value: unknown) => ({ do: 'put', in: collection, id, value }) as Command;
  return [...new Set([...Object.keys(was), ...Object.keys(is)])]
    .filter((id) => !same(was[id], is[id]) || (collection === 'parts' && linesMoved(was[id], is[id])))
    .map((id) =>
      !(id in is)
        ? { subject: nameOf(id, before), words: 'taken away', command: put(id, null) }
        : {
            subject: nameOf(id, after),
            words: id in was ? words(was[id], is[id]) : 'added',
            command: put(id, is[id]),
          },
    );
}

const partName = (id: string, design: Design): string =>
  id === CARD_ID ? 'the card' : (design.parts[id]?.name ?? design.instances[id.split('/')[0]]?.name ?? id);

const jointName = (joint: Joint | undefined, design: Design, id: string): string =>
  joint ? `${partName(joint.partId, design)} on ${partName(joint.hostPartId, design)}` : id;

/**
 * Everything that makes one design into another, in the order in which it can be done.
 *
 * @returns nothing when they are the same; the commands, applied in turn, make `after` of `before`
 */
export function differences(before: Design, after: Design): Difference[] {
  const title = (id: string, design: Design) => design.instances[id]?.name ?? id;
  const stockName = namesIn(before, after);
  return [
    ...(before.name === after.name
      ? []
      : [
          {
            subject: 'The job',
            words: `called ${quoted(before.name)} → ${quoted(after.name)}`,
            command: { do: 'rename', name: after.name } as const,
          },
        ]),
    ...(same(before.base, after.base)
      ? []
      : [
          {
            subject: 'The base',
            words: `${BASES[before.base.kind]} → ${BASES[after.base.kind]}`,
            command: { do: 'base', value: after.base } as const,
          },
        ]),
    ...(same(before.store, after.store)
      ? []
      : [
          {
            subject: 'The store',
            words: 'other stocks, envelopes or machines are kept with it',
            command: { do: 'store', value: after.store } as const,
          },
        ]),
    ...fields('The card', before.brief, after.brief, BRIEF, (value) => ({ do: 'brief', value })),
    ...fields('The job', before.settings, after.settings, settingsWords(stockName), (value) => ({
      do: 'settings',
      value,
    })),
    ...entries(before, after, 'parts', partName, (was, is) => partWords(was, is, stockName)),
    ...entries(before, after, 'instances', title, (was, is) => instanceWords(was, is, stockName)),
    ...entries(
      before,
      after,
      'joints',
      (id, d) => jointName(d.joints[id], d, id),
      (was, is) =>
        was.kind === is.kind ? `held otherwise (${is.kind})` : `was held by ${was.kind}, now by ${is.kind}`,
    ),
    ...entries(
      before,
      after,
      'additions',
      (id, d) => `A line on ${partName(d.additions[id]?.partId ?? id, d)}`,
      () => 'changed',
    ),
    ...entries(
      before,
      after,
      'accepted',
      () => 'An accepted finding',
      () => 'changed',
    ),
    ...entries(
      before,
      after,
      'board',
      (id, d) => `Place of ${partName(id, d)} on the board`,
      () => 'changed',
    ),
    ...entries(
      before,
      after,
      'guides',
      (id, d) => (d.guides[id]?.axis === 'y' ? 'A level guide' : 'An upright guide'),
      (was, is) => `at ${mm(was.atMm)} → ${mm(is.atMm)}`,
    ),
    ...entries(
      before,
      after,
      'dimensions',
      (id, d) => `A measure of ${partName(d.dimensions[id]?.partId ?? id, d)}`,
      () => 'changed',
    ),
    ...entries(
      before,
      after,
      'images',
      (id, d) => `The picture file ${quoted(d.images[id]?.name ?? id)}`,
      () => 'another one',
    ),
    ...entries(
      before,
      after,
      'pictures',
      (id, d) => `The picture ${quoted(d.pictures[id]?.name ?? id)}`,
      () => 'changed',
    ),
    ...entries(
      before,
      after,
      'packings',
      (id, d) => `The kept packing ${quoted(d.packings[id]?.name ?? id)}`,
      () => 'changed',
    ),
    ...entries(
      before,
      after,
      'build',
      () => 'A step of the build sheet',
      () => 'changed',
    ),
    ...(same(before.sheetPlan, after.sheetPlan)
      ? []
      : [
          {
            subject: 'The sheets',
            words: after.sheetPlan
              ? before.sheetPlan
                ? 'packed otherwise'
                : 'packed'
              : 'not packed any more',
            command: { do: 'sheetPlan', value: after.sheetPlan } as const,
          },
        ]),
  ];
}
