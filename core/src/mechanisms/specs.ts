/**
 * The measures of a mechanism, each described once: what it is called, what it may be, and what it usually is where the
 * mechanism is set. Specs, usual values and reading of parameters all come from that one description.
 */
import type { Gutter } from '../design/frames.ts';
import type { ParamValue } from '../design/design.ts';
import { choice, flag, num, whole, type Params, type ParamSpec } from './family.ts';

/** The room where a mechanism is set, mm. */
export interface Room {
  readonly gutter: Gutter;
  /** Depth of the left side; twice that is how wide a panel is. */
  readonly half: number;
  readonly wide: number;
  /** The least depth of both sides, and that within which things are hidden in the closed card too. */
  readonly sides: number;
  readonly depth: number;
  /** How far from the fold things may lie in the closed card. */
  readonly reach: number;
  /** Length of the fold or panel. */
  readonly tall: number;
}

const roomOf = (gutter: Gutter): Room => {
  const { left, right, reachMm: reach, lengthMm: tall } = gutter;
  const [half, sides] = [left.depthMm, Math.min(left.depthMm, right.depthMm)];
  return { gutter, half, wide: 2 * half, sides, depth: Math.min(reach, sides), reach, tall };
};

/** What a measure usually is: fixed, or from the room and the other usual measures. */
export type Usual<T> = T | ((room: Room, usual: Readonly<Record<string, number>>) => T);

type Unkeyed<S> = S extends ParamSpec ? Omit<S, 'key'> : never;

/** A measure without its key. */
export interface Measure<T extends ParamValue = ParamValue> {
  readonly spec: Unkeyed<ParamSpec>;
  readonly usual: Usual<T>;
  readonly read: (params: Params, key: string) => T;
}

type Shown = ParamSpec['shown'];

/** A length in mm between two ends. */
export const length = (
  label: string,
  hint: string,
  usual: Usual<number>,
  minMm = 2,
  maxMm = 600,
  shown?: Shown,
): Measure<number> => ({ spec: { label, hint, kind: 'length', minMm, maxMm, shown }, usual, read: num });

/** An angle in degrees between two ends. */
export const angle = (
  label: string,
  hint: string,
  usual: Usual<number>,
  minDeg: number,
  maxDeg: number,
  shown?: Shown,
): Measure<number> => ({ spec: { label, hint, kind: 'angle', minDeg, maxDeg, shown }, usual, read: num });

/** A whole number between two ends. */
export const count = (
  label: string,
  hint: string,
  usual: Usual<number>,
  min: number,
  max: number,
): Measure<number> => ({ spec: { label, hint, kind: 'count', min, max }, usual, read: whole });

/** One of a few, given as value and label in turn; usually the first. */
export const pick = <V extends string>(
  label: string,
  hint: string,
  choices: Readonly<Record<V, string>>,
  shown?: Shown,
  usual: NoInfer<V> = Object.keys(choices)[0] as V,
): Measure<V> => ({
  spec: {
    label,
    hint,
    kind: 'choice',
    choices: Object.entries<string>(choices).map(([value, text]) => ({ value, label: text })),
    shown,
  },
  usual,
  read: choice as Measure<V>['read'],
});

/** Yes or no. */
export const yesNo = (label: string, hint: string, usual: boolean, shown?: Shown): Measure<boolean> => ({
  spec: { label, hint, kind: 'flag', shown },
  usual,
  read: flag,
});

/** A few letters. */
export const letters = (
  label: string,
  hint: string,
  usual: string,
  maxLength: number,
  shown?: Shown,
): Measure<string> => ({ spec: { label, hint, kind: 'text', maxLength, shown }, usual, read: choice });

/** The stock of one of its parts: that of the mechanism unless another is chosen. */
export const stock = (label: string, hint: string, shown?: Shown): Measure<string> => ({
  spec: { label, hint, kind: 'stock', shown },
  usual: '',
  read: choice,
});

/** Where a mechanism is along its fold: the key by which every one of them is moved. */
export const PLACE_KEY = 'alongMm';

