import { SEARCHED_RULES, type Tried } from '@hollow-finch/core/checks/clearing';
import { isAccepted, openFindings, stateOf, type Finding } from '@hollow-finch/core/checks/finding';
import { RULES } from '@hollow-finch/core/checks/rules';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { boxOf } from '@hollow-finch/core/geometry/path';
import { add, type Point } from '@hollow-finch/core/geometry/point';
import { Button, Select, TextInput, UnstyledButton } from '@mantine/core';
import { proxy } from 'comlink';
import { Suspense, useMemo, useState } from 'react';
import { formatLength } from '@hollow-finch/core/units/length';
import { Board } from '../../shared/drawing/Board.tsx';
import { PartDrawing } from '../../shared/drawing/PartDrawing.tsx';
import { faultWords } from '../../shared/helper.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { reportWorker } from '../../shared/store/reporter.ts';
import { useLengths } from '../../shared/units.ts';
import { later } from '../../shared/later.ts';
import { FindingMarks } from '../draft/BoardParts.tsx';
import { boardBox, boardLayout, type BoardPart } from '../draft/layout.ts';
import type { PlaceProps } from '../workspace/place.ts';
import './inspect.css';

/** Measures that are kept: loaded when there are any. */
const Measures = later(() => import('../draft/Measures.tsx'));

/** Findings for which a mend can be looked for: it costs too much to have one ready at every change. */
const canSearch = (finding: Finding): boolean =>
  finding.mend === null && SEARCHED_RULES.includes(finding.rule);

/** What figures other than lengths count: one, and more. */
const COUNTED: Readonly<Record<Exclude<Finding['unit'], 'mm'>, readonly [string, string]>> = {
  'mm²': [' mm²', ' mm²'],
  deg: ['°', '°'],
  'g/m²': [' g/m²', ' g/m²'],
  layers: [' layer', ' layers'],
  folds: [' fold', ' folds'],
  places: [' place', ' places'],
  pieces: [' piece', ' pieces'],
};

const canMend = (finding: Finding): boolean => finding.mend !== null || canSearch(finding);

/** A search for a change: how far it is, or how it ended. */
type Searching = 'no' | 'none' | 'stopped' | Tried | { readonly failed: string };

const ruleOf = (id: string) => RULES.find((rule) => rule.id === id);

function AcceptForm({ finding, onDone }: { finding: Finding; onDone: () => void }) {
  const [reason, setReason] = useState('');
  return (
    <form
      className="accept"
      onSubmit={(event) => {
        event.preventDefault();
        if (!reason.trim()) return;
        useJob.getState().edit('Accept a finding', {
          do: 'put',
          in: 'accepted',
          id: finding.key,
          value: { reason: reason.trim().slice(0, 500), was: stateOf(finding) },
        });
        onDone();
      }}
    >
      <TextInput
        label="Why it is all right"
        autoFocus
        value={reason}
        maxLength={500}
        onChange={(event) => setReason(event.currentTarget.value)}
      />
      <Button type="submit" disabled={!reason.trim()}>
        Accept
      </Button>
      <Button variant="default" onClick={onDone}>
        Cancel
      </Button>
    </form>
  );
}

