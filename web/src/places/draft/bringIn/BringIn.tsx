import { LAYERS, layerOf, workOf, type Layer } from '@hollow-finch/core/dieline/part';
import { USUAL_JOIN_MM, type Settled } from '@hollow-finch/core/formats/bringIn/settle';
import { screenPathData } from '@hollow-finch/core/formats/pathData';
import { Alert, Button, Checkbox, FileButton, Group, Loader, Modal, Select, Table } from '@mantine/core';
import { useEffect, useMemo, useState } from 'react';
import { LengthField } from '../../../shared/fields/LengthField.tsx';
import { faultWords } from '../../../shared/helper.ts';
import { useJob } from '../../../shared/store/jobStore.ts';
import { useLengths } from '../../../shared/units.ts';
import type { Seen } from '../../../workers/drawing.worker.ts';
import { LAYER_NAMES } from '../layerNames.ts';
import { layersFor, readFile, rememberLayers, settleFile, stopReading } from './drawingFile.ts';
import { intoDesign } from './intoDesign.ts';

type Mapping = Readonly<Record<string, Layer | null>>;

/** What a group of lines is called. */
const groupName = (layer: string, colour: string, dashed: boolean, filled: boolean): string =>
  [layer || 'No layer', colour || 'no colour', dashed ? 'dashed' : '', filled ? 'filled' : '']
    .filter(Boolean)
    .join(', ');

/** The drawing as it would come in: its die lines, in the colours of their layers. */
function Preview({ made }: { made: Settled }) {
  const { widthMm: w, heightMm: h } = made;
  const room = Math.max(w, h, 1) * 0.06;
  const dot = Math.max(w, h) / 70;
  const byLayer = useMemo(
    () =>
      LAYERS.map((layer) => ({
        layer,
        d: made.lines.flatMap((line) => (line.layer === layer ? screenPathData(line.path) : [])).join(''),
      })).filter(({ d }) => d !== ''),
    [made],
  );
  return (
    <svg
      className="bring-preview"
      viewBox={`${-room} ${-h - room} ${w + 2 * room} ${h + 2 * room}`}
      role="img"
      aria-label={`The drawing: ${made.lines.length} lines`}
    >
      {byLayer.map(({ layer, d }) => (
        <path key={layer} className={`die die-${layerOf(workOf(layer))}`} d={d} />
      ))}
      {made.loose.slice(0, 200).map(({ at }, i) => (
        <circle key={i} className="bring-loose" cx={at[0]} cy={-at[1]} r={dot} />
      ))}
    </svg>
  );
}

