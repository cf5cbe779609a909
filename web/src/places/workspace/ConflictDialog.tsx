import { openingOf } from '@hollow-finch/core/design/frames';
import type { Design } from '@hollow-finch/core/design/design';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Group, Modal } from '@mantine/core';
import { useEffect, useState } from 'react';
import { FoldedPicture } from '../../shared/FoldedPicture.tsx';
import { saidOf } from '../../shared/api.ts';
import { autosave } from '../../shared/store/autosave.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { reportWorker } from '../../shared/store/reporter.ts';
import type { TimedReport } from '../../workers/report.worker.ts';

function Version({ title, design, note }: { title: string; design: Design; note: string }) {
  const [report, setReport] = useState<TimedReport | null>(null);
  useEffect(() => {
    void reportWorker()
      .report(design)
      .then(setReport, () => setReport(null));
  }, [design]);
  const parts = expand(design).parts.length;
  return (
    <section className="version">
      <h3>{title}</h3>
      <div className="version-picture">
        {report && <FoldedPicture sweep={report.sweep} opening={openingOf(design)} deg={105} label={title} />}
      </div>
      <p className="figure">
        {design.name}: {parts} parts, {Object.keys(design.instances).length} mechanisms
      </p>
      <p className="quiet">{note}</p>
    </section>
  );
}

/** Two windows saved the same job: both are shown, and a person decides. Neither is lost: every saved state is kept. */
export default function ConflictDialog() {
  const save = useJob((s) => s.save);
  const design = useJob((s) => s.design);
  const [failure, setFailure] = useState<string | null>(null);
  if (save.kind !== 'conflict') return null;
  const { theirs } = save;
  const resolve = (keep: 'mine' | 'theirs') => {
    setFailure(null);
    autosave.resolve(keep).catch((fault: unknown) => setFailure(saidOf(fault)));
  };
  return (
    <Modal
      opened
      onClose={() => undefined}
      withCloseButton={false}
      size="xl"
      title="This job was saved elsewhere meanwhile"
    >
      <div className="versions">
        <Version title="In this window" design={design} note="Not saved yet." />
        <Version
          title={`Saved as revision ${theirs.revision}`}
          design={theirs.design}
          note={`Saved ${new Date(theirs.updatedAt).toLocaleString()}.`}
        />
      </div>
      {failure && (
        <p role="alert" className="wrong">
          {failure} Nothing was changed; try again.
        </p>
      )}
      <Group justify="end" mt="md">
        <Button variant="default" onClick={() => resolve('theirs')}>
          Take the saved one, and put this one aside
        </Button>
        <Button onClick={() => resolve('mine')}>Keep this one, as revision {theirs.revision + 1}</Button>
      </Group>
    </Modal>
  );
}
