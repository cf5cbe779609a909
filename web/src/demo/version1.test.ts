/** Jobs of version 1 (as they were stored then, and what was computed of them) open and compute the same. */
import { checkContext } from '@hollow-finch/core/checks/context';
import { reportOf } from '@hollow-finch/core/checks/report';
import { PROFILES } from '@hollow-finch/core/cutting/profile';
import { applyCommand, type Edit } from '@hollow-finch/core/design/commands';
import { editSchema } from '@hollow-finch/core/design/commandSchema';
import { SCHEMA_VERSION, type Design } from '@hollow-finch/core/design/design';
import { presentEdits } from '@hollow-finch/core/design/migrations';
import { readDesign } from '@hollow-finch/core/design/schema';
import { writePartSvg } from '@hollow-finch/core/formats/svgWrite';
import { pointAt } from '@hollow-finch/core/motion/pose';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { fingerprint } from '@hollow-finch/core/sheets/fingerprint';
import { describe, expect, it } from 'vitest';
import { demoJobs } from './jobs.ts';
import fixtures from './testing/version1.json' with { type: 'json' };

const opened = (document: unknown): Design => {
  const read = readDesign(document);
  if (!read.ok) throw new Error(read.message);
  return read.design;
};

/** Edits as version 1 stored them, on the part `p1` of the first demo job. */
const EDITS = [
  {
    label: 'Draw',
    command: {
      do: 'all',
      commands: [
        {
          do: 'line',
          partId: 'p1',
          id: 'l9',
          value: {
            id: 'l9',
            layer: 'valley',
            path: { start: [2, 0], segments: [{ kind: 'line', to: [2, 14] }] },
          },
        },
        {
          do: 'put',
          in: 'additions',
          id: 'a9',
          value: {
            id: 'a9',
            partId: 'card',
            panelId: 'left',
            line: {
              id: 'added-a9',
              layer: 'guide',
              path: { start: [-30, 20], segments: [{ kind: 'line', to: [-20, 20] }] },
            },
          },
        },
      ],
    },
    inverse: {
      do: 'all',
      commands: [
        { do: 'put', in: 'additions', id: 'a9', value: null },
        { do: 'line', partId: 'p1', id: 'l9', value: null },
      ],
    },
  },
  {
    label: 'Remove Dome',
    command: { do: 'put', in: 'parts', id: 'p1', value: null },
    inverse: { do: 'put', in: 'parts', id: 'p1', value: fixtures[0].design.parts.p1 },
  },
  {
    label: 'Wider',
    command: { do: 'brief', value: { closedWidthMm: 150 } },
    inverse: { do: 'brief', value: { closedWidthMm: 148 } },
  },
];

/** Its waterfall’s strip ended under the flaps, where no hand can grasp it: it is longer now, and what that breaks is said. */
const MENDED = 'meteor-run';

describe('a job of version 1', () => {
  it.each(fixtures.map((fixture) => [fixture.id, fixture] as const))(
    '%s opens, with the same poses, findings and files',
    (_, { design: document, computed }) => {
      const design = opened(document);
      expect(design.schemaVersion).toBe(SCHEMA_VERSION);
      const report = reportOf(checkContext(design));
      const found = report.findings.map(({ key, severity, measured }) => [
        key,
        severity,
        measured === null ? null : Math.round(measured * 1e4) / 1e4,
      ]);
      // What an envelope is made for is not counted against a card any more.
      const byName = (list: readonly (readonly unknown[])[]) =>
        list.map(([key, severity, measured]) => [key, severity, key === 'envelopeFit' ? 0 : measured]);
      if (design.instances.m1?.family === 'waterfall') {
        expect(found.map(([key]) => key)).toEqual(['closedOverhang:m1']);
        return;
      }
      expect(byName(found)).toEqual(byName(computed.findings));
      const files = expand(design).parts.map((part) => [
        part.id,
        fingerprint(writePartSvg(part, 'x', PROFILES[0])),
      ]);
      expect(Object.fromEntries(files)).toEqual(computed.files);
      const { panels } = report.sweep.linkage;
      const poses = [0, 45, 90, 135, 180].flatMap((deg) =>
        panels.flatMap((panel) =>
          [...pointAt(report.sweep, panel, panel.region.outer[0], deg)].map((v) => Math.round(v * 1e3) / 1e3),
        ),
      );
      expect(fingerprint(JSON.stringify(poses))).toBe(computed.poses);
    },
  );

  it('of the demo is the job that the demo makes today, but for what was added since', () => {
    for (const { id, design } of demoJobs()) {
      const fixture = fixtures.find((one) => one.id === id);
      if (!fixture || id === MENDED) continue;
      const then = opened(fixture.design).instances;
      // Measures that were asked for only since are not in the old job.
      const now = Object.fromEntries(
        Object.entries(design.instances).map(([key, instance]) => {
          const params = Object.entries(instance.params).filter(
            ([name]) => name in (then[key]?.params ?? {}),
          );
          return [key, { ...instance, params: Object.fromEntries(params) }];
        }),
      );
      expect(then, id).toEqual(now);
    }
  });

  it('keeps its stored edits: undone and redone they give the same designs', () => {
    const edits = presentEdits(EDITS, fixtures[0].design) as Edit[];
    for (const edit of edits) expect(editSchema.safeParse(edit).error).toBeUndefined();
    let design = opened(fixtures[0].design);
    const before = design;
    for (const { command } of edits) design = applyCommand(design, command).design;
    expect(design.additions.a9.line).toMatchObject({ process: 'mark' });
    expect(design.brief.closedWidthMm).toBe(150);
    for (const { inverse } of [...edits].reverse()) {
      design = applyCommand(design, inverse).design;
      expect(readDesign(JSON.parse(JSON.stringify(design))).ok).toBe(true);
    }
    expect(design).toEqual(before);
  });

  it('whose edits are of the present version already is left alone; what is no list, too', () => {
    const [stored] = fixtures.map(({ design }) => design);
    const edits = presentEdits(EDITS, stored);
    expect(presentEdits(edits, opened(stored))).toEqual(edits);
    expect(presentEdits('broken', stored)).toBe('broken');
    expect(presentEdits([null, 3], stored)).toEqual([null, 3]);
    expect(presentEdits(EDITS, 'nothing')).toBe(EDITS);
  });
});
