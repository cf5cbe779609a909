import { cutOrder } from '@hollow-finch/core/cutting/order';
import type { PaperName } from '@hollow-finch/core/formats/pdfPage';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { Button, Group, Select } from '@mantine/core';
import { useState } from 'react';
import { saidOf } from '../../shared/api.ts';
import { download } from '../../shared/download.ts';
import { fileNameOf } from '../../shared/fileName.ts';
import { IconDownload } from '../../shared/icons.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { useUnit } from '../../shared/units.ts';
import type { Subject } from './subjects.ts';

const PAPER_NAMES: readonly { value: PaperName; label: string }[] = [
  { value: 'a4', label: 'A4' },
  { value: 'a3', label: 'A3' },
  { value: 'letter', label: 'Letter' },
];

/** What is printed: lines in true size, all parts on a page, the drawing with its measures. */
export default function PaperSection({ subject, withMarks }: { subject: Subject; withMarks: boolean }) {
  const [unit] = useUnit();
  const [paper, setPaper] = useState<PaperName>(unit === 'in' ? 'letter' : 'a4');
  const [busy, setBusy] = useState(false);
  const save = async (make: () => Promise<void>) => {
    setBusy(true);
    try {
      await make();
    } catch (fault) {
      sayFault(saidOf(fault), 'No file was made');
    } finally {
      setBusy(false);
    }
  };
  const trueSize = async () => {
    const { writePdf } = await import('@hollow-finch/core/formats/pdfWrite');
    const { design, revision } = useJob.getState();
    const title = `${design.name}, ${subject.title}, revision ${revision}`;
    download(
      `${fileNameOf(title)}.pdf`,
      await writePdf(cutOrder(subject.pieces, withMarks), { title, paper, unit }),
      'application/pdf',
    );
  };
  const parts = async () => {
    const { writePartsPdf } = await import('@hollow-finch/core/formats/pdfWrite');
    const { design, revision } = useJob.getState();
    const title = `${design.name}, parts, revision ${revision}`;
    download(
      `${fileNameOf(title)}.pdf`,
      await writePartsPdf(expand(design).parts, { title, paper, unit }),
      'application/pdf',
    );
  };
  const drawing = async () => {
    const { writeDrawing } = await import('@hollow-finch/core/formats/drawingWrite');
    const { design } = useJob.getState();
    const svg = writeDrawing(expand(design).parts, Object.values(design.dimensions), {
      title: design.name,
      unit,
    });
    download(`${fileNameOf(design.name)}-measures.svg`, svg, 'image/svg+xml');
  };
  return (
    <section aria-label="On paper">
      <h2>On paper</h2>
      <p className="quiet">
        To print and to file. What is larger than a page goes on several, with marks where they are glued
        together and a bar that tells whether the printer has scaled.
      </p>
      <Select
        label="Paper to print on"
        allowDeselect={false}
        value={paper}
        data={[...PAPER_NAMES]}
        onChange={(value) => value && setPaper(value as PaperName)}
      />
      <Group gap={8} mt={8}>
        <Button
          variant="default"
          leftSection={<IconDownload size={16} />}
          loading={busy}
          onClick={() => void save(trueSize)}
        >
          Save as PDF, true size
        </Button>
        <Button variant="default" disabled={busy} onClick={() => void save(parts)}>
          Save the parts sheet
        </Button>
        <Button variant="default" disabled={busy} onClick={() => void save(drawing)}>
          Save the drawing with measures
        </Button>
      </Group>
    </section>
  );
}