function FindingRow({
  finding,
  chosen,
  onChoose,
}: {
  finding: Finding;
  chosen: boolean;
  onChoose: () => void;
}) {
  const accepted = useJob((s) => (isAccepted(s.shown, finding) ? s.shown.accepted[finding.key] : undefined));
  const lapsed = useJob((s) => s.shown.accepted[finding.key] !== undefined) && !accepted;
  const [accepting, setAccepting] = useState(false);
  const { unit, inUnit } = useLengths();
  const [searching, setSearching] = useState<Searching>('no');
  const { edit } = useJob.getState();
  /** Looks for the smallest change that clears it, and makes it. */
  const clear = async () => {
    setSearching({ tried: 0, most: 0 });
    const { design } = useJob.getState();
    const tell = proxy((tried: Tried) =>
      setSearching((now) => (typeof now === 'object' && !('failed' in now) ? tried : now)),
    );
    try {
      const mend = await reportWorker().findMend(design, finding.key, useJob.getState().cuts, tell);
      if (mend && useJob.getState().design === design) edit(mend.label, mend.command);
      setSearching((now) => (mend || now === 'stopped' ? 'no' : 'none'));
    } catch (fault) {
      setSearching({ failed: faultWords(fault) });
    }
  };
  const amount = (value: number) => {
    // Limits are as small as half a tenth of a millimetre.
    if (finding.unit === 'mm') return formatLength(value, unit);
    const figure = Math.round(value * 100) / 100;
    return `${figure}${COUNTED[finding.unit][figure === 1 ? 0 : 1]}`;
  };
  const limit = finding.limit === 0 && finding.unit !== 'mm' ? 'none' : amount(finding.limit ?? 0);
  return (
    <li className={chosen ? 'finding finding-chosen' : 'finding'} data-rule={finding.rule}>
      <UnstyledButton className="finding-main" onClick={onChoose} aria-pressed={chosen}>
        <span className={finding.severity === 'fault' ? 'wrong' : 'warn'}>
          {ruleOf(finding.rule)?.title ?? finding.rule}
        </span>
        <span>{inUnit(finding.sentence)}</span>
        {lapsed && <span className="warn">It was accepted, but has changed since.</span>}
        <span className="quiet figure">
          {finding.measured !== null && finding.limit !== null
            ? `measured ${amount(finding.measured)}, limit ${limit} (${inUnit(finding.limitFrom)})`
            : inUnit(finding.limitFrom)}
        </span>
      </UnstyledButton>
      {accepted ? (
        <div className="finding-acts">
          <span className="quiet">Accepted: {accepted.reason}</span>
          <Button
            size="compact-xs"
            variant="default"
            onClick={() =>
              edit('Take back an acceptance', { do: 'put', in: 'accepted', id: finding.key, value: null })
            }
          >
            Take back
          </Button>
        </div>
      ) : accepting ? (
        <AcceptForm finding={finding} onDone={() => setAccepting(false)} />
      ) : (
        <div className="finding-acts">
          {finding.mend && (
            <Button size="compact-xs" onClick={() => edit(finding.mend!.label, finding.mend!.command)}>
              {inUnit(finding.mend.label)}
            </Button>
          )}
          {canSearch(finding) && searching === 'no' && (
            <Button size="compact-xs" onClick={() => void clear()}>
              Make the smallest change that clears it
            </Button>
          )}
          {typeof searching === 'object' && 'failed' in searching && (
            <span role="alert" className="wrong">
              {searching.failed}{' '}
              <Button size="compact-xs" variant="default" onClick={() => void clear()}>
                Search again
              </Button>
            </span>
          )}
          {typeof searching === 'object' && !('failed' in searching) && (
            <span role="status" className="searching">
              <span className="quiet figure">
                {searching.most === 0
                  ? 'Looking for a change…'
                  : `Tried ${searching.tried} of about ${searching.most} changes…`}
              </span>{' '}
              <Button
                size="compact-xs"
                variant="default"
                onClick={() => {
                  setSearching('stopped');
                  reportWorker()
                    .stopMend()
                    .catch(() => undefined);
                }}
              >
                Stop
              </Button>
            </span>
          )}
          {searching === 'none' && (
            <span className="quiet">
              No single change of a sensible size clears this; put it right by hand.
            </span>
          )}
          <Button size="compact-xs" variant="default" onClick={() => setAccepting(true)}>
            Accept…
          </Button>
        </div>
      )}
    </li>
  );
}

