import type { Sweep } from '@hollow-finch/core/motion/sweep';
import { Select, Table } from '@mantine/core';
import { useState } from 'react';

const RAD = 180 / Math.PI;

/** Every fold's angle at the present opening. */
export function FoldAngles({
  sweep,
  deg,
  partName,
}: {
  sweep: Sweep;
  deg: number;
  partName: (id: string) => string;
}) {
  const { creases, links } = sweep.linkage;
  const [part, setPart] = useState<string>('all');
  const at = Math.round(deg);
  const partIds = [...new Set(creases.map((c) => c.partId))];
  return (
    <>
      <Select
        aria-label="Part"
        value={part}
        onChange={(value) => setPart(value ?? 'all')}
        data={[
          { value: 'all', label: 'All parts' },
          ...partIds.map((id) => ({ value: id, label: partName(id) })),
        ]}
      />
      <Table className="figure fold-angles" mt={8} verticalSpacing={2} horizontalSpacing={4}>
        <Table.Thead>
          <Table.Tr>
            <Table.Th scope="col">Fold</Table.Th>
            <Table.Th scope="col">Drawn</Table.Th>
            <Table.Th scope="col" ta="right">
              Turned by
            </Table.Th>
          </Table.Tr>
        </Table.Thead>
        {partIds
          .filter((id) => part === 'all' || part === id)
          .map((id) => (
            <Table.Tbody key={id}>
              <Table.Tr>
                <Table.Th colSpan={3} scope="rowgroup">
                  {partName(id)}
                </Table.Th>
              </Table.Tr>
              {creases.map((crease, i) =>
                crease.partId !== id ? null : (
                  <Table.Tr key={crease.id}>
                    <Table.Td>{crease.lineIds[0].split('/').pop()!.replace(/-/g, ' ')}</Table.Td>
                    <Table.Td>{crease.sign > 0 ? 'valley' : 'mountain'}</Table.Td>
                    <Table.Td ta="right">
                      {(Math.abs(sweep.values[at * links.length + i]) * RAD).toFixed(1)}°
                    </Table.Td>
                  </Table.Tr>
                ),
              )}
            </Table.Tbody>
          ))}
      </Table>
    </>
  );
}
