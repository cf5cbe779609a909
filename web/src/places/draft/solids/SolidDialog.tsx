import { solidParts, type FaceOpening } from '@hollow-finch/core/design/solidParts';
import type { Command } from '@hollow-finch/core/design/commands';
import { HALF_REGULAR, REGULAR } from '@hollow-finch/core/solids/shapes';
import { ringArea } from '@hollow-finch/core/geometry/polygon';
import { storeWith } from '@hollow-finch/core/stock/store';
import { Alert, Button, Checkbox, FileButton, Group, Loader, Modal, Select } from '@mantine/core';
import { useEffect, useState } from 'react';
import { CountField } from '../../../shared/fields/CountField.tsx';
import { LengthField } from '../../../shared/fields/LengthField.tsx';
import { useJob } from '../../../shared/store/jobStore.ts';
import { choicesOf, choosing, useStudioStore } from '../../../shared/store/studioStore.ts';
import { Turns } from '../../../shared/turns.ts';
import { useLengths } from '../../../shared/units.ts';
import type { SolidNet, SolidRead } from '../../../workers/solid.worker.ts';
import { besideAll } from '../layout.ts';
import { NetPicture } from './NetPicture.tsx';
import {
  countersOf,
  CUTS,
  LEAST_TAB_MM,
  nameOf,
  OPENINGS,
  outlineOf,
  SHAPES,
  sourceOf,
  USUAL,
  type Measures,
  type Shape,
} from './solidShapes.ts';
import { edgeBack, moveEdge, readSolid, stopSolid, unfoldSolid } from './solidWork.ts';

/** A file that was read; `nth` tells one from another of the same name. */
interface OpenFile {
  readonly name: string;
  readonly read: SolidRead;
  readonly nth: number;
}

