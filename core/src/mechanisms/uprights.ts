/**
 * Uprights through a floor. A floating layer (platform.ts) with narrow slots in its planes; L-shaped props stand on the
 * halves and come up through the slots.
 *
 * Closed-form limits. The planes move parallel to the halves by the vectors from foot to ridge, so a prop whose slot lies as
 * far from the ridge as its foot lies from the support's foot keeps parallel to the legs and shows the same height all the
 * way: its length less the leg's. With the slot shifted by s it leans, and slides in the slot.
 * - Two props stay on their own sides of the plane through gutter and ridge while they are at most leg (b + o) / b long.
 * - Closed, a prop with its foot at distance o from the support's foot b lies from b + o to b + o + length.
 */
import type { Gutter } from '../design/frames.ts';
import type { Constraint, Family, Params } from './family.ts';
import { handlesOf } from './handles.ts';
import { Making } from './making.ts';
import { round } from './pieces.ts';
import { prop, slotted } from './prop.ts';
import { PLATFORM, platform, platformMeasures } from './platform.ts';
import { length, measures, pick } from './specs.ts';

const SIZES = measures({
  ...PLATFORM,
  sides: pick('Props', 'On one half or on both.', { right: 'Right', both: 'Both' }, undefined, 'both'),
  propMm: length(
    'Prop’s place',
    'From the support’s foot outwards to the prop’s fold.',
    ({ gutter }) => Math.round(gutter.reachMm * 0.17),
    4,
  ),
  shiftMm: length(
    'Slot shifted',
    'Out of line with the foot: the prop leans. 0 keeps it parallel.',
    0,
    -20,
    20,
  ),
  // Legs are a fifth of the depth: by similar triangles the props meet over the ridge at this length.
  propLengthMm: length(
    'Prop length',
    'From its foot to its top.',
    (_, { panelMm, leftMm, propMm }) => Math.floor((panelMm * (leftMm + propMm)) / leftMm) - 2,
    6,
  ),
  propWidthMm: length(
    'Prop width',
    'Narrower than the floor.',
    (_, { widthMm }) => Math.round(widthMm * 0.4),
    4,
  ),
});

/** The measures of the floor and its props in mm. */
export function uprightsMeasures(params: Params) {
  const sizes = SIZES.read(params);
  return {
    ...platformMeasures(params),
    sides: sizes.sides === 'both' ? (['left', 'right'] as const) : (['right'] as const),
    at: sizes.propMm,
    shift: sizes.shiftMm,
    prop: sizes.propLengthMm,
    propWidth: sizes.propWidthMm,
  };
}

function constraints(params: Params, gutter: Gutter, marginMm: number): Constraint[] {
  const m = uprightsMeasures(params);
  return [
    ...platform.constraints(params, gutter, marginMm),
    ...m.sides.flatMap((side): Constraint[] => {
      const [footing, leg, plane] = side === 'left' ? [m.a, m.p, m.planeLeft] : [m.b, m.q, m.planeRight];
      return [
        {
          overMm: footing + m.at + m.prop - (gutter.reachMm - marginMm),
          reason: `Closed, the ${side} prop would reach past the open edge (${round(gutter.reachMm)} mm deep, ${marginMm} mm margin).`,
          shownBy: 'overhang',
        },
        {
          overMm:
            m.sides.length === 2 ? m.prop + 3 * Math.abs(m.shift) - (leg * (footing + m.at)) / footing : 0,
          reason: `The ${side} prop is so long that the two would meet over the ridge.`,
        },
        {
          overMm: leg + Math.abs(m.shift) + 4 - m.prop,
          reason: `The ${side} prop is too short to come through the floor.`,
        },
        { overMm: m.at + m.tab + 1 - plane, reason: `The ${side} prop’s tab would lie under the leg.` },
        {
          overMm: m.at + m.shift + 3 - plane,
          reason: `The ${side} slot would run into the edge of the plane.`,
        },
        { overMm: m.tab + 2 - m.at - m.shift, reason: `The ${side} slot would lie on the ridge tab.` },
      ];
    }),
    { overMm: m.propWidth + 6 - m.width, reason: 'A prop must be narrower than the floor.' },
    { overMm: 2 * m.taper - (m.propWidth - 4), reason: 'A prop’s tapered tab would end in less than 4 mm.' },
  ];
}

export const uprights: Family = {
  id: 'uprights',
  on: 'fold',
  title: 'Uprights through a floor',
  purpose: 'Props stand up through slots in a floating layer: pieces that rise from a floor.',
  specs: SIZES.specs,
  defaults: SIZES.defaults,
  constraints,
  build(params, context) {
    const m = uprightsMeasures(params);
    const { instanceId } = context;
    const floor = platform.build(params, { ...context, name: `${context.name} floor` });
    const inset = (m.width - m.propWidth) / 2;
    const props = m.sides.map((side) => {
      const left = side === 'left';
      return prop(context, {
        id: `${side}-prop`,
        title: `${side} prop`,
        panel: { id: 'prop', name: 'prop' },
        widthMm: m.propWidth,
        lengthMm: m.prop,
        tabMm: m.tab,
        taperMm: m.taper,
        side,
        x: left ? -(m.a + m.at) : m.b + m.at,
        along: m.along + inset,
        hostId: `${instanceId}/${side}-plane`,
        // The plane of the left wing runs from its leg (x = p) to the ridge, that of the right one from the ridge.
        slotX: left ? m.p + m.planeLeft - m.at - m.shift : m.at + m.shift,
        low: inset,
        upMm: left ? m.p : m.q,
      });
    });
    const made = new Making(context);
    made.include(floor, (part) => {
      const through = props.find(({ hostId }) => hostId === part.id);
      return through ? slotted(part, through.slot, 'plane') : part;
    });
    for (const { contribution } of props) made.include(contribution);
    return made.done({ gutters: floor.gutters });
  },
  handles(params, context) {
    const m = uprightsMeasures(params);
    const handle = handlesOf(context, params);
    return [
      ...platform.handles(params, context),
      handle('right-prop', 'prop', 'prop length and width', [m.prop, m.propWidth], {
        propLengthMm: [1, 0],
        propWidthMm: [0, 1],
      }),
    ];
  },
  advice(params, gutter, marginMm) {
    const m = uprightsMeasures(params);
    return [
      ...platform.advice(params, gutter, marginMm),
      m.shift === 0
        ? `The right prop stands ${round(m.prop - m.q)} mm over the floor and keeps parallel to its leg.`
        : `The slot is ${round(Math.abs(m.shift))} mm out of line with the foot: the prop leans.`,
      `A prop may be ${round(gutter.reachMm - marginMm - Math.max(m.a, m.b) - m.at)} mm long at most.`,
    ];
  },
};
