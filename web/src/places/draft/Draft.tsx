import type { Design } from '@hollow-finch/core/design/design';
import { openingOf } from '@hollow-finch/core/design/frames';
import { openFindings } from '@hollow-finch/core/checks/finding';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { Layer } from '@hollow-finch/core/dieline/part';
import { panelAt, panelPlan } from '@hollow-finch/core/dieline/panels';
import { screenPathData } from '@hollow-finch/core/formats/pathData';
import { freshId } from '@hollow-finch/core/design/ids';
import type { Box, Path } from '@hollow-finch/core/geometry/path';
import { subtract, type Point } from '@hollow-finch/core/geometry/point';
import { Button, UnstyledButton } from '@mantine/core';
import { useCallbackRef } from '@mantine/hooks';
import { memo, Suspense, useCallback, useEffect, useMemo, useRef, useState } from 'react';
import { Board, useBoardScale } from '../../shared/drawing/Board.tsx';
import { fromDrawing, useKeys } from '../../shared/keys.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob, type Selection } from '../../shared/store/jobStore.ts';
import { onesOf } from '../../shared/store/selection.ts';
import { chooseAll } from './chooseAll.ts';
import { OpeningStrip } from '../../shared/strip/OpeningStrip.tsx';
import { placeText, useTravel } from '../../shared/strip/useTravel.ts';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import type { PlaceProps } from '../workspace/place.ts';
import { BoardParts } from './BoardParts.tsx';
import { drawOn, focusBoard, removalOf } from './draftEdits.ts';
import { DraftTools, MORE_TOOLS, TOOLS } from './DraftTools.tsx';
import { HandleLayer } from './HandleLayer.tsx';
import { boardBox, boardLayout, partBox, withAllDrawn, type BoardPart } from './layout.ts';
import type { Tool } from './tools/drawGesture.ts';
import type { ShapeSettings } from './tools/drafting.ts';
import { useDrawing } from './tools/useDrawing.ts';
import './draft.css';

/** With what moves a piece about on its panel: loaded when there is one. */
const GluedPieces = later(() => import('./GluedPieces.tsx'));
/** The folded shape beside the board: loaded when its motion is known. */
const FoldedPicture = later(async () => ({
  default: (await import('../../shared/FoldedPicture.tsx')).FoldedPicture,
}));
/** Guides and measures: loaded when there are any. */
const Guides = later(() => import('./Guides.tsx'));
const Measures = later(() => import('./Measures.tsx'));
const MeasureBar = later(() => import('./tools/MeasureBar.tsx'));
/** How wide the material is: loaded with the first look. */
const WidthOverlay = later(() => import('./WidthOverlay.tsx'));
const BridgeMarks = later(() => import('./BridgeMarks.tsx'));
const PathHandles = later(() => import('./PathHandles.tsx'));
const ZoneHandles = later(() => import('./ZoneHandles.tsx'));
/** Pictures on the board: loaded when there are any. */
const PictureLayer = later(() => import('./pictures/PictureLayer.tsx'));
const PictureSection = later(() => import('./pictures/PictureSection.tsx'));
const GuideSection = later(() => import('./GuideSection.tsx'));
/** The measures of what is chosen: loaded with the first choice. */
const Chosen = later(() => import('./Chosen.tsx'));
const MechanismDrawer = later(() => import('./Drawer.tsx'));

/** The part that a drawing begun at a board point goes to: the chosen drafted one, else the one under the point. */
function targetOf(
  layout: readonly BoardPart[],
  at: Point,
  chosenId: string | undefined,
): BoardPart | undefined {
  const chosen = layout.find(({ part }) => part.id === chosenId);
  if (chosen && useJob.getState().design.parts[chosen.part.id]) return chosen;
  return layout.find(({ part, offset }) => {
    const p = subtract(at, offset);
    if (panelAt(panelPlan(part), p) >= 0) return true;
    const box = partBox(part);
    // A drafted part whose outline is not closed yet is met by its box.
    return (
      !!useJob.getState().design.parts[part.id] &&
      p[0] >= box.minX &&
      p[0] <= box.maxX &&
      p[1] >= box.minY &&
      p[1] <= box.maxY
    );
  });
}