/** Bringing in a drawing: its file, its size, what its lines are, what is mended; and how it looks then. */
export default function BringIn({ onClose, onBroughtIn }: { onClose: () => void; onBroughtIn: () => void }) {
  const { say } = useLengths();
  const [file, setFile] = useState<File | null>(null);
  const [seen, setSeen] = useState<Seen | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [busy, setBusy] = useState(false);
  const [size, setSize] = useState(0);
  /** The width that it truly has, when that is typed. */
  const [trueWidth, setTrueWidth] = useState<number | null>(null);
  const [layers, setLayers] = useState<Mapping>({});
  const [withHidden, setHidden] = useState(false);
  const [joinMm, setJoin] = useState(USUAL_JOIN_MM);
  const [dropDoubles, setDoubles] = useState(true);
  const [findArcs, setArcs] = useState(true);
  const [made, setMade] = useState<Settled | null>(null);
  const selection = useJob((s) => s.selection);
  const parts = useJob((s) => s.design.parts);
  const chosen = selection?.kind === 'part' ? parts[selection.id] : undefined;
  const [onto, setOnto] = useState<string | null>(null);

  const read = async (next: File) => {
    setFile(next);
    setSeen(null);
    setMade(null);
    setFailure(null);
    setBusy(true);
    try {
      const found = await readFile(next);
      setSeen(found);
      setSize(0);
      setTrueWidth(null);
      setLayers(layersFor([...found.groups, ...found.hiddenGroups]));
    } catch (fault) {
      setFailure(`${next.name}: ${faultWords(fault)}`);
    } finally {
      setBusy(false);
    }
  };

  const mmPerUnit = !seen
    ? 1
    : trueWidth !== null && seen.width > 0
      ? trueWidth / seen.width
      : seen.sizes[size].mmPerUnit;
  useEffect(() => {
    if (!seen) return;
    let late = false;
    settleFile({ mmPerUnit, layers, withHidden, joinMm, dropDoubles, findArcs })
      .then((settled) => !late && setMade(settled))
      .catch((fault: unknown) => !late && setFailure(faultWords(fault)));
    return () => {
      late = true;
    };
  }, [seen, mmPerUnit, layers, withHidden, joinMm, dropDoubles, findArcs]);

  const bringIn = () => {
    if (!made || !file) return;
    const { design, edit, select } = useJob.getState();
    const result = intoDesign(design, made, file.name.replace(/\.[^.]*$/, ''), onto);
    if ('refused' in result) return setFailure(result.refused);
    edit(result.label, result.command);
    select({ kind: 'part', id: result.partId });
    rememberLayers(layers);
    onBroughtIn();
    onClose();
  };

  const groups = seen ? [...seen.groups, ...(withHidden ? seen.hiddenGroups : [])] : [];
  return (
    <Modal opened onClose={onClose} title="Bring in a drawing" size={980}>
      <Group mb="sm">
        <FileButton
          accept=".svg,.svgz,.dxf,.fold,.pdf,image/svg+xml,application/pdf"
          onChange={(next) => next && void read(next)}
        >
          {(props) => (
            <Button {...props} variant={seen ? 'default' : 'filled'} data-autofocus>
              {file ? 'Choose another file' : 'Choose an SVG, DXF, PDF or FOLD file'}
            </Button>
          )}
        </FileButton>
        {file && <span className="quiet">{file.name}</span>}
        {busy && (
          <>
            <Loader size="xs" /> <span role="status">Reading it…</span>
            <Button size="compact-xs" variant="default" onClick={stopReading}>
              Stop
            </Button>
          </>
        )}
      </Group>
      {failure && <Alert color="persimmon" role="alert" title={failure} mb="sm" />}
      {!seen && !failure && !busy && (
        <p className="quiet">
          Lines, curves and layers come in exactly; text and pictures are left out. Nothing in a file is ever
          run or fetched.
        </p>
      )}
      {seen && (
        <div className="bring-in">
          <div>
            {made ? <Preview made={made} /> : <p className="quiet">Working it out…</p>}
            {made && (
              <p className="figure" role="status">
                {made.lines.length} {made.lines.length === 1 ? 'line' : 'lines'}, {say(made.widthMm)} wide and{' '}
                {say(made.heightMm)} high
              </p>
            )}
            <ul className="plain-list bring-report">
              {[...seen.notes.map((note) => `${note}.`), ...(made?.report ?? [])].map((line) => (
                <li key={line}>{line}</li>
              ))}
              {made && seen.notes.length + made.report.length === 0 && (
                <li className="quiet">Nothing had to be changed.</li>
              )}
            </ul>
          </div>
          <div>
            <div className="fields">
              {seen.sure && seen.sizes.length === 1 ? (
                <p className="quiet wide">Its size is said in the file.</p>
              ) : (
                <Select
                  className="wide"
                  label="How large is a unit of it?"
                  description="The file does not say it for sure."
                  allowDeselect={false}
                  value={trueWidth !== null ? 'typed' : String(size)}
                  data={[
                    ...seen.sizes.map(({ label, mmPerUnit: mm }, i) => ({
                      value: String(i),
                      label: `${label}: ${say(seen.width * mm)} wide`,
                    })),
                    ...(trueWidth !== null ? [{ value: 'typed', label: 'By its true width' }] : []),
                  ]}
                  onChange={(value) => {
                    if (value === null || value === 'typed') return;
                    setSize(Number(value));
                    setTrueWidth(null);
                  }}
                />
              )}
              {seen.width > 0 && (
                <LengthField
                  label="Its true width"
                  hint="Measured, or known: all of it is scaled to that."
                  valueMm={seen.width * mmPerUnit}
                  minMm={0.1}
                  maxMm={4000}
                  onCommit={setTrueWidth}
                />
              )}
              <LengthField
                label="Join ends nearer than"
                valueMm={joinMm}
                minMm={0}
                maxMm={5}
                onCommit={setJoin}
              />
              <Checkbox
                className="wide"
                size="xs"
                label="Leave out lines that lie on others of their kind"
                checked={dropDoubles}
                onChange={(event) => setDoubles(event.currentTarget.checked)}
              />
              <Checkbox
                className="wide"
                size="xs"
                label="Make arcs of flattened curves again"
                checked={findArcs}
                onChange={(event) => setArcs(event.currentTarget.checked)}
              />
              {seen.hiddenGroups.length > 0 && (
                <Checkbox
                  className="wide"
                  size="xs"
                  label="Take in what the drawing hides"
                  checked={withHidden}
                  onChange={(event) => setHidden(event.currentTarget.checked)}
                />
              )}
              {chosen && (
                <Select
                  className="wide"
                  label="Where to"
                  allowDeselect={false}
                  value={onto ?? ''}
                  data={[
                    { value: '', label: 'A new part' },
                    { value: chosen.id, label: `Onto ${chosen.name}` },
                  ]}
                  onChange={(value) => setOnto(value || null)}
                />
              )}
            </div>
            <div className="bring-groups">
              <Table>
                <Table.Thead>
                  <Table.Tr>
                    <Table.Th>Lines of the drawing</Table.Th>
                    <Table.Th>become</Table.Th>
                  </Table.Tr>
                </Table.Thead>
                <Table.Tbody>
                  {groups.map(({ key, layer, colour, dashed, filled, count }) => {
                    const name = groupName(layer, colour, dashed, filled);
                    return (
                      <Table.Tr key={key}>
                        <Table.Td>
                          <span className="bring-swatch" style={{ background: colour || 'transparent' }} />{' '}
                          {name} <span className="quiet figure">{count}</span>
                        </Table.Td>
                        <Table.Td>
                          <Select
                            aria-label={`What ${name} becomes`}
                            allowDeselect={false}
                            value={layers[key] ?? 'none'}
                            data={[
                              ...LAYERS.map((value) => ({
                                value: value as string,
                                label: LAYER_NAMES[value],
                              })),
                              { value: 'none', label: 'Left out' },
                            ]}
                            onChange={(value) =>
                              value &&
                              setLayers({ ...layers, [key]: value === 'none' ? null : (value as Layer) })
                            }
                          />
                        </Table.Td>
                      </Table.Tr>
                    );
                  })}
                </Table.Tbody>
              </Table>
              {groups.length === 0 && <p className="quiet">There is no line in it.</p>}
            </div>
          </div>
        </div>
      )}
      <Group justify="flex-end" mt="md">
        <Button variant="default" onClick={onClose}>
          Cancel
        </Button>
        <Button onClick={bringIn} disabled={!made || made.lines.length === 0}>
          Bring it in
        </Button>
      </Group>
    </Modal>
  );
}
