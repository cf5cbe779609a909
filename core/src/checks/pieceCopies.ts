/** More of a piece that is glued on: on every other panel of its host, or as a mirror twin that follows it. */
import type { Command } from '../design/commands.ts';
import { gluesOf, type Design, type DraftedPart, type GlueJoint } from '../design/design.ts';
import { freshId, freshName } from '../design/ids.ts';
import { acrossUpright, mirrorOf, twinPlacement } from '../design/twins.ts';
import { panelPlan } from '../dieline/panels.ts';
import { compose, IDENTITY, inverse, placing, turn, type Isometry } from '../geometry/isometry.ts';
import { boxCentre, boxOf } from '../geometry/path.ts';
import { insidePoint, insideRegion, type Region } from '../geometry/polygon.ts';
import { solid } from '../geometry/regions.ts';
import { expand } from '../mechanisms/expand.ts';
import { linkageOf } from '../motion/linkage.ts';
import { sweep } from '../motion/sweep.ts';
import { jointOf, upright, zoneUnder, type NotLaid } from './layPiece.ts';

/** A drafted piece that is glued on, with the panels of its host. */
interface GluedOn {
  readonly part: DraftedPart;
  /** Its glue, in the plane of the host. */
  readonly joint: GlueJoint;
  readonly outline: readonly Region[];
  /** The panels of the host, tabs left out, and which of them it lies on. */
  readonly panels: readonly HostPanel[];
  readonly on: HostPanel;
}

interface HostPanel {
  readonly id: string;
  readonly region: Region;
  /** The frame in which things on it are anchored, in the plane of the host; undefined where it has none. */
  readonly frame: Isometry | undefined;
  /** Its own axes in the plane of the host: about its middle, upright for the reader. */
  readonly axes: Isometry;
}

function gluedOn(design: Design, jointId: string): GluedOn | NotLaid {
  const expanded = expand(design);
  const joint = gluesOf(expanded.joints).find((glue) => glue.id === jointId);
  const part = joint && design.parts[joint.partId];
  const zone = part?.glueZones[joint!.zoneId];
  if (!joint || !part || !zone) return { refused: 'Only a drafted piece that is glued on can be copied so.' };
  const motion = sweep(linkageOf(expanded));
  const plain = expanded.parts.find((each) => each.id === part.id)!;
  const panels = motion.linkage.panels.flatMap((panel, index): HostPanel[] =>
    panel.part.id === joint.hostPartId && panel.role !== 'tab'
      ? [
          {
            id: panel.id,
            region: panel.region,
            frame: expanded.panelFrames[joint.hostPartId]?.[panel.id],
            axes: turn(upright(motion, index) - Math.PI / 2, ...boxCentre(boxOf(panel.region.outer))),
          },
        ]
      : [],
  );
  const under = insidePoint(solid(zone.outline.map(placing(joint.placement))));
  const on = panels.find(({ region }) => insideRegion(under, region));
  if (!on) return { refused: `${part.name} lies on no panel now: lay it on one first.` };
  return { part, joint, outline: panelPlan(plain).panels.map(({ region }) => region), panels, on };
}

/** The commands that put a part and its glue into the design. */
const putting = (part: DraftedPart, joint: GlueJoint): Command[] => [
  { do: 'put', in: 'parts', id: part.id, value: part },
  { do: 'put', in: 'joints', id: joint.id, value: joint },
];

/** What raises a piece, as its copies have it too. */
const raisedBy = ({ padMm, pad }: GlueJoint): Pick<GlueJoint, 'padMm' | 'pad'> => ({
  ...(padMm === undefined ? {} : { padMm }),
  ...(pad === undefined ? {} : { pad }),
});

/**
 * Puts a glued piece on every other panel of its host (not on tabs), at the same place of each from its middle, as it is: each
 * its own part. Panels that it would hang off are left out.
 */
export function pieceOnEachPanel(
  design: Design,
  jointId: string,
): { command: Command; count: number } | NotLaid {
  const found = gluedOn(design, jointId);
  if ('refused' in found) return found;
  const { part, joint, outline, panels, on } = found;
  const own = compose(inverse(on.axes), joint.placement);
  const commands: Command[] = [];
  const [parts, joints]: Record<string, unknown>[] = [{ ...design.parts }, { ...design.joints }];
  const { twinOf: _twinOf, ...alone } = part;
  for (const panel of panels) {
    if (panel === on) continue;
    const placement = compose(panel.axes, own);
    if (!zoneUnder(outline, placement, panel.region)) continue;
    const [id, glueId] = [freshId('p', parts), freshId('j', joints)];
    parts[id] = joints[glueId] = true;
    const copy: DraftedPart = { ...alone, id, name: `${part.name} ${commands.length / 2 + 2}` };
    const glue = jointOf(glueId, id, joint.hostPartId, panel.id, panel.frame, placement);
    commands.push(...putting(copy, { ...glue, ...raisedBy(joint), zoneId: joint.zoneId }));
  }
  if (commands.length === 0) return { refused: 'There is no other panel that would hold it.' };
  return { command: { do: 'all', commands }, count: commands.length / 2 };
}

/**
 * Makes the mirror twin of a glued piece: about the upright middle of its panel, or on another panel of the host at the image
 * of its place. From then on each follows the other.
 *
 * @param panelId the panel of the host that the twin lies on
 */
export function mirrorTwin(
  design: Design,
  jointId: string,
  panelId: string,
): { command: Command; partId: string } | NotLaid {
  const found = gluedOn(design, jointId);
  if ('refused' in found) return found;
  const { part, joint, panels, on } = found;
  const other = panels.find(({ id }) => id === panelId);
  if (!other) return { refused: 'That panel is not there any more: choose another one.' };
  // From the frame of the one panel to that of the other: through the axes of both, mirrored about the upright one.
  const across = compose(compose(other.axes, acrossUpright(0)), inverse(on.axes));
  const map = compose(compose(inverse(other.frame ?? IDENTITY), across), on.frame ?? IDENTITY);
  const inFrame = compose(inverse(on.frame ?? IDENTITY), joint.placement);
  const id = freshId('p', design.parts);
  const names = new Set(Object.values(design.parts).map(({ name }) => name));
  const twin: DraftedPart = {
    ...part,
    ...mirrorOf(part),
    id,
    name: freshName(names, `${part.name}, mirrored`),
    twinOf: { partId: part.id, map },
  };
  const placement = twinPlacement(map, inFrame);
  const { onPanel: _onPanel, ...rest } = joint;
  const glue: GlueJoint = {
    ...rest,
    id: freshId('j', design.joints),
    partId: id,
    ...(other.frame ? { onPanel: other.id } : {}),
    placement,
  };
  return { command: { do: 'all', commands: putting(twin, glue) }, partId: id };
}
