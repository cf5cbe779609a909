import { classed, gauged, weighed } from '@hollow-finch/core/planning/post';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Table } from '@mantine/core';
import { useJob } from '../../shared/store/jobStore.ts';
import { useStudioStore } from '../../shared/store/studioStore.ts';
import { useLengths } from '../../shared/units.ts';

const grams = (g: number): string => `${g < 10 ? g.toFixed(1) : Math.round(g).toString()} g`;

/** The scale and the letter gauge of a counter, simulated: they read the design. And the classes that take it. */
export default function PostSection() {
  const design = useJob((s) => s.calm);
  const report = useJob((s) => s.report);
  const { store: studio } = useStudioStore();
  const { say, inUnit } = useLengths();
  if (!report) return <p className="quiet">One moment…</p>;
  const { totalG, rows } = weighed(design, expand(design));
  const read = gauged(design, report.closed, report.sweep);
  const classes = classed(read, totalG, studio);
  const takes = classes.find(({ refused }) => refused.length === 0);
  const widest = Math.max(read.longMm, ...classes.slice(0, 3).map(({ post }) => post.longMm));
  const k = 260 / widest;
  return (
    <>
      <p className="figure" role="status">
        The scale shows {grams(totalG)}; the gauge reads {say(read.longMm)} × {say(read.shortMm)},{' '}
        {say(read.thickMm)} thick ({read.what}).{' '}
        {takes ? (
          <span className="good">It goes as {takes.post.name}.</span>
        ) : (
          <span className="wrong">No class of the store takes it.</span>
        )}
      </p>
      <svg
        className="gauge"
        viewBox={`-6 -6 ${Math.max(300, read.longMm * k + 20)} ${Math.max(read.shortMm, ...classes.slice(0, 3).map(({ post }) => post.shortMm)) * k + 40}`}
        role="img"
        aria-label={`It lies in the letter gauge, ${say(read.thickMm)} thick`}
      >
        {classes
          .filter(({ post }) => post.kind === 'letter')
          .map(({ post }) => (
            <g key={post.id}>
              <rect className="gauge-class" width={post.longMm * k} height={post.shortMm * k} />
              <text
                className="quiet"
                x={post.longMm * k - 3}
                y={post.shortMm * k - 3}
                textAnchor="end"
                fontSize={8}
              >
                {post.name}
              </text>
            </g>
          ))}
        <rect className="gauge-letter" width={read.longMm * k} height={read.shortMm * k} />
      </svg>
      <Table className="figure" verticalSpacing={3}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th scope="col">Class</Table.Th>
            <Table.Th scope="col">At most</Table.Th>
            <Table.Th scope="col">Takes it</Table.Th>
          </Table.Tr>
        </Table.Thead>
        <Table.Tbody>
          {classes.map(({ post, refused }) => (
            <Table.Tr key={post.id}>
              <Table.Td>{post.name}</Table.Td>
              <Table.Td>
                {say(post.longMm)} × {say(post.shortMm)}, {say(post.thickMm)}, {grams(post.weightG)}
              </Table.Td>
              <Table.Td className={refused.length === 0 ? 'good' : 'wrong'}>
                {refused.length === 0 ? 'yes' : inUnit(refused.join(', '))}
              </Table.Td>
            </Table.Tr>
          ))}
        </Table.Tbody>
      </Table>
      <details>
        <summary>What it weighs, piece by piece</summary>
        <ul className="plain-list">
          {rows.map(({ name, weightG }) => (
            <li key={name}>
              {name} <span className="figure quiet">{grams(weightG)}</span>
            </li>
          ))}
        </ul>
      </details>
      <p className="quiet">
        The classes are made-up examples: change them in the store, and ask your own postal service. Where it
        is thick is shown in Fold.
      </p>
    </>
  );
}
