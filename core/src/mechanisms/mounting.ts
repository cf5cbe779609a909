/**
 * What stands by itself, glued folded up onto a panel: by one of its own flat panels, its outside or its inside against the paper
 * there. From then on it is held as it is when folded up, and moves with that panel.
 */
import type { Instance } from '../design/design.ts';
import type { Gutter } from '../design/frames.ts';
import { panelPlan, type Panel } from '../dieline/panels.ts';
import { isRuling, senseSign, type GlueZone, type Part } from '../dieline/part.ts';
import { compose, shift, TURNED_ABOUT_Y } from '../geometry/isometry.ts';
import { boxCentre, boxOf } from '../geometry/path.ts';
import { regionArea } from '../geometry/polygon.ts';
import type { Contribution } from './family.ts';
import { partName } from './names.ts';

/** How something is held on a panel: by which of its own panels, and where the middle of that lies there. */
export type Mount = NonNullable<Instance['mount']>;

/** A panel by which something can be glued on: its part, its own id, and what both are called. */
export interface MountPanel {
  readonly partId: string;
  readonly panelId: string;
  readonly name: string;
}

/** The zone by which it is held, and the glue of it. */
const MOUNT_ID = 'mount';

/** Panels that stay flat: no tabs, and none that bends beside a ruling; part by part, the largest first. */
function flatPanels(parts: readonly Part[]): { part: Part; panel: Panel }[] {
  return parts.flatMap((part) => {
    const { panels, hinges } = panelPlan(part);
    const rulings = new Set(part.lines.filter(isRuling).map(({ id }) => id));
    const bent = new Set(
      hinges
        .filter(({ lineIds }) => lineIds.some((id) => rulings.has(id)))
        .flatMap(({ left, right }) => [left, right]),
    );
    return panels
      .filter((panel, i) => !bent.has(i) && panel.role !== 'tab')
      .map((panel) => ({ part, panel, area: regionArea(panel.region) }))
      .sort((one, other) => other.area - one.area);
  });
}

/** The face of a panel that lies outside when its part is folded up: that away from which its folds turn. */
function outsideOf(part: Part, panel: Panel): 'front' | 'back' {
  const { panels, hinges } = panelPlan(part);
  const up = hinges
    .filter(({ left, right }) => [left, right].some((i) => panels[i] === panel))
    .reduce((sum, { fold }) => sum + senseSign(fold) * (fold.restDeg ?? 1), 0);
  return up > 0 ? 'back' : 'front';
}

/** The panels by which what is made can be glued on: those of its first part first, the largest first. */
export const mountPanels = ({ parts }: Pick<Contribution, 'parts'>): MountPanel[] =>
  flatPanels(parts).map(({ part, panel }) => ({
    partId: part.id,
    panelId: panel.id,
    name: partName(part.name, panel.name),
  }));

/** The usual way of being glued onto a panel: by the outside of its first part's largest panel, in the middle. */
export const usualMount = (gutter: Gutter): Mount => ({
  panelId: null,
  face: 'outside',
  x: 0,
  y: gutter.lengthMm / 2,
});

/**
 * What is made, with the glue by which it is held on a panel.
 *
 * @throws RangeError when nothing of it is flat, or the panel by which it was held is no more
 */
export function mounted(made: Contribution, instanceId: string, gutter: Gutter, mount: Mount): Contribution {
  const flat = flatPanels(made.parts);
  if (flat.length === 0)
    throw new RangeError('Every panel of it bends: there is no flat one by which it could be glued on.');
  const held =
    mount.panelId === null
      ? flat[0]
      : flat.find(({ part, panel }) => `${part.id}|${panel.id}` === `${instanceId}/${mount.panelId}`);
  if (!held)
    throw new RangeError('The panel by which it was glued on is not there any more: choose another one.');
  const outside = outsideOf(held.part, held.panel);
  const face = mount.face === 'outside' ? outside : outside === 'front' ? 'back' : 'front';
  const zone: GlueZone = { id: MOUNT_ID, outline: held.panel.region.outer, face, kind: 'glue' };
  const [x, y] = boxCentre(boxOf(held.panel.region.outer));
  const turned = face === 'front' ? compose(TURNED_ABOUT_Y, shift(-x, -y)) : shift(-x, -y);
  const { partId, frame } = gutter.left;
  return {
    ...made,
    parts: made.parts.map((part) =>
      part === held.part ? { ...part, glueZones: [...part.glueZones, zone] } : part,
    ),
    joints: [
      ...made.joints,
      {
        id: `${instanceId}/${MOUNT_ID}`,
        kind: 'glue',
        partId: held.part.id,
        zoneId: MOUNT_ID,
        hostPartId: partId,
        placement: compose(frame, compose(shift(mount.x, mount.y), turned)),
        mate: null,
        as: 'piece',
      },
    ],
  };
}
