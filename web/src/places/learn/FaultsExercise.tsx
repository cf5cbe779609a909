import { openingOf } from '@hollow-finch/core/design/frames';
import type { Point } from '@hollow-finch/core/geometry/point';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import type { Accusation, Marked } from '@hollow-finch/core/practice/faultyDraft';
import { GROUPS, type Group } from '@hollow-finch/core/practice/terms';
import { ActionIcon, Button, Select, Slider } from '@mantine/core';
import { useCallback, useEffect, useState } from 'react';
import { api } from '../../shared/api.ts';
import { faultWords } from '../../shared/helper.ts';
import { IconTrash } from '../../shared/icons.ts';
import { FoldedPicture } from '../../shared/FoldedPicture.tsx';
import { useLengths } from '../../shared/units.ts';
import { FlatParts, type Mark } from './FlatParts.tsx';
import type { ExerciseProps } from './Learn.tsx';
import { newSeed, practiceWorker } from './practice.ts';
import { useExercise } from './useExercise.ts';
import { Waiting } from './Waiting.tsx';

const COMET = 'comet';
type Choice = Group | typeof COMET;
const CHOICES = [
  ...Object.entries(GROUPS).map(([value, { title }]) => ({ value, label: title })),
  { value: COMET, label: 'Comet Draft: one of each' },
];
/** The draft with one of each fault, as it ships. */
async function comet() {
  const job = (await api.list()).find(({ id, name }) => id === 'comet-draft' || name === 'Comet Draft');
  if (!job) throw new Error('“Comet Draft” is not on the shelf any more: practise on another group.');
  return practiceWorker.api.given((await api.job(job.id)).design);
}

