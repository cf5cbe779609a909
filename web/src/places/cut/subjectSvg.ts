/** The cut files of subjects as SVG: apart from what a page shows first, since writers weigh more. */
import { profileIn } from '@hollow-finch/core/cutting/profile';
import type { Design } from '@hollow-finch/core/design/design';
import { writePartSvg, writeSvg, type MarksMade, type SvgOptions } from '@hollow-finch/core/formats/svgWrite';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { fingerprint } from '@hollow-finch/core/sheets/fingerprint';
import type { Subject } from './subjects.ts';

/** The SVG of a sheet, or of a part alone. */
export const svgOf = (
  { pieces, sheet, making }: Subject,
  made: Pick<SvgOptions, 'profile' | 'marks' | 'tool'>,
  heading: string,
): string =>
  sheet
    ? writeSvg(pieces, { title: heading, ...sheet, making, ...made })
    : writePartSvg(pieces[0].part, heading, made.profile, { marks: made.marks, making, tool: made.tool });

/** The name of what a subject's cut file holds, whatever it is called. */
export const subjectFingerprint = (
  design: Design,
  subject: Subject,
  profileId: string,
  marks: MarksMade,
): string => fingerprint(svgOf(subject, { profile: profileIn(expand(design).store, profileId), marks }, ''));
