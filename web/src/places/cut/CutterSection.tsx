import { cutterOf, TOOLS, type CutterSettings } from '@hollow-finch/core/cutting/cutter';
import type { Machine } from '@hollow-finch/core/stock/stock';
import { Alert, Button, FileButton, Group, Loader, Table } from '@mantine/core';
import { useEffect, useRef, useState } from 'react';
import { api } from '../../shared/api.ts';
import { fetchStore, useStudioStore } from '../../shared/store/studioStore.ts';
import { CountField } from '../../shared/fields/CountField.tsx';
import { faultWords } from '../../shared/helper.ts';
import { useLengths } from '../../shared/units.ts';
import type { PlayedFile } from '../../workers/cutter.worker.ts';
import { faultSentence, sayTime, TOOL_NAMES } from './cutterWords.ts';
import { playFile, stopPlaying } from './cutterWork.ts';
import type { Subject } from './subjects.ts';
import { svgOf } from './subjectSvg.ts';

/** Card wears a blade out after some hundred metres. */
const BLADE_LASTS_M = 250;
/** So many faults are told one by one. */
const MANY = 8;

/** Plays a cut file on a cutter that is only sums: how long it takes, and what would go wrong. */
export default function CutterSection({
  machine,
  thicknessMm,
  own,
  played,
  onPlayed,
}: {
  machine: Machine;
  /** Of the paper: thick paper is gone over twice. */
  thicknessMm: number;
  /** The file that would be saved now. */
  own: {
    readonly subject: Subject;
    readonly made: Parameters<typeof svgOf>[1];
    readonly heading: string;
  };
  played: (PlayedFile & { readonly name: string }) | null;
  onPlayed: (played: (PlayedFile & { readonly name: string }) | null) => void;
}) {
  const { say } = useLengths();
  const { store } = useStudioStore();
  // What a person has changed; all else is as the machine is run, which is known only when the store has come.
  const [changed, setChanged] = useState<Partial<CutterSettings>>({});
  const [changedLastsM, setLasts] = useState<number | null>(null);
  const known = cutterOf(machine);
  const knownLastsM = machine.bladeLifeM ?? BLADE_LASTS_M;
  const settings: CutterSettings = { ...known, passes: thicknessMm > 0.4 ? 2 : 1, ...changed };
  const lastsM = changedLastsM ?? knownLastsM;
  const differs =
    settings.speedMmS.cut !== known.speedMmS.cut ||
    settings.speedMmS.score !== known.speedMmS.score ||
    settings.travelMmS !== known.travelMmS ||
    lastsM !== knownLastsM;
  const [busy, setBusy] = useState(false);
  const [failure, setFailure] = useState<string | null>(null);
  const bytes = useRef<{ readonly name: string; readonly data: Uint8Array } | null>(null);
  const play = async (name: string, data: Uint8Array, how: CutterSettings) => {
    setBusy(true);
    setFailure(null);
    try {
      const result = await playFile(data, how);
      bytes.current = { name, data };
      onPlayed({ ...result, name });
    } catch (fault) {
      onPlayed(null);
      setFailure(`${name}: ${faultWords(fault)}`);
    } finally {
      setBusy(false);
    }
  };
  useEffect(() => stopPlaying, []);
  const put = (change: Partial<CutterSettings>) => {
    setChanged({ ...changed, ...change });
    if (played && bytes.current)
      void play(bytes.current.name, bytes.current.data, { ...settings, ...change });
  };
  const keep = async () => {
    try {
      const item: Machine = {
        ...(store.machines[machine.id] ?? machine),
        cutMmS: settings.speedMmS.cut,
        scoreMmS: settings.speedMmS.score,
        travelMmS: settings.travelMmS,
        ...(machine.kind === 'blade' ? { bladeLifeM: lastsM } : {}),
      };
      await api.putInStore([{ kind: 'machines', item }]);
      await fetchStore();
    } catch (fault) {
      setFailure(faultWords(fault));
    }
  };
  const ownFile = () => {
    const [name, text] = [own.subject.title, svgOf(own.subject, own.made, own.heading)];
    void play(name, new TextEncoder().encode(text), settings);
  };
  const sim = played?.sim;
  const wear = sim ? sim.bladeMm / 1000 / lastsM : 0;
  return (
    <section aria-label="Rehearse the cut" aria-busy={busy}>
      <h2>Rehearse the cut</h2>
      <p className="quiet">
        Plays the file itself on a simulated cutter: how long it takes, when each piece comes loose, and what
        would go wrong.
      </p>
      <Group gap={8}>
        <Button variant="default" loading={busy} onClick={ownFile}>
          Play this file
        </Button>
        <FileButton
          accept=".svg,.dxf,.svgz"
          onChange={(file) =>
            file && void file.arrayBuffer().then((data) => play(file.name, new Uint8Array(data), settings))
          }
        >
          {(props) => (
            <Button {...props} variant="default">
              Play another file
            </Button>
          )}
        </FileButton>
        {busy && <Loader size="xs" />}
      </Group>
      <div className="fields">
        <CountField
          label="Cutting, mm/s"
          min={1}
          max={2000}
          value={settings.speedMmS.cut}
          onCommit={(cut) => put({ speedMmS: { ...settings.speedMmS, cut } })}
        />
        <CountField
          label="Scoring, mm/s"
          min={1}
          max={2000}
          value={settings.speedMmS.score}
          onCommit={(score) => put({ speedMmS: { ...settings.speedMmS, score } })}
        />
        <CountField
          label="Travel, mm/s"
          min={1}
          max={5000}
          value={settings.travelMmS}
          onCommit={(travelMmS) => put({ travelMmS })}
        />
        <CountField
          label="Passes of cuts"
          hint="Each cut is gone over so often before the next: thick paper wants two."
          min={1}
          max={6}
          value={settings.passes}
          onCommit={(passes) => put({ passes })}
        />
        {machine.kind === 'blade' && (
          <CountField
            label="A blade lasts, m"
            hint="Of cutting in such paper."
            min={1}
            max={100_000}
            value={lastsM}
            onCommit={setLasts}
          />
        )}
      </div>
      {differs && (
        <Button mt={8} size="compact-sm" variant="default" onClick={() => void keep()}>
          Keep these for {machine.name}
        </Button>
      )}
      {failure && <Alert mt={8} color="persimmon" role="alert" title={failure} />}
      {played && sim && (
        <>
          <p className="figure" role="status">
            {played.name}: {sayTime(sim.totalS)}, of it {sayTime(sim.travelS + sim.liftS)} travel and{' '}
            {sim.lifts} lifts.
          </p>
          <Table className="figure" verticalSpacing={3} fz={12.5}>
            <Table.Thead>
              <Table.Tr>
                <Table.Th scope="col">Tool</Table.Th>
                <Table.Th scope="col">Way</Table.Th>
                <Table.Th scope="col">Time</Table.Th>
              </Table.Tr>
            </Table.Thead>
            <Table.Tbody>
              {TOOLS.filter((tool) => sim.byTool[tool].mm > 0).map((tool) => (
                <Table.Tr key={tool}>
                  <Table.Th scope="row">{TOOL_NAMES[tool]}</Table.Th>
                  <Table.Td>{say(sim.byTool[tool].mm)}</Table.Td>
                  <Table.Td>{sayTime(sim.byTool[tool].s)}</Table.Td>
                </Table.Tr>
              ))}
            </Table.Tbody>
          </Table>
          <p className="quiet figure">
            {sim.loosened.length} {sim.loosened.length === 1 ? 'piece comes' : 'pieces come'} loose
            {sim.loosened.length > 0 && `, the first after ${sayTime(sim.loosened[0].atS)}`}.
            {machine.kind === 'blade' &&
              ` The blade goes ${say(sim.bladeMm)} through paper: ${wear < 0.01 ? 'less than 1' : Math.round(100 * wear)} % of its life.`}
          </p>
          {sim.faults.length === 0 ? (
            <p className="quiet">
              Nothing leaves the bed, nothing is cut twice, nothing is made in a loose piece.
            </p>
          ) : (
            <ul className="plain-list">
              {sim.faults.slice(0, MANY).map((fault, i) => (
                <li key={i} className="wrong">
                  {faultSentence(fault, played.file.strokes, say)}
                </li>
              ))}
              {sim.faults.length > MANY && <li className="wrong">And {sim.faults.length - MANY} more.</li>}
            </ul>
          )}
          {played.file.notes.map((note) => (
            <p key={note} className="warn">
              {note.replace(/\.?$/, '.')}
            </p>
          ))}
          <Button size="compact-sm" variant="default" onClick={() => onPlayed(null)}>
            Back to the lines
          </Button>
        </>
      )}
    </section>
  );
}