/** Find what is wrong with a draft: press the place, say which rule it breaks, and see what was missed. */
export default function FaultsExercise({ difficulty, onRound }: ExerciseProps) {
  const [choice, setChoice] = useState<Choice>('lines');
  const make = useCallback(
    () => (choice === COMET ? comet() : practiceWorker.api.draft(choice, difficulty, newSeed())),
    [choice, difficulty],
  );
  const { exercise, failure, again } = useExercise(make);
  const [accusations, setAccusations] = useState<readonly Accusation[]>([]);
  const [result, setResult] = useState<Marked | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [deg, setDeg] = useState(110);
  const { inUnit } = useLengths();
  const [titles, setTitles] = useState<Readonly<Record<string, string>>>({});
  useEffect(() => {
    practiceWorker.api.titles().then(setTitles, (fault: unknown) => setSaid(faultWords(fault)));
  }, []);
  const ruleTitle = (id: string) => titles[id] ?? id;
  const allRules = Object.values(GROUPS).map(({ title, rules: own }) => ({
    group: title,
    items: own.map((id) => ({ value: id, label: ruleTitle(id) })),
  }));
  const next = () => {
    setAccusations([]);
    setResult(null);
    setSaid(null);
    again();
  };
  const rules =
    choice === COMET ? Object.values(GROUPS).flatMap((g) => [...g.rules]) : [...GROUPS[choice].rules];
  const press = (partId: string, at: Point) => {
    if (!result) setAccusations((was) => [...was, { partId, at, rule: rules[0] }]);
  };
  const answer = async () => {
    if (!exercise) return;
    try {
      const marks = await practiceWorker.api.mark(exercise.design, exercise.findings, accusations);
      setResult(marks);
      await onRound({
        exercise: 'faults',
        group: choice,
        difficulty,
        of: Math.max(1, exercise.findings.length),
        right: exercise.findings.length === 0 ? Number(accusations.length === 0) : marks.found.length,
        wrong: marks.wrong.length + marks.misnamed.length,
      });
    } catch (fault) {
      setSaid(faultWords(fault));
    }
  };
  const parts = exercise ? expand(exercise.design).parts : [];
  const nameOf = (id: string) => parts.find((part) => part.id === id)?.name ?? id;
  const marks: Mark[] = result
    ? [
        ...result.found.map(({ accusation }, i): Mark => ({ ...accusation, name: `${i + 1}`, tone: 'good' })),
        ...[...result.missed, ...result.misnamed.map(({ finding }) => finding)].flatMap(
          ({ places }): Mark[] =>
            places.slice(0, 1).map(({ partId, at }) => ({ partId, at, name: '!', tone: 'wrong' })),
        ),
        ...result.wrong.map((accusation): Mark => ({ ...accusation, name: '×', tone: 'mark' })),
      ]
    : accusations.map((accusation, i): Mark => ({ ...accusation, name: `${i + 1}`, tone: 'mark' }));
  const measure = (finding: { measured: number | null; limit: number | null; unit: string }) =>
    finding.measured === null || finding.limit === null
      ? ''
      : finding.unit === 'mm'
        ? inUnit(
            ` Measured ${+finding.measured.toFixed(2)} mm, the limit is ${+finding.limit.toFixed(2)} mm.`,
          )
        : ` Measured ${+finding.measured.toFixed(2)} ${finding.unit}, the limit is ${+finding.limit.toFixed(2)}.`;
  return (
    <section aria-label="Find the fault">
      <div className="learn-head">
        <Select
          label="What to look for"
          allowDeselect={false}
          value={choice}
          data={CHOICES}
          onChange={(value) => {
            if (!value) return;
            setChoice(value as Choice);
            setAccusations([]);
            setResult(null);
          }}
        />
        <Button variant="default" onClick={next}>
          Another draft
        </Button>
      </div>
      {!exercise && <Waiting failure={failure} />}
      {exercise && (
        <div className="learn-columns">
          <div>
            <FlatParts parts={parts} marks={marks} {...(result ? {} : { onPress: press })} />
            <p className="quiet">
              Press what is wrong, and say why. {difficulty > 1 && 'It may also be sound.'}
            </p>
            {exercise.motion.linkage.panels.length > 1 && (
              <div className="learn-folded">
                <FoldedPicture
                  sweep={exercise.motion}
                  opening={openingOf(exercise.design)}
                  deg={deg}
                  label="It folded"
                  withLoose
                />
                <Slider
                  aria-label="How far open it is"
                  thumbLabel="How far open it is"
                  min={0}
                  max={180}
                  value={deg}
                  onChange={setDeg}
                />
              </div>
            )}
          </div>
          <div>
            <h2>What is wrong</h2>
            {accusations.length === 0 && !result && <p className="quiet">Nothing said yet.</p>}
            {!result &&
              accusations.map(({ partId, rule }, i) => (
                <div key={i} className="accusation">
                  <Select
                    label={`${i + 1}, on ${nameOf(partId)}`}
                    allowDeselect={false}
                    searchable
                    value={rule}
                    data={
                      choice === COMET ? allRules : rules.map((id) => ({ value: id, label: ruleTitle(id) }))
                    }
                    onChange={(value) =>
                      value &&
                      setAccusations((was) =>
                        was.map((each, k) => (k === i ? { ...each, rule: value } : each)),
                      )
                    }
                  />
                  <ActionIcon
                    aria-label={`Take ${i + 1} back`}
                    onClick={() => setAccusations((was) => was.filter((_, k) => k !== i))}
                  >
                    <IconTrash size={16} />
                  </ActionIcon>
                </div>
              ))}
            {!result && (
              <div className="step-acts">
                <Button onClick={() => void answer()}>
                  {accusations.length === 0 ? 'Nothing is wrong' : 'That is all'}
                </Button>
                <Button
                  variant="default"
                  onClick={() => parts[0] && press(parts[0].id, parts[0].marks[0]?.at ?? [0, 0])}
                >
                  Say one without a place
                </Button>
              </div>
            )}
            {said && (
              <p role="alert" className="wrong">
                {said}
              </p>
            )}
            {result && (
              <div
                role="status"
                data-result={result.missed.length + result.wrong.length + result.misnamed.length}
              >
                <h3>
                  {exercise.findings.length === 0
                    ? result.wrong.length === 0
                      ? 'Right: it is sound.'
                      : 'It was sound.'
                    : `${result.found.length} of ${exercise.findings.length} found`}
                </h3>
                <ul className="learn-told">
                  {result.found.map(({ finding }) => (
                    <li key={`f ${finding.key}`}>
                      <span className="good">Found.</span> {inUnit(finding.sentence)}
                      <span className="quiet">{measure(finding)}</span>
                    </li>
                  ))}
                  {result.misnamed.map(({ finding, accusation }) => (
                    <li key={`n ${finding.key}`}>
                      <span className="warn">Seen, but named “{ruleTitle(accusation.rule)}”.</span>{' '}
                      {inUnit(finding.sentence)}
                      <span className="quiet">{measure(finding)}</span>
                    </li>
                  ))}
                  {result.missed.map((finding) => (
                    <li key={`m ${finding.key}`}>
                      <span className="wrong">Missed.</span> {inUnit(finding.sentence)}
                      <span className="quiet">{measure(finding)}</span>
                    </li>
                  ))}
                  {result.wrong.map(({ rule, partId }, i) => (
                    <li key={`w ${i}`}>
                      <span className="wrong">Wrongly accused:</span> “{ruleTitle(rule)}” on {nameOf(partId)}{' '}
                      holds.
                    </li>
                  ))}
                </ul>
                <Button onClick={next}>Another draft</Button>
              </div>
            )}
          </div>
        </div>
      )}
    </section>
  );
}
