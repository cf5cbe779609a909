/** Nicks and perforations: what is left whole must hold, and must be broken out cleanly. */
import {
  farthestBetweenNicks,
  fewestNicks,
  keptOffNicks,
  LEAST_NICKS,
  MOST_BETWEEN_NICKS_MM,
} from '../cutting/made.ts';
import { stockOf, type DieLine, type Part } from '../dieline/part.ts';
import { endOf, pathLength } from '../geometry/path.ts';
import { distance } from '../geometry/point.ts';
import { pointAlong } from '../geometry/stretch.ts';
import { SNAP_MM } from '../geometry/tolerances.ts';
import { findingOf, mm, type CheckContext, type Finding, type Mend, type Rule } from './finding.ts';
import { draftedLine } from './lineMends.ts';

const RULE = 'leftWhole';
/** A bridge narrower than so many thicknesses tears before it is meant to. */
const LEAST_THICKNESSES = 1;
/** A nick wider than this leaves a burr that is seen, mm. */
const MOST_NICK_MM = 1.5;

const LIMITS_FROM = {
  gap: 'the thickness of the stock',
  weak: 'the thickness of the stock',
  uncut: 'the length of the cut',
  burr: 'nicks as they are usual',
  single: 'nicks as they are usual',
  sparse: 'nicks as they are usual',
} as const;

/** What is wrong with the bridges of one line: in words, with what was measured, the limit, and the mended line. */
interface Fault {
  readonly kind: keyof typeof LIMITS_FROM;
  readonly words: string;
  readonly measured: number;
  readonly limit: number;
  readonly unit: 'mm' | 'pieces';
  readonly label: string;
  readonly mended: Pick<DieLine, 'nicks' | 'pattern'>;
}

function faultOf(part: Part, line: DieLine): Fault | undefined {
  const { nicks, pattern, path } = line;
  const { thicknessMm } = stockOf(part);
  const least = LEAST_THICKNESSES * thicknessMm;
  const up = Math.ceil(least * 10) / 10;
  if (pattern && pattern.gapMm < least)
    return {
      kind: 'gap',
      words: `The bridges of a perforation are ${mm(pattern.gapMm)} wide in paper ${mm(thicknessMm)} thick: it tears by itself.`,
      measured: pattern.gapMm,
      limit: least,
      unit: 'mm',
      label: `Leave ${mm(up)}`,
      mended: { pattern: { ...pattern, gapMm: up } },
    };
  if (!nicks) return undefined;
  const length = pathLength(path);
  if (nicks.count * nicks.widthMm >= length)
    return {
      kind: 'uncut',
      words: `${nicks.count} nicks of ${mm(nicks.widthMm)} leave nothing of a cut that is ${mm(length)} long: it is cut without them.`,
      measured: nicks.count * nicks.widthMm,
      limit: length,
      unit: 'mm',
      label: 'Take the nicks out',
      mended: { nicks: undefined },
    };
  if (nicks.widthMm < least)
    return {
      kind: 'weak',
      words: `Nicks ${mm(nicks.widthMm)} wide in paper ${mm(thicknessMm)} thick tear before the piece is broken out.`,
      measured: nicks.widthMm,
      limit: least,
      unit: 'mm',
      label: `Make them ${mm(up)} wide`,
      mended: { nicks: { ...nicks, widthMm: up } },
    };
  if (nicks.widthMm > MOST_NICK_MM)
    return {
      kind: 'burr',
      words: `Nicks ${mm(nicks.widthMm)} wide leave burrs that are seen when the piece is broken out.`,
      measured: nicks.widthMm,
      limit: MOST_NICK_MM,
      unit: 'mm',
      label: `Make them ${mm(0.5)} wide`,
      mended: { nicks: { ...nicks, widthMm: Math.max(0.5, up) } },
    };
  if (distance(path.start, endOf(path)) > SNAP_MM) return undefined;
  if (nicks.count < LEAST_NICKS)
    return {
      kind: 'single',
      words: 'A piece that hangs on one nick swings out of its sheet under the blade.',
      measured: nicks.count,
      limit: LEAST_NICKS,
      unit: 'pieces',
      label: 'Leave three nicks',
      mended: { nicks: { ...nicks, count: 3 } },
    };
  const keptOff = keptOffNicks(part, line);
  const farthest = farthestBetweenNicks(path, nicks, keptOff);
  if (farthest <= MOST_BETWEEN_NICKS_MM) return undefined;
  const count = fewestNicks(path, nicks.widthMm, keptOff, nicks.count + 1);
  return {
    kind: 'sparse',
    words: `From one nick to the next it is cut for ${mm(farthest)}: the edge lifts under the blade.`,
    measured: farthest,
    limit: MOST_BETWEEN_NICKS_MM,
    unit: 'mm',
    label: `Leave ${count} nicks`,
    mended: { nicks: { ...nicks, count } },
  };
}

/** A fault of a line as it is told, with the change that mends it where the line was drafted. */
interface Told {
  readonly finding: Finding;
  readonly mend?: Mend;
}

const toldOf = (context: CheckContext): Told[] =>
  context.expanded.parts.flatMap((part) =>
    part.lines.flatMap((line): Told[] => {
      const fault = line.nicks || line.pattern ? faultOf(part, line) : undefined;
      if (!fault) return [];
      const { kind, words, measured, limit, unit, label } = fault;
      const at = pointAlong(line.path, pathLength(line.path) / 2);
      const finding = findingOf(
        RULE,
        `${part.id}:${line.id}:${kind}`,
        `${part.name}: ${words}`,
        [{ partId: part.id, at, points: [] }],
        { severity: 'warning', measured, limit, unit, limitFrom: LIMITS_FROM[kind] },
      );
      const drafted = draftedLine(context, part.id, line.id);
      if (!drafted) return [{ finding }];
      const { nicks, pattern, ...rest } = drafted.line;
      const left = Object.entries({ nicks, pattern, ...fault.mended }).filter(([, value]) => value);
      return [
        { finding, mend: { label, command: drafted.change({ ...rest, ...Object.fromEntries(left) }) } },
      ];
    }),
  );

/** Bridges left in cuts and perforations hold until they are meant to break, and then break cleanly. */
export const leftWhole: Rule = {
  id: RULE,
  title: 'Nicks and perforations',
  protects:
    'What is left whole in a cut holds in the sheet and breaks cleanly; a perforation does not tear by itself.',
  needs: ['lines'],
  limit: `bridges at least as wide as the paper is thick; nicks at most ${MOST_NICK_MM} mm, two or more round a piece, ${MOST_BETWEEN_NICKS_MM} mm apart at most`,
  unit: 'mm',
  run: (context) => toldOf(context).map(({ finding }) => finding),
  offers: (context, { key }) =>
    toldOf(context).flatMap(({ finding, mend }) => (finding.key === key && mend ? [mend] : [])),
};
