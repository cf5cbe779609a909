import { applyCommand, type Command } from '@hollow-finch/core/design/commands';
import { panelPlan } from '@hollow-finch/core/dieline/panels';
import { stockOf, type Layer } from '@hollow-finch/core/dieline/part';
import { shift } from '@hollow-finch/core/geometry/isometry';
import { placePath } from '@hollow-finch/core/geometry/path';
import { boxCentre, boxOf, endOf, type Path } from '@hollow-finch/core/geometry/path';
import { distance } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Checkbox, Select } from '@mantine/core';
import { notifications } from '@mantine/notifications';
import { useState } from 'react';
import { LengthField } from '../../../shared/fields/LengthField.tsx';
import { faultWords } from '../../../shared/helper.ts';
import { sayFault } from '../../../shared/sayFault.ts';
import { useJob } from '../../../shared/store/jobStore.ts';
import { useLengths } from '../../../shared/units.ts';
import { drawOn } from '../draftEdits.ts';
import { LAYER_NAMES } from '../layerNames.ts';
import { FaceFields, USUAL_LETTERING } from './FaceFields.tsx';
import { standingEdit, straightFolds, type Rising } from './standingEdit.ts';
import { wordCuts } from './words.ts';

/** The two sides of a fold, as they lie on the board. */
const RISINGS = (path: Path): { value: Rising; label: string }[] => {
  const [a, b] = [path.start, endOf(path)];
  const level = Math.abs(b[0] - a[0]) >= Math.abs(b[1] - a[1]);
  const names = level
    ? b[0] >= a[0]
      ? ['upper side', 'lower side']
      : ['lower side', 'upper side']
    : b[1] >= a[1]
      ? ['left side', 'right side']
      : ['right side', 'left side'];
  return [
    { value: 'left', label: names[0] },
    { value: 'right', label: names[1] },
  ];
};

const LAYERS: readonly Layer[] = ['cut', 'kiss', 'mark'];

