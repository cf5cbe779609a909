/** A closing tab or band goes round the closed card: its spine must be as high as that is thick. */
import { findingOf, mm, type CheckContext, type Finding, type Mend, type Rule } from './finding.ts';

const RULE = 'bandFit';
/** Made for so much less it still goes round, mm: what its clearance usually takes up. */
export const BAND_GIVES_MM = 0.75;
/** Made for so much more it hangs loose, mm. */
export const BAND_HANGS_MM = 3;

/** The thickness that a closing tab or band should be made for: that of the closed card, up to tenths, mm. */
export const bandThickness = (bulkMm: number): number => Math.ceil(bulkMm * 10 - 1e-9) / 10;

const findings = ({ design, expanded, closed }: CheckContext): { finding: Finding; mend: Mend }[] =>
  Object.values(design.instances).flatMap((instance) => {
    const { thickMm } = instance.params;
    if (instance.family !== 'bellyBand' || typeof thickMm !== 'number') return [];
    if (!expanded.gutterOf[instance.id]) return [];
    const wanted = bandThickness(closed.bulkMm);
    const off = thickMm - closed.bulkMm;
    if (off >= -BAND_GIVES_MM && off <= BAND_HANGS_MM) return [];
    const part = expanded.parts.find(({ id }) => expanded.instanceOf[id] === instance.id);
    const words =
      off < 0
        ? `is made for a card ${mm(thickMm)} thick; closed, this one is ${mm(closed.bulkMm)}: it does not reach round.`
        : `is made for a card ${mm(thickMm)} thick; closed, this one is ${mm(closed.bulkMm)}: it hangs loose.`;
    return [
      {
        finding: findingOf(
          RULE,
          instance.id,
          `${instance.name} ${words}`,
          part ? [{ partId: part.id, at: [0, 0], points: [] }] : [],
          {
            severity: off < 0 ? 'fault' : 'warning',
            measured: thickMm,
            limit: closed.bulkMm,
            limitFrom: 'the thickness of the closed card',
          },
        ),
        mend: {
          label: `Make it for ${mm(wanted)}`,
          command: {
            do: 'put',
            in: 'instances',
            id: instance.id,
            value: { ...instance, params: { ...instance.params, thickMm: wanted } },
          },
        },
      },
    ];
  });

/** What goes round the closed card is made for its thickness. */
export const bandFit: Rule = {
  id: RULE,
  title: 'Band and card',
  protects: 'A closing tab or band is as high as the closed card is thick.',
  needs: ['measures', 'motion'],
  limit: `the thickness of the closed card, less ${BAND_GIVES_MM} mm to ${BAND_HANGS_MM} mm more`,
  unit: 'mm',
  run: (context) => findings(context).map(({ finding }) => finding),
  offers: (context, { key }) =>
    findings(context).flatMap(({ finding, mend }) => (finding.key === key ? [mend] : [])),
};