/** Whether what is chosen is still in the design: a mechanism that is gone is not; others say so themselves. */
const isThere = ({ instances }: Design, selection: NonNullable<Selection>): boolean =>
  selection.kind !== 'instance' || instances[selection.id] !== undefined;

const Particulars = memo(function Particulars() {
  const { inUnit } = useLengths();
  const selection = useJob((s) => s.selection);
  const shown = useJob((s) => s.calm);
  const report = useJob((s) => s.report);
  if (selection && isThere(shown, selection))
    return (
      <Suspense fallback={<p className="quiet">One moment…</p>}>
        <Chosen selection={selection} />
      </Suspense>
    );
  const { parts } = expand(shown);
  const { select } = useJob.getState();
  const open = openFindings(shown, report?.findings ?? []);
  return (
    <>
      <section>
        <h2>On the board</h2>
        <ul className="plain-list">
          {Object.values(shown.instances).map((instance) => (
            <li key={instance.id}>
              <UnstyledButton
                className="row-button"
                onClick={() => select({ kind: 'instance', id: instance.id })}
              >
                {instance.name}
              </UnstyledButton>
            </li>
          ))}
          {parts
            .filter((part) => part.id === 'card' || shown.parts[part.id])
            .map((part) => (
              <li key={part.id}>
                <UnstyledButton className="row-button" onClick={() => select({ kind: 'part', id: part.id })}>
                  {part.name} <span className="quiet">part</span>
                </UnstyledButton>
              </li>
            ))}
        </ul>
        <p className="quiet">
          Choose a thing to see its measures. Drag a handle to change one; every measure can be typed, in mm
          and inches mixed: 4 3/8in - 2mm.
        </p>
      </section>
      <Suspense fallback={null}>
        <GuideSection partId={null} />
        <PictureSection partId={null} />
      </Suspense>
      {open.length > 0 && (
        <section>
          <h3>Found so far</h3>
          <ul className="plain-list">
            {open.slice(0, 6).map((finding) => (
              <li key={finding.key} className={finding.severity === 'fault' ? 'wrong' : 'warn'}>
                {inUnit(finding.sentence)}
                {finding.mend && (
                  <Button
                    size="compact-xs"
                    variant="default"
                    ml={6}
                    onClick={() => useJob.getState().edit(finding.mend!.label, finding.mend!.command)}
                  >
                    {inUnit(finding.mend.label)}
                  </Button>
                )}
              </li>
            ))}
          </ul>
        </section>
      )}
    </>
  );
});

/** The place that a hand is drawn to, with its name. */
function SnapMark({ at, offset, name }: { at: Point; offset: Point; name: string }) {
  const scale = useBoardScale();
  const [x, y] = [at[0] + offset[0], -at[1] - offset[1]];
  return (
    <g className="snap-mark" pointerEvents="none">
      <circle cx={x} cy={y} r={4 / scale} />
      <text x={x + 8 / scale} y={y - 8 / scale} fontSize={11.5 / scale}>
        {name}
      </text>
    </g>
  );
}

/** Whether a key for copying or pasting means the board, and not a text that is selected or typed. */
const isForBoard = (event: KeyboardEvent): boolean =>
  fromDrawing(event) && !window.getSelection()?.toString();

