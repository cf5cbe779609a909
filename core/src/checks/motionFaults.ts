import { endOf } from '../geometry/path.ts';
import { middle } from '../geometry/point.ts';
import { mm, type Finding, type Rule } from './finding.ts';

/** What the motion cannot do: glue that contradicts itself, loops that do not close, folds that turn over. */
export const motionFaults: Rule = {
  id: 'motionFaults',
  title: 'Motion',
  protects: 'The card opens and closes without bending paper or turning a fold over.',
  run({ sweep, expanded }) {
    const { linkage } = sweep;
    const findings: Finding[] = expanded.faults.map((fault) => ({
      key: `build:${fault.subject}`,
      rule: 'motionFaults',
      severity: 'fault',
      sentence: fault.message,
      measured: 0,
      limit: 0,
      unit: 'mm',
      limitFrom: 'what can be built',
      places: [],
      mend: null,
    }));
    for (const fault of linkage.faults)
      findings.push({
        key: `joint:${fault.jointId}`,
        rule: 'motionFaults',
        severity: 'fault',
        sentence: fault.message,
        measured: fault.kind === 'contradiction' ? fault.offMm : 0,
        limit: 0.05,
        unit: 'mm',
        limitFrom: 'glue places may differ by this much',
        places: [{ partId: fault.partId, at: fault.at, points: [] }],
        mend: null,
      });
    for (const component of sweep.components) {
      if (component.state === 'moves') continue;
      const crease = linkage.creases[component.worstCrease];
      const part = expanded.parts.find((p) => p.id === crease.partId)!;
      const line = part.lines.find((l) => l.id === crease.lineIds[0]);
      const at = middle(crease.from, crease.to);
      const sentences = {
        locked:
          component.fromDeg > component.toDeg
            ? `${part.name} cannot be assembled flat-panelled: at every opening the paper would have to bend by ${mm(component.worstMm)} or more.`
            : `${part.name} moves only from ${component.fromDeg}° to ${component.toDeg}°: beyond, at ${component.worstDeg}°, the paper would have to bend by ${mm(component.worstMm)}.`,
        turnedOver: `A fold of ${part.name} turns over to the other side on the way: mountain and valley are drawn the wrong way round, or the panels are too short.`,
        floppy: `${part.name} is not held: ${component.freedom} ${component.freedom === 1 ? 'fold stays' : 'folds stay'} free when the card is held open.`,
      };
      findings.push({
        key: `motion:${component.state}:${crease.id}`,
        rule: 'motionFaults',
        severity: component.state === 'floppy' ? 'warning' : 'fault',
        sentence: sentences[component.state],
        measured: component.worstMm,
        limit: 0,
        unit: 'mm',
        limitFrom: 'stiff paper does not stretch',
        places: [{ partId: part.id, at, points: line ? [line.path.start, endOf(line.path)] : [] }],
        mend: null,
      });
    }
    return findings;
  },
};