/** A solid laid flat as a net: its measures, or a file; tabs, numbers, the bed of the machine; edges moved by hand. */
export default function SolidDialog({ onClose, onLaid }: { onClose: () => void; onLaid: () => void }) {
  const design = useJob((s) => s.calm);
  const { store: studio } = useStudioStore();
  const { say, area, inUnit } = useLengths();
  const [shape, setShape] = useState<Shape>('prism');
  const [measures, setMeasures] = useState(USUAL);
  const [file, setFile] = useState<OpenFile | null>(null);
  const [tabMm, setTab] = useState(8);
  const [withNumbers, setNumbers] = useState(true);
  const [opening, setOpening] = useState<FaceOpening | 'none'>('none');
  const [openingMm, setOpeningMm] = useState(20);
  const [cuts, setCuts] = useState<keyof typeof CUTS>('any');
  const [onBed, setOnBed] = useState(true);
  const [stockId, setStock] = useState(design.settings.cardStockId);
  const [busy, setBusy] = useState<string | null>(null);
  const [failure, setFailure] = useState<string | null>(null);
  const [made, setMade] = useState<SolidNet | null>(null);
  const [moved, setMoved] = useState(0);
  const put = (change: Partial<Measures>) => setMeasures({ ...measures, ...change });
  const machine = storeWith(design.store).machines[design.settings.machineId];
  const margin = 2 * design.settings.marginMm;
  const bed = machine && ([machine.bedWidthMm - margin, machine.bedHeightMm - margin] as const);
  const webMm = choicesOf('stocks', studio, design).find(({ id }) => id === stockId)?.minWebMm ?? 2;
  const ready =
    shape === 'silhouette'
      ? design.parts[measures.partId] !== undefined
      : shape !== 'file' || (file !== null && file.read.faults.length === 0);
  const asked = JSON.stringify([shape, measures, tabMm, onBed && bed, file?.nth, ready, cuts]);

  const [turns] = useState(() => new Turns(setBusy, setFailure));

  // The net follows what is asked, a moment after it was typed. What is shown meanwhile is of what was asked before.
  useEffect(() => {
    if (!ready) {
      turns.letGo();
      return setMade(null);
    }
    void turns.begin('Unfolding it', async ({ isWanted, say: tell }) => {
      await new Promise((done) => setTimeout(done, 250));
      if (!isWanted()) return;
      setMoved(0);
      setFailure(null);
      const net = await unfoldSolid(
        sourceOf(shape, measures, design),
        {
          tabMm,
          ...(onBed && bed ? { bedMm: [bed[0], bed[1]] } : {}),
          ...(cuts === 'any' ? {} : { cuts }),
        },
        { depthMm: tabMm, leastMm: LEAST_TAB_MM },
        tell,
      );
      if (isWanted()) setMade(net);
    });
    // What is asked is compared as a whole.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [asked]);
  useEffect(() => stopSolid, []);

  const read = (next: File) => {
    setFailure(null);
    void turns.begin('Reading it', async ({ isWanted }) => {
      try {
        const read = await readSolid(next);
        if (isWanted()) setFile({ name: next.name, read, nth: (file?.nth ?? 0) + 1 });
      } catch (fault) {
        if (isWanted()) setFile(null);
        throw fault;
      }
    });
  };
  /** Another net by hand: an edge moved (+1), or the last one taken back (-1). */
  const byHand = (net: () => Promise<SolidNet>, edges: 1 | -1) => {
    if (busy) return;
    setFailure(null);
    void turns.begin(edges > 0 ? 'Moving the edge' : 'Taking it back', async ({ isWanted }) => {
      const other = await net();
      if (!isWanted()) return;
      setMade(other);
      setMoved((count) => count + edges);
    });
  };
  const lay = () => {
    if (!made) return;
    const { design: now, edit, select } = useJob.getState();
    const { parts, joints } = solidParts(now, made.net, {
      name: nameOf(shape, measures, file?.name),
      stockId,
      withNumbers,
      glued: true,
      ...(shape === 'letter' || shape === 'silhouette'
        ? { counters: countersOf(outlineOf(shape, measures, now)) }
        : {}),
      ...(opening === 'none'
        ? {}
        : { openings: { shape: opening, acrossMm: openingMm, keepMm: tabMm + webMm } }),
    });
    const empty = Object.keys(now.parts).length + Object.keys(now.instances).length === 0;
    const root = now.base.kind === 'structure' ? now.base.rootPartId : null;
    const stands = empty || (now.base.kind === 'structure' && root === null);
    const at = besideAll(now, made.sizeMm);
    let x = at.x;
    const commands: Command[] = [
      ...(stands ? [{ do: 'base', value: { kind: 'structure', rootPartId: parts[0].id } } as const] : []),
      ...parts.flatMap((part, i): Command[] => {
        const place = { x: Math.round(x), y: at.y };
        const xs = made.net.pieces[i].outline.map(([u]) => u);
        x += Math.max(...xs) - Math.min(...xs) + 15;
        return [
          { do: 'put', in: 'parts', id: part.id, value: part },
          { do: 'put', in: 'board', id: part.id, value: place },
        ];
      }),
      ...joints.map((joint): Command => ({ do: 'put', in: 'joints', id: joint.id, value: joint })),
    ];
    edit(`Lay out ${parts[0].name}`, choosing(now, studio, 'stocks', stockId, { do: 'all', commands }));
    select({ kind: 'part', id: parts[0].id });
    onLaid();
    onClose();
  };
  const net = made?.net;
  return (
    <Modal opened onClose={onClose} title="A solid as a net" size={1040}>
      <div className="solid-dialog">
        <div className="fields">
          <Select
            className="wide"
            label="Kind of solid"
            data-autofocus
            allowDeselect={false}
            value={shape}
            data={Object.entries(SHAPES).map(([value, label]) => ({ value, label }))}
            onChange={(value) => value && setShape(value as Shape)}
          />
          {['prism', 'pyramid', 'frustum', 'antiprism', 'dome'].includes(shape) && (
            <CountField
              label="Sides"
              min={3}
              max={40}
              value={measures.sides}
              onCommit={(sides) => put({ sides })}
            />
          )}
          {['prism', 'pyramid', 'frustum', 'antiprism'].includes(shape) && (
            <>
              <LengthField
                label="Side below"
                valueMm={measures.sideMm}
                minMm={2}
                maxMm={1000}
                onCommit={(sideMm) => put({ sideMm })}
              />
              {shape === 'frustum' && (
                <LengthField
                  label="Side above"
                  valueMm={measures.topMm}
                  minMm={1}
                  maxMm={1000}
                  onCommit={(topMm) => put({ topMm })}
                />
              )}
              <LengthField
                label="Upright height"
                valueMm={measures.heightMm}
                minMm={2}
                maxMm={1500}
                onCommit={(heightMm) => put({ heightMm })}
              />
            </>
          )}
          {shape === 'dome' && (
            <>
              <CountField
                label="Courses"
                min={2}
                max={20}
                value={measures.courses}
                onCommit={(courses) => put({ courses })}
              />
              <LengthField
                label="Dome radius"
                valueMm={measures.radiusMm}
                minMm={5}
                maxMm={1000}
                onCommit={(radiusMm) => put({ radiusMm })}
              />
            </>
          )}
          {(shape === 'uniform' || shape === 'star') && (
            <>
              <Select
                className="wide"
                label="Which one"
                allowDeselect={false}
                searchable
                value={measures.name}
                data={[
                  { group: 'Regular', items: [...REGULAR] },
                  { group: 'Half-regular', items: HALF_REGULAR },
                ]}
                onChange={(name) => name && put({ name })}
              />
              <LengthField
                label="Edges"
                valueMm={measures.edgeMm}
                minMm={2}
                maxMm={500}
                onCommit={(edgeMm) => put({ edgeMm })}
              />
              {shape === 'star' && (
                <LengthField
                  label="Points high"
                  valueMm={measures.pointMm}
                  minMm={1}
                  maxMm={500}
                  onCommit={(pointMm) => put({ pointMm })}
                />
              )}
            </>
          )}
          {shape === 'letter' && (
            <Select
              label="Letter"
              allowDeselect={false}
              value={measures.letter}
              data={[...'ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789']}
              onChange={(letter) => letter && put({ letter })}
            />
          )}
          {shape === 'silhouette' && (
            <Select
              className="wide"
              label="Part that gets depth"
              placeholder="Draw a part with a closed outline first"
              value={measures.partId || null}
              data={Object.values(design.parts).map(({ id, name }) => ({ value: id, label: name }))}
              onChange={(partId) => partId && put({ partId })}
            />
          )}
          {(shape === 'letter' || shape === 'silhouette') && (
            <>
              {shape === 'letter' && (
                <LengthField
                  label="Letter high"
                  valueMm={measures.heightMm}
                  minMm={10}
                  maxMm={600}
                  onCommit={(heightMm) => put({ heightMm })}
                />
              )}
              <LengthField
                label="Depth"
                hint="Of its walls; what is hollow in it is cut through front and back."
                valueMm={measures.depthMm}
                minMm={2}
                maxMm={300}
                onCommit={(depthMm) => put({ depthMm })}
              />
            </>
          )}
          {shape === 'file' && file && (
            <CountField
              label="Faces at most"
              hint="A finer solid is made simpler: fewer triangles to fold."
              min={8}
              max={6000}
              value={measures.mostFaces}
              onCommit={(mostFaces) => put({ mostFaces })}
            />
          )}
          {shape === 'file' && (
            <>
              <FileButton accept=".obj,.stl,.glb,.gltf" onChange={(next) => next && read(next)}>
                {(props) => (
                  <Button {...props} className="wide" variant={file ? 'default' : 'filled'}>
                    {file ? 'Choose another file' : 'Choose an OBJ, STL or glTF file'}
                  </Button>
                )}
              </FileButton>
              <LengthField
                label="Longest measure"
                hint="Of the box round it: files of solids have no unit that can be trusted."
                valueMm={measures.longestMm}
                minMm={5}
                maxMm={2000}
                onCommit={(longestMm) => put({ longestMm })}
              />
            </>
          )}
          <LengthField label="Tabs deep" valueMm={tabMm} minMm={1.5} maxMm={60} onCommit={setTab} />
          <Select
            className="wide"
            label="Paper"
            allowDeselect={false}
            value={stockId}
            data={choicesOf('stocks', studio, design).map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(id) => id && setStock(id)}
          />
          <Checkbox
            className="wide"
            size="xs"
            label="Numbers where edges meet, in the order of gluing"
            checked={withNumbers}
            onChange={(event) => setNumbers(event.currentTarget.checked)}
          />
          <Select
            className="wide"
            label="Where it is cut"
            allowDeselect={false}
            value={cuts}
            data={Object.entries(CUTS).map(([value, label]) => ({ value, label }))}
            onChange={(value) => value && setCuts(value as keyof typeof CUTS)}
          />
          <Select
            className="wide"
            label="Openings in its faces"
            allowDeselect={false}
            value={opening}
            data={Object.entries(OPENINGS).map(([value, label]) => ({ value, label }))}
            onChange={(value) => value && setOpening(value as FaceOpening | 'none')}
          />
          {opening !== 'none' && (
            <LengthField
              label="Openings across"
              hint="Smaller where a face has less room beside its tabs; the first face stays whole, to stand on."
              valueMm={openingMm}
              minMm={2}
              maxMm={400}
              onCommit={setOpeningMm}
            />
          )}
          {bed && (
            <Checkbox
              className="wide"
              size="xs"
              label={`Each piece fits the machine, ${say(bed[0])} × ${say(bed[1])}`}
              checked={onBed}
              onChange={(event) => setOnBed(event.currentTarget.checked)}
            />
          )}
        </div>
        <div className="solid-net" aria-busy={busy !== null}>
          {file && shape === 'file' && (
            <>
              <p className="quiet">
                {file.name}: {file.read.faces} faces
                {file.read.tooMany ? ', more than can be folded: it is made simpler' : ''}.{' '}
                {file.read.mended.map(inUnit).join(' ')}
              </p>
              {file.read.faults.length > 0 && (
                <Alert color="persimmon" role="alert" title="It cannot be folded yet">
                  {file.read.faults.map(inUnit).join(' ')}
                </Alert>
              )}
            </>
          )}
          {failure && <Alert color="persimmon" role="alert" title={failure} />}
          {busy && (
            <Group gap="xs">
              <Loader size="xs" /> <span role="status">{busy}…</span>
              <Button size="compact-xs" variant="default" onClick={stopSolid}>
                Stop
              </Button>
            </Group>
          )}
          {!net && !busy && !failure && <p className="quiet">Choose a file to see its net here.</p>}
          {net && made && (
            <>
              <p className="figure" role="status">
                {made.faces} faces in {net.pieces.length} {net.pieces.length === 1 ? 'piece' : 'pieces'};{' '}
                {say(net.seamMm)} to glue
                {net.withoutTabMm > 0.01 && `, ${say(net.withoutTabMm)} of it without room for a tab`};{' '}
                {area(net.pieces.reduce((sum, { outline }) => sum + Math.abs(ringArea(outline)), 0))} of
                paper.
              </p>
              {made.overlaps > 0 && (
                <Alert
                  color="persimmon"
                  role="alert"
                  title={`${made.overlaps} pairs of faces lie on each other: move another edge, or take it back.`}
                />
              )}
              <NetPicture net={net} onEdge={(edge) => byHand(() => moveEdge(edge), 1)} />
              <p className="quiet">
                Press a fold to cut there, or a cut edge to fold there: the net follows. Mountain folds are
                long dashes, valley folds short ones.
              </p>
            </>
          )}
          <Group mt="sm">
            <Button disabled={!made || made.overlaps > 0 || busy !== null} onClick={lay}>
              Lay it on the board
            </Button>
            <Button
              variant="default"
              disabled={moved === 0 || busy !== null}
              onClick={() => byHand(edgeBack, -1)}
            >
              Take the last edge back
            </Button>
          </Group>
        </div>
      </div>
    </Modal>
  );
}