/** The drawing board. */
export default function Draft(_props: PlaceProps) {
  const { inUnit } = useLengths();
  const shown = useJob((s) => s.shown);
  const hasGlued = Object.values(shown.joints).some((joint) => joint.kind === 'glue');
  const hasPictures = Object.keys(shown.pictures).length > 0;
  const selection = useJob((s) => s.selection);
  const report = useJob((s) => s.report);
  const travel = useTravel();
  const { edit, select } = useJob.getState();
  const [tool, setTool] = useState<Tool>('choose');
  const [layer, setLayer] = useState<Layer>('cut');
  const [drawer, setDrawer] = useState(
    () =>
      Object.keys(useJob.getState().design.instances).length +
        Object.keys(useJob.getState().design.parts).length ===
      0,
  );
  const [settings, setSettings] = useState<ShapeSettings | null>(null);
  const expanded = expand(shown);
  const layout = useMemo(() => boardLayout(expanded, shown.board), [expanded, shown.board]);
  const content = useMemo(() => boardBox(withAllDrawn(shown, layout)), [shown, layout]);
  const [added, setAdded] = useState(0);
  const onAdded = useCallback(() => setAdded((count) => count + 1), []);
  const chosenPart =
    selection?.kind === 'part' ? selection.id : selection?.kind === 'line' ? selection.partId : undefined;

  /** Brings the focus to the measures of what was just added or chosen. */
  const aside = useRef<HTMLElement>(null);
  const toMeasures = () => requestAnimationFrame(() => aside.current?.focus());
  const openDrawer = useCallback(() => setDrawer(true), []);
  const remove = (event: KeyboardEvent) => {
    const removal = removalOf(useJob.getState().design, useJob.getState().selection);
    if (!removal || !fromDrawing(event)) return;
    edit(removal.label, removal.command);
    select(null);
    focusBoard();
  };
  const copy = (event: KeyboardEvent, out = false): boolean | void => {
    if (!useJob.getState().selection || !isForBoard(event)) return false;
    void import('./pasting.ts').then(({ copyChosen }) => copyChosen(out));
  };
  const paste = (again: boolean) => void import('./pasting.ts').then((it) => it.pasteCopied(again, onAdded));
  /** A paste waits a moment: when the browser hands over a drawing from elsewhere, that is meant. */
  const waiting = useRef(0);
  useEffect(() => {
    const onPaste = (event: ClipboardEvent) => {
      const text = event.clipboardData?.getData('text/plain') ?? '';
      if (!text.includes('<svg') || !fromDrawing(event)) return;
      clearTimeout(waiting.current);
      void import('./pasting.ts').then((it) =>
        it.isDrawing(text) ? it.pasteDrawing(text, onAdded) : it.pasteCopied(false, onAdded),
      );
    };
    window.addEventListener('paste', onPaste);
    return () => window.removeEventListener('paste', onPaste);
  }, [onAdded]);
  const pasteSoon = (event: KeyboardEvent): false => {
    if (isForBoard(event)) waiting.current = window.setTimeout(() => paste(false), 60);
    return false;
  };
  const drawing = useDrawing({
    tool,
    settings,
    layout,
    targetAt: (at) => targetOf(layout, at, chosenPart),
    onDrawn: (path, on, from) => draw(path, on, from),
    onLoop: (loop) =>
      void import('./boxChoice.ts').then((it) => {
        select(it.insideLoop(shown, layout, chosenPart, loop));
        setTool('choose');
      }),
  });
  /** One step back: what is being drawn, then the tool, then the choice. */
  const giveUp = () => {
    useJob.getState().preview(null);
    if (drawing.back()) return;
    if (tool !== 'choose') setTool('choose');
    else select(null);
  };
  useKeys([
    ...[...TOOLS, ...MORE_TOOLS].flatMap(({ id, key }) => (key ? [[key, () => setTool(id)] as const] : [])),
    ['m', openDrawer],
    ['Escape', giveUp],
    ['Enter', (event) => (fromDrawing(event) ? drawing.end() : false)],
    ['mod+c', (event) => copy(event)],
    ['mod+x', (event) => copy(event, true)],
    ['mod+v', pasteSoon],
    ['mod+d', (event) => (isForBoard(event) ? paste(true) : false)],
    ['mod+a', (event) => (isForBoard(event) ? select(chooseAll(useJob.getState().design)) : false)],
    ...(['mod+g', 'mod+shift+g'] as const).map(
      (key) =>
        [
          key,
          (event: KeyboardEvent) =>
            isForBoard(event)
              ? void import('./orderEdits.ts').then((it) => it.groupChosen(key === 'mod+g'))
              : false,
        ] as const,
    ),
    ['Delete', remove],
    ['Backspace', remove],
  ]);
  // Something else is shown beside the board: from its beginning.
  const chosenKey = onesOf(selection)
    .map(({ kind, id }) => `${kind} ${id}`)
    .join();
  useEffect(() => {
    if (aside.current) aside.current.scrollTop = 0;
  }, [chosenKey]);
  // What is taken away by a button takes the button with it: the focus goes on to the board.
  const hadChoice = useRef(selection !== null);
  useEffect(() => {
    if (hadChoice.current && selection === null && document.activeElement === document.body) focusBoard();
    hadChoice.current = selection !== null;
  }, [selection]);

  /** Draws a line on a part, or on a new one, and chooses it. */
  const draw = (path: Path, on: BoardPart | undefined, from: Point) => {
    if (tool === 'bridge')
      return void import('./bridgeEdits.ts').then((it) =>
        it.drawBridge(on?.part.id, path, settings?.bridgeMm),
      );
    const drawn = drawOn(useJob.getState().design, on?.part.id ?? null, layer, path, from);
    if ('refused' in drawn) return sayFault(drawn.refused);
    // What is drawn stays where it was drawn, however the part's outline grows.
    const partId = drawn.selection?.kind === 'line' ? drawn.selection.partId : '';
    const pinned = partId in shown.board || (shown.parts[partId] === undefined && on !== undefined);
    const [x, y] = on?.offset ?? [0, 0];
    edit(
      drawn.label,
      pinned
        ? drawn.command
        : { do: 'all', commands: [drawn.command, { do: 'put', in: 'board', id: partId, value: { x, y } }] },
    );
    select(drawn.selection);
  };

  /** A guide drawn out of a ruler belongs to the part that it is let go on, else to the board. */
  const onRuler = (phase: 'move' | 'end', axis: 'x' | 'y', at: Point | null) => {
    if (!at) return useJob.getState().preview(null);
    const id = freshId('g', useJob.getState().design.guides);
    const owner = targetOf(layout, at, undefined);
    const k = axis === 'x' ? 0 : 1;
    const atMm = Math.round((at[k] - (owner?.offset[k] ?? 0)) * 2) / 2;
    const value = { id, axis, atMm, partId: owner?.part.id ?? null };
    const command = { do: 'put', in: 'guides', id, value } as const;
    if (phase === 'move') useJob.getState().preview(command);
    else edit('Add a guide', command);
  };
  /** Everything that lies wholly inside a box is chosen: lines of the chosen part, if there are any, else parts. */
  const onMarquee = (box: Box) =>
    void import('./boxChoice.ts').then((it) => select(it.insideBox(shown, layout, chosenPart, box)));
  const chosen = selection?.kind === 'part' ? shown.parts[selection.id] : undefined;
  const where = chosen && layout.find(({ part }) => part.id === chosen.id);
  const zoned =
    chosen && where && Object.keys(chosen.glueZones).length > 0
      ? { part: chosen, offset: where.offset }
      : undefined;
  const numbersOn = layout.find(({ part }) => part.id === chosenPart);
  const drawByNumbers = useCallbackRef((path: Path) => {
    draw(path, numbersOn, path.start);
    onAdded();
  });
  const { path, offset, snap, taken } = drawing;
  return (
    <main className="place bench">
      <Board
        content={content}
        label="Drawing board"
        added={added}
        onDraw={tool === 'choose' ? undefined : drawing.onDraw}
        onBackground={() => select(null)}
        onMarquee={tool === 'choose' ? onMarquee : undefined}
        onRuler={onRuler}
        tools={
          <div>
            <DraftTools
              tool={tool}
              onTool={setTool}
              layer={layer}
              onLayer={setLayer}
              onMechanism={openDrawer}
              numbersOn={numbersOn?.part.name}
              onDraw={drawByNumbers}
              settings={settings}
              onSettings={setSettings}
              onAdded={onAdded}
            />
            {tool === 'measure' && (
              <Suspense fallback={<p className="measure-bar quiet">One moment…</p>}>
                <MeasureBar layout={layout} taken={taken} onKept={() => drawing.setTaken(null)} />
              </Suspense>
            )}
          </div>
        }
      >
        {hasPictures && (
          <Suspense fallback={null}>
            <PictureLayer layout={layout} use="backdrop" held={false} />
          </Suspense>
        )}
        <BoardParts layout={layout} movable={tool === 'choose'} findings={report?.findings ?? []} />
        {hasPictures && (
          <Suspense fallback={null}>
            <PictureLayer layout={layout} use="artwork" held={tool === 'choose'} />
          </Suspense>
        )}
        {tool === 'choose' && hasGlued && (
          <Suspense fallback={null}>
            <GluedPieces layout={layout} />
          </Suspense>
        )}
        {(Object.keys(shown.guides).length > 0 || Object.values(shown.parts).some((p) => p.symmetry)) && (
          <Suspense fallback={null}>
            <Guides layout={layout} />
          </Suspense>
        )}
        {(taken ?? Object.keys(shown.dimensions).length > 0) && (
          <Suspense fallback={null}>
            <Measures layout={layout} taken={tool === 'measure' ? taken : null} />
          </Suspense>
        )}
        {chosenPart !== undefined && (
          <Suspense fallback={null}>
            <WidthOverlay layout={layout} />
            {tool === 'choose' && <BridgeMarks layout={layout} />}
          </Suspense>
        )}
        {tool === 'choose' && <HandleLayer layout={layout} />}
        {tool === 'choose' && zoned && (
          <Suspense fallback={null}>
            <ZoneHandles part={zoned.part} offset={zoned.offset} />
          </Suspense>
        )}
        {tool === 'choose' && selection?.kind === 'line' && (
          <Suspense fallback={null}>
            <PathHandles
              key={`${selection.partId}/${selection.id}`}
              partId={selection.partId}
              lineId={selection.id}
              offset={layout.find(({ part }) => part.id === selection.partId)?.offset ?? [0, 0]}
            />
          </Suspense>
        )}
        {path && (
          <g transform={`translate(${offset[0]} ${-offset[1]})`} pointerEvents="none">
            <path className={tool === 'lasso' ? 'marquee' : `die die-${layer}`} d={screenPathData(path)} />
          </g>
        )}
        {snap && snap.kind !== 'grid' && (
          <SnapMark at={snap.at} offset={offset} name={snap.of ? `${snap.kind} of ${snap.of}` : snap.kind} />
        )}
      </Board>
      <aside className="particulars" aria-label="Particulars" ref={aside} tabIndex={-1}>
        {travel && (
          <div className="folded-inset">
            <Suspense fallback={null}>
              <FoldedPicture
                sweep={travel.sweep}
                opening={openingOf(shown)}
                deg={travel.at}
                label={`Folded, ${travel.driver.id === 'opening' ? `${Math.round(travel.at)} degrees open` : `${travel.driver.name} at ${inUnit(placeText(travel.driver, travel.at))}`}`}
              />
            </Suspense>
          </div>
        )}
        <Particulars />
      </aside>
      <OpeningStrip />
      {drawer && (
        <Suspense fallback={null}>
          <MechanismDrawer
            onClose={() => setDrawer(false)}
            onPicked={() => {
              setDrawer(false);
              onAdded();
              toMeasures();
            }}
          />
        </Suspense>
      )}
    </main>
  );
}