/** A word cut out of a part, or of a panel of a mechanism: its size, its line, its bridges, its place. */
export default function CutWords({ partId }: { partId: string }) {
  const design = useJob((s) => s.calm);
  const { say } = useLengths();
  const part = expand(design).parts.find(({ id }) => id === partId);
  const [lettering, setLettering] = useState(USUAL_LETTERING);
  const [heightMm, setHeight] = useState(20);
  const [fit, setFit] = useState(false);
  const [fitMm, setFitMm] = useState(50);
  const [onArc, setOnArc] = useState(false);
  const [arcMm, setArc] = useState(60);
  const [spacingMm, setSpacing] = useState(0);
  const [layer, setLayer] = useState<Layer>('cut');
  const [isBridged, setBridged] = useState(true);
  const [bridgeMm, setBridge] = useState<number | null>(null);
  const [panelId, setPanel] = useState<string | null>(null);
  const [place, setPlace] = useState<{ x: number | null; y: number | null }>({ x: null, y: null });
  const [foldId, setFold] = useState<string | null>(null);
  const [rising, setRising] = useState<Rising>('left');
  const [along, setAlong] = useState<number | null>(null);
  const [sinkMm, setSink] = useState(0.8);
  const [busy, setBusy] = useState(false);
  if (!part) return null;
  const panels = panelPlan(part).panels.filter(({ role }) => role !== 'tab');
  if (panels.length === 0) return null;
  const panel =
    panels.find(({ id }) => id === panelId) ?? panels.reduce((a, b) => (b.areaMm2 > a.areaMm2 ? b : a));
  const middle = boxCentre(boxOf(panel.region.outer));
  const [x, y] = [place.x ?? middle[0], place.y ?? middle[1]];
  const width = bridgeMm ?? stockOf(part).minWebMm;
  const folds = straightFolds(part);
  const fold = folds.find(({ id }) => id === foldId);
  const foldMm = fold ? distance(fold.path.start, endOf(fold.path)) : 0;
  const alongMm = along ?? foldMm / 2;
  /** Stands the word on a fold. */
  const stand = async (on: string) => {
    const made = await wordCuts(lettering.file ?? lettering.face, lettering.text, {
      heightMm,
      fitMm: fit ? fitMm : null,
      arcMm: null,
      spacingMm,
      bridgeMm: null,
      footed: true,
    });
    const { design: now, edit } = useJob.getState();
    const standing = standingEdit(now, partId, made.paths, {
      foldId: on,
      rising,
      alongMm,
      sinkMm,
      barMm: width,
    });
    if ('refused' in standing) throw new Error(standing.refused);
    edit(`Stand “${lettering.text.trim().slice(0, 30)}” on a fold`, standing.command);
    const { word } = standing;
    const least = Math.min(...word.feetMm);
    const thin = least < stockOf(part).minWebMm;
    const said = [
      `${word.feetMm.length} feet, the narrowest ${say(least)}`,
      thin ? `less than the ${say(stockOf(part).minWebMm)} that the stock wants: let it down further` : '',
      word.bars > 0 ? `${word.bars} ${word.bars === 1 ? 'bar holds' : 'bars hold'} what floated` : '',
      made.missing.length > 0 ? `the face lacks ${made.missing.join(' ')}: the rest is there` : '',
    ].filter(Boolean);
    notifications.show({
      message: `${said.join('; ')}.`,
      color: thin || made.missing.length > 0 ? 'persimmon' : 'juniper',
    });
  };
  const cut = async () => {
    setBusy(true);
    try {
      if (lettering.text.trim() === '') throw new Error('Write a word first.');
      if (fold) return await stand(fold.id);
      const made = await wordCuts(lettering.file ?? lettering.face, lettering.text, {
        heightMm,
        fitMm: fit ? fitMm : null,
        arcMm: onArc ? arcMm : null,
        spacingMm,
        bridgeMm: layer === 'cut' && isBridged ? width : null,
      });
      const at = shift(x, y);
      let { design: now } = useJob.getState();
      const commands: Command[] = [];
      for (const path of made.paths) {
        // All of it belongs to the panel that was chosen, wherever single letters begin.
        const drawn = drawOn(now, partId, layer, placePath(at, path), panel.inside);
        if ('refused' in drawn) throw new Error(drawn.refused);
        now = applyCommand(now, drawn.command).design;
        commands.push(drawn.command);
      }
      useJob.getState().edit(`Cut out “${lettering.text.trim().slice(0, 30)}”`, { do: 'all', commands });
      const said = [
        `${say(made.widthMm)} wide, ${say(made.heightMm)} high`,
        made.bridges > 0 ? `${made.bridges} ${made.bridges === 1 ? 'bridge' : 'bridges'}` : '',
        made.unreached > 0 ? `${made.unreached} counters are too narrow for a bridge and fall out` : '',
        made.missing.length > 0 ? `the face lacks ${made.missing.join(' ')}: the rest is there` : '',
      ].filter(Boolean);
      notifications.show({
        message: `${said.join('; ')}.`,
        color: made.unreached + made.missing.length > 0 ? 'persimmon' : 'juniper',
      });
    } catch (fault) {
      sayFault(faultWords(fault));
    } finally {
      setBusy(false);
    }
  };
  return (
    <section aria-label="Words cut out">
      <h3>Cut a word out of it</h3>
      <div className="fields">
        <FaceFields value={lettering} onChange={setLettering} />
        <LengthField
          label="Letters high"
          hint="From the top of the tallest letters to the foot of the deepest."
          valueMm={heightMm}
          minMm={1}
          maxMm={500}
          onCommit={setHeight}
        />
        <LengthField label="Added between" valueMm={spacingMm} minMm={-20} maxMm={50} onCommit={setSpacing} />
        <Checkbox
          className="wide"
          size="xs"
          label="Made to fit a width"
          checked={fit}
          onChange={(event) => setFit(event.currentTarget.checked)}
        />
        {fit && <LengthField label="Word wide" valueMm={fitMm} minMm={2} maxMm={2000} onCommit={setFitMm} />}
        {folds.length > 0 && (
          <Select
            className="wide"
            label="Word stands"
            allowDeselect={false}
            value={fold?.id ?? ''}
            data={[
              { value: '', label: 'In a panel, cut out of it' },
              ...folds.map(({ id, path, fold: { sense } = { sense: 'valley' } }, i) => ({
                value: id,
                label: `On fold ${i + 1}, a ${sense} ${say(distance(path.start, endOf(path)))} long`,
              })),
            ]}
            onChange={(id) => {
              setFold(id || null);
              setAlong(null);
            }}
          />
        )}
        {fold && (
          <>
            <Select
              className="wide"
              label="Letters rise to its"
              allowDeselect={false}
              value={rising}
              data={RISINGS(fold.path)}
              onChange={(value) => value && setRising(value as Rising)}
            />
            <LengthField
              label="Word middle along it"
              valueMm={alongMm}
              minMm={0}
              maxMm={foldMm}
              onCommit={setAlong}
            />
            <LengthField
              label="Let down by"
              hint="Into their own panel: round letters then stand on wider feet."
              valueMm={sinkMm}
              minMm={0.1}
              maxMm={50}
              onCommit={setSink}
            />
            <LengthField
              label="Bars wide"
              hint="They hold what does not reach the fold: the dot of an i."
              valueMm={width}
              minMm={0.2}
              maxMm={20}
              onCommit={setBridge}
            />
          </>
        )}
        {!fold && (
          <Checkbox
            className="wide"
            size="xs"
            label="On an arc"
            checked={onArc}
            onChange={(event) => setOnArc(event.currentTarget.checked)}
          />
        )}
        {!fold && onArc && (
          <LengthField
            label="Arc radius"
            hint="Of the circle that it stands on; negative hangs it inside the circle."
            valueMm={arcMm}
            minMm={-2000}
            maxMm={2000}
            onCommit={(mm) => setArc(Math.abs(mm) < 5 ? 5 : mm)}
          />
        )}
        {!fold && panels.length > 1 && (
          <Select
            className="wide"
            label="On its panel"
            allowDeselect={false}
            value={panel.id}
            data={panels.map(({ id, name }) => ({ value: id, label: name }))}
            onChange={(id) => {
              setPanel(id);
              setPlace({ x: null, y: null });
            }}
          />
        )}
        {!fold && (
          <>
            <LengthField label="Word middle x" valueMm={x} onCommit={(mm) => setPlace({ ...place, x: mm })} />
            <LengthField label="Word middle y" valueMm={y} onCommit={(mm) => setPlace({ ...place, y: mm })} />
            <Select
              label="Word made as"
              allowDeselect={false}
              value={layer}
              data={LAYERS.map((value) => ({ value, label: LAYER_NAMES[value] }))}
              onChange={(value) => value && setLayer(value as Layer)}
            />
            {layer === 'cut' && isBridged && (
              <LengthField label="Bridges wide" valueMm={width} minMm={0.2} maxMm={20} onCommit={setBridge} />
            )}
            {layer === 'cut' && (
              <Checkbox
                className="wide"
                size="xs"
                label="Hold what is inside letters by bridges"
                checked={isBridged}
                onChange={(event) => setBridged(event.currentTarget.checked)}
              />
            )}
          </>
        )}
        <Button className="wide" variant="default" loading={busy} onClick={() => void cut()}>
          {fold ? 'Stand it there' : 'Cut it out'}
        </Button>
      </div>
    </section>
  );
}
