import type { Family, ParamSpec } from '@hollow-finch/core/mechanisms/family';
import { newDesign } from '@hollow-finch/core/design/design';
import { saidOf, usualHost } from '@hollow-finch/core/mechanisms/instance';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { useMemo } from 'react';
import { FoldedPicture } from '../../shared/FoldedPicture.tsx';
import { pictureOf } from '../../shared/familyPicture.ts';
import { useLengths } from '../../shared/units.ts';
import { FAMILY_NOTES } from './familyNotes.ts';

function rangeOf(spec: ParamSpec, say: (mm: number) => string): string {
  switch (spec.kind) {
    case 'length':
      return `${say(spec.minMm)} to ${say(spec.maxMm)}`;
    case 'angle':
      return `${spec.minDeg}° to ${spec.maxDeg}°`;
    case 'count':
      return `${spec.min} to ${spec.max}`;
    case 'choice':
      return spec.choices.map(({ label }) => label).join(', ');
    case 'flag':
      return 'yes or no';
    case 'text':
      return `up to ${spec.maxLength} letters`;
    case 'stock':
      return 'a stock of the store';
  }
}

/** One mechanism: what it does, its measures, its limits, what people inspect and what goes wrong. */
export function FamilyPage({ family }: { family: Family }) {
  const { say, inUnit } = useLengths();
  const limits = useMemo(() => {
    const card = newDesign('help');
    const host = usualHost(family, expand(card).gutters);
    const params = family.defaults(host);
    return saidOf(() => [...new Set(family.constraints(params, host, 2).map(({ reason }) => reason))], []);
  }, [family]);
  const note = FAMILY_NOTES[family.id];
  return (
    <article className="help-family" aria-label={family.title}>
      <h2>{family.title}</h2>
      <p>{family.purpose}</p>
      <div className="help-picture">
        <FoldedPicture {...pictureOf(family.id)} label={`${family.title}, folded`} still />
      </div>
      <h3>Measures</h3>
      <table className="help-measures">
        <tbody>
          {family.specs.map((spec) => (
            <tr key={spec.key}>
              <th scope="row">{spec.label}</th>
              <td>{inUnit(spec.hint)}</td>
              <td className="figure quiet">{rangeOf(spec, say)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      <h3>Limits</h3>
      {limits.length === 0 ? (
        <p className="quiet">None beside those of its measures.</p>
      ) : (
        <ul>
          {limits.map((words) => (
            <li key={words}>{inUnit(words)}</li>
          ))}
        </ul>
      )}
      {note && (
        <>
          <h3>What people inspect</h3>
          <p>{note.inspect}</p>
          <h3>What goes wrong</h3>
          <p>{note.wrong}</p>
        </>
      )}
    </article>
  );
}
