/**
 * A strut or a brace across a fold: a new strip that is glued with a tab to both panels, so far from the fold on each. A strut
 * is stiff and holds the fold at its angle; a brace has a fold in its middle, goes inwards as the fold closes, and stops it
 * from opening further.
 *
 * With its feet a from the fold on both panels, and the fold at the angle theta between them, the strip is 2 a sin(theta / 2)
 * long between its feet.
 */
import type { Command } from '@hollow-finch/core/design/commands';
import type { Design, DraftedPart, GlueJoint } from '@hollow-finch/core/design/design';
import { freshId, freshName } from '@hollow-finch/core/design/ids';
import type { NotShaped } from '@hollow-finch/core/drafting/corners';
import { panelAt, panelPlan } from '@hollow-finch/core/dieline/panels';
import { isFold, workOf, type DieLine } from '@hollow-finch/core/dieline/part';
import { compose, place, shift, turn, type Isometry } from '@hollow-finch/core/geometry/isometry';
import { endOf, polyline, straight } from '@hollow-finch/core/geometry/path';
import { distance, type Point } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { emptyPart } from './draftEdits.ts';
import { besideAll } from './layout.ts';

export interface StrutAsked {
  readonly kind: 'strut' | 'brace';
  /** From the fold to its feet. */
  readonly footMm: number;
  readonly angleDeg: number;
  /** Along the fold: how wide the strip is, and where its middle is from where the fold begins. */
  readonly widthMm: number;
  readonly alongMm: number;
  readonly tabMm: number;
}

/** How long a strut is between its feet, mm. */
export const strutLength = ({ footMm, angleDeg }: Pick<StrutAsked, 'footMm' | 'angleDeg'>): number =>
  2 * footMm * Math.sin((angleDeg * Math.PI) / 360);

/** The part of a strut in its own plane: its feet at x = 0 and at its length, its middle at y = 0. */
function strutPart(part: DraftedPart, asked: StrutAsked): DraftedPart {
  const { kind, widthMm, tabMm } = asked;
  const [long, half] = [strutLength(asked), widthMm / 2];
  const taper = Math.min(tabMm / 3, half / 2);
  const inset = 0.3;
  const lines: DieLine[] = [
    {
      id: 'l1',
      ...workOf('cut'),
      path: polyline(
        [
          [-tabMm, -half + taper],
          [0, -half],
          [long, -half],
          [long + tabMm, -half + taper],
          [long + tabMm, half - taper],
          [long, half],
          [0, half],
          [-tabMm, half - taper],
        ],
        true,
      ),
    },
    ...[0, long].map((x, i) => ({
      id: `l${i + 2}`,
      ...workOf('valley'),
      path: straight([x, -half], [x, half]),
    })),
    ...(kind === 'brace'
      ? [{ id: 'l4', ...workOf('valley'), path: straight([long / 2, -half], [long / 2, half]) }]
      : []),
  ];
  const zone = (id: string, foot: number, tip: number) => {
    const [a, b] = [foot + Math.sign(tip - foot) * inset, tip - Math.sign(tip - foot) * inset];
    const [near, far] = [half - inset, half - taper - inset];
    const ring: [number, number][] = [
      [a, -near],
      [b, -far],
      [b, far],
      [a, near],
    ];
    return { id, outline: b > a ? ring : ring.reverse(), face: 'back' as const, kind: 'glue' as const };
  };
  const mark = (id: string, x: number) => ({
    id,
    name: 'tab',
    at: [x, 0] as [number, number],
    role: 'tab' as const,
  });
  return {
    ...part,
    name: kind === 'strut' ? 'Strut' : 'Brace',
    lines: Object.fromEntries(lines.map((line) => [line.id, line])) as DraftedPart['lines'],
    glueZones: { z1: zone('z1', 0, -tabMm), z2: zone('z2', long, long + tabMm) },
    marks: { tab1: mark('tab1', -tabMm / 2), tab2: mark('tab2', long + tabMm / 2) },
  };
}

/** Makes a strut or a brace across a straight fold of a part, glued to its front. */
export function strutEdit(
  design: Design,
  partId: string,
  lineId: string,
  asked: StrutAsked,
): { readonly command: Command; readonly partId: string; readonly label: string } | NotShaped {
  const host = expand(design).parts.find(({ id }) => id === partId);
  const fold = host?.lines.find(({ id }) => id === lineId);
  if (!host || !fold || !isFold(fold) || fold.path.segments.length !== 1)
    return { refused: 'Choose a straight fold.' };
  const [from, to] = [fold.path.start, endOf(fold.path)];
  const long = distance(from, to);
  const { footMm, tabMm, widthMm, alongMm } = asked;
  if (alongMm - widthMm / 2 < 0 || alongMm + widthMm / 2 > long)
    return { refused: 'It would stand out over an end of the fold: make it narrower, or move it along.' };
  // Along the fold is up: x leads across it, from the panel on its left to the one on its right.
  const upwards = Math.atan2(to[1] - from[1], to[0] - from[0]) - Math.PI / 2;
  const frame: Isometry = turn(upwards, from[0], from[1]);
  const plan = panelPlan(host);
  const corners = (sign: 1 | -1): Point[] =>
    [footMm, footMm + tabMm].flatMap((x) =>
      [-1, 1].map((side) => place(frame, [sign * x, alongMm + (side * widthMm) / 2.02])),
    );
  const panels = ([-1, 1] as const).map((sign) => new Set(corners(sign).map((p) => panelAt(plan, p))));
  if (panels.some((set) => set.size !== 1 || set.has(-1)))
    return { refused: 'A tab would not lie wholly on one panel beside the fold: bring the feet nearer.' };
  const names = new Set(Object.values(design.parts).map(({ name }) => name));
  const part = strutPart(emptyPart(design), asked);
  const length = strutLength(asked);
  const taken: Record<string, unknown> = { ...design.joints };
  const glue = (zoneId: string, placement: Isometry): GlueJoint => {
    const id = freshId('j', taken);
    taken[id] = true;
    return { id, kind: 'glue', partId: part.id, hostPartId: partId, zoneId, placement, mate: null };
  };
  const glues = [
    glue('z1', compose(frame, shift(-footMm, alongMm))),
    glue('z2', compose(frame, shift(footMm - length, alongMm))),
  ];
  return {
    partId: part.id,
    label: `${part.name} across a fold`,
    command: {
      do: 'all',
      commands: [
        { do: 'put', in: 'parts', id: part.id, value: { ...part, name: freshName(names, part.name) } },
        { do: 'put', in: 'board', id: part.id, value: besideAll(design, length + 2 * tabMm) },
        ...glues.map((joint): Command => ({ do: 'put', in: 'joints', id: joint.id, value: joint })),
      ],
    },
  };
}
