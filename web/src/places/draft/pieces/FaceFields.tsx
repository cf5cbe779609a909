import { LONGEST_TEXT } from '@hollow-finch/core/words/outline';
import { FileInput, Select, Textarea } from '@mantine/core';
import { FACES } from '../../../shared/faces.ts';

/** What a word says, and in which face: one that ships, or a file of a person's own. */
export interface Lettering {
  readonly text: string;
  readonly face: string;
  readonly file: File | null;
}

export const USUAL_LETTERING: Lettering = { text: 'Moon', face: FACES[0].id, file: null };

/** The fields of a word and its face. */
export function FaceFields({ value, onChange }: { value: Lettering; onChange: (value: Lettering) => void }) {
  return (
    <>
      <Textarea
        className="wide"
        label="Word"
        autosize
        minRows={1}
        maxRows={4}
        maxLength={LONGEST_TEXT}
        value={value.text}
        onChange={(event) => onChange({ ...value, text: event.currentTarget.value })}
      />
      <Select
        className="wide"
        label="Face"
        value={value.face}
        disabled={value.file !== null}
        data={FACES.map(({ id, name }) => ({ value: id, label: name }))}
        onChange={(face) => face && onChange({ ...value, face })}
      />
      <FileInput
        className="wide"
        size="xs"
        label="Or a font file of your own"
        placeholder="None"
        accept=".ttf,.otf,.woff"
        clearable
        value={value.file}
        onChange={(file) => onChange({ ...value, file })}
      />
    </>
  );
}
