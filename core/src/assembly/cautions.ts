/** Cautions that go with a build sheet, where they apply. They defer to local rules and trained practice. */
import type { Design } from '../design/design.ts';
import type { BuildSheet } from './buildSteps.ts';

export function cautionsOf({ steps, expanded }: BuildSheet, design: Pick<Design, 'brief'>): string[] {
  const adhesives = steps.flatMap(({ adhesive }) => adhesive ?? []);
  const hardware = [
    ...design.brief.extras.map(({ hardwareId }) => expanded.store.hardware[hardwareId]),
    ...expanded.joints.flatMap((joint) =>
      joint.kind === 'pivot' && joint.hardwareId !== undefined
        ? [expanded.store.hardware[joint.hardwareId]]
        : [],
    ),
  ].filter((item) => item !== undefined);
  const brads = expanded.joints.some(({ kind }) => kind === 'pivot');
  const magnets = hardware.some(({ kind }) => kind === 'magnet');
  const small = brads || hardware.some(({ childSafe }) => !childSafe);
  return [
    ...(steps.length > 0
      ? ['Knives are sharp: cut away from the other hand, on a mat, and lay them aside closed.']
      : []),
    ...(adhesives.some(({ kind }) => kind === 'spray')
      ? ['Spray adhesive: only with windows open, away from flames.']
      : []),
    ...(adhesives.some(({ latex }) => latex)
      ? ['One of the adhesives has latex in it, to which some people are allergic.']
      : []),
    ...(magnets ? ['Loose magnets are dangerous when swallowed: keep them from children.'] : []),
    ...(small ? ['Not for children under three: it has small parts.'] : []),
    ...(steps.length > 0 ? ['Local rules and what trained people say come first.'] : []),
  ];
}