/** Its place along its fold: usually with its width in the middle. */
export const ALONG = length(
  'Place',
  'From the lower end of the fold.',
  ({ tall }, { widthMm }) => Math.round((tall - widthMm) / 2),
  -200,
  1000,
);

/** Its width, usually a share of the fold's length. */
export const widthOf = (share: number): Measure<number> =>
  length('Width', 'Along the fold.', shareOf('tall', share), 4, 1000);

/** Its place on a panel, from the panel's middle. */
export const across = (label: string, hint: string, usual: Usual<number> = 0): Measure<number> =>
  length(label, hint, usual, -600, 600);

/** Its place on a panel, from the panel's lower edge. */
export const up = (label: string, hint: string, usual: Usual<number>): Measure<number> =>
  length(label, hint, usual, 0, 1000);

/** The glue tabs that every glued-in family has; shown when `shown` says so. */
export const tabs = (tabMm: Usual<number>, taperMm: number, shown?: Shown) => ({
  tabMm: length('Tab depth', 'How far the glue tab reaches from its fold.', tabMm, 2, 60, shown),
  taperMm: length('Tab taper', 'How much each end of the tab is drawn in.', taperMm, 0, 60, shown),
});

/** A tab that is a share of the room's depth, but neither narrower than 5 mm nor deeper than `most`. */
export const tabOf =
  (share: number, most: number): Usual<number> =>
  ({ depth }) =>
    Math.min(most, Math.max(5, Math.round(depth * share)));

/** A share of one of the room's measures, in whole millimetres. */
export const shareOf =
  (of: Exclude<keyof Room, 'gutter'>, share: number): Usual<number> =>
  (room) =>
    Math.round(room[of] * share);

/** What is read from parameters, by key. */
export type Values<M extends Readonly<Record<string, Measure>>> = {
  readonly [K in keyof M]: M[K] extends Measure<infer T> ? T : never;
};

/** A measure that the family has asked for only since: designs that lack it read what was so before. */
export const since = <T extends ParamValue>(
  measure: Measure<T>,
  before: (params: Params) => T,
): Measure<T> => ({
  ...measure,
  read: (params, key) => (params[key] === undefined ? before(params) : measure.read(params, key)),
});

/** The same measure with another usual value. */
export const usually = <T extends ParamValue>(measure: Measure<T>, usual: Usual<T>): Measure<T> => ({
  ...measure,
  usual,
});

/** The same measure, asked for only where it plays a part. */
export const onlyWhere = <T extends ParamValue>(measure: Measure<T>, shown: Shown): Measure<T> => ({
  ...measure,
  spec: { ...measure.spec, shown },
});

/**
 * A family's measures, in the order in which they are asked for.
 *
 * @returns the specs for its fields; its usual parameters on a gutter; and a reader of parameters, that throws a RangeError
 *   with the name of a measure that is missing or wrong when that measure is asked for
 */
export function measures<M extends Readonly<Record<string, Measure>>>(all: M) {
  const entries = Object.entries(all);
  const reading = Object.defineProperties(
    {},
    Object.fromEntries(
      entries.map(([key, { read }]) => [
        key,
        {
          get(this: { params: Params }) {
            return read(this.params, key);
          },
        },
      ]),
    ),
  );
  return {
    specs: entries.map(([key, { spec }]) => ({ ...spec, key }) as ParamSpec),
    defaults(gutter: Gutter): Params {
      const room = roomOf(gutter);
      // Each is worked out when another one first asks for it.
      const values = Object.defineProperties(
        {},
        Object.fromEntries(
          entries.map(([key, { usual }]) => [
            key,
            { get: (): unknown => (typeof usual === 'function' ? usual(room, values) : usual) },
          ]),
        ),
      ) as Record<string, number>;
      return Object.fromEntries(entries.map(([key]) => [key, values[key]]));
    },
    read: (params: Params) => Object.create(reading, { params: { value: params } }) as Values<M>,
  };
}