/** The box to look at for a finding: its places with some air, or everything. */
function lookAt(finding: Finding | undefined, layout: readonly BoardPart[]) {
  const offsets = new Map(layout.map(({ part, offset }) => [part.id, offset]));
  const points = (finding?.places ?? []).flatMap((place) => {
    const offset = offsets.get(place.partId);
    return offset ? [place.at, ...place.points].map((p): Point => add(p, offset)) : [];
  });
  if (points.length === 0) return boardBox(layout);
  const box = boxOf(points);
  const air = Math.max(12, 0.4 * (box.maxX - box.minX + box.maxY - box.minY));
  return { minX: box.minX - air, minY: box.minY - air, maxX: box.maxX + air, maxY: box.maxY + air };
}

/** Findings grouped by what to do, shown on the drawing. */
export default function Inspect(_props: PlaceProps) {
  const shown = useJob((s) => s.shown);
  const report = useJob((s) => s.report);
  const reporting = useJob((s) => s.reporting);
  const [chosen, setChosen] = useState<string | null>(null);
  const [rule, setRule] = useState('all');
  const [search, setSearch] = useState('');
  const expanded = expand(shown);
  const layout = useMemo(() => boardLayout(expanded, shown.board), [expanded, shown.board]);
  const findings = (report?.findings ?? []).filter(
    (f) => (rule === 'all' || f.rule === rule) && f.sentence.toLowerCase().includes(search.toLowerCase()),
  );
  const open = openFindings(shown, findings);
  const groups = [
    { title: 'Can be mended now', list: open.filter(canMend) },
    { title: 'Needs your hand', list: open.filter((f) => !canMend(f) && f.severity === 'fault') },
    { title: 'Worth a look', list: open.filter((f) => !canMend(f) && f.severity === 'warning') },
    { title: 'Accepted', list: findings.filter((f) => isAccepted(shown, f)) },
  ].filter((group) => group.list.length > 0);
  const found = report?.findings.find((f) => f.key === chosen);
  return (
    <main className="place bench inspect">
      {/* A new board for each finding that is looked at: it opens fitted to the place. */}
      <Board key={chosen ?? 'all'} content={lookAt(found, layout)} label="Drawing with findings">
        {layout.map(({ part, offset }) => (
          <g key={part.id} transform={`translate(${offset[0]} ${-offset[1]})`}>
            <PartDrawing part={part} />
          </g>
        ))}
        {Object.keys(shown.dimensions).length > 0 && (
          <Suspense fallback={null}>
            <Measures layout={layout} fixed />
          </Suspense>
        )}
        <FindingMarks layout={layout} findings={findings} chosenKey={chosen} />
      </Board>
      <aside className="particulars findings" aria-label="Findings" aria-busy={reporting}>
        <div className="fields">
          <TextInput
            aria-label="Search findings"
            placeholder="Search"
            value={search}
            onChange={(event) => setSearch(event.currentTarget.value)}
          />
          <Select
            aria-label="Rule"
            value={rule}
            onChange={(value) => setRule(value ?? 'all')}
            data={[
              { value: 'all', label: 'All rules' },
              ...RULES.map((r) => ({ value: r.id, label: r.title })),
            ]}
          />
        </div>
        {report && groups.length === 0 && (
          <section>
            <h2>{search || rule !== 'all' ? 'Nothing matches' : 'Nothing found'}</h2>
            {report.findings.length === 0 && (
              <>
                <p>These were checked on every part:</p>
                <ul className="checked-rules">
                  {RULES.map((r) => (
                    <li key={r.id}>
                      <strong>{r.title}.</strong> <span className="quiet">{r.protects}</span>
                    </li>
                  ))}
                </ul>
              </>
            )}
          </section>
        )}
        {!report && <p className="quiet">Inspecting…</p>}
        {groups.map((group) => (
          <section key={group.title}>
            <h2>
              {group.title} <span className="quiet figure">{group.list.length}</span>
            </h2>
            <ul className="plain-list">
              {group.list.map((finding) => (
                <FindingRow
                  key={finding.key}
                  finding={finding}
                  chosen={finding.key === chosen}
                  onChoose={() => setChosen(finding.key === chosen ? null : finding.key)}
                />
              ))}
            </ul>
          </section>
        ))}
      </aside>
    </main>
  );
}
