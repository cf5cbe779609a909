import type { Picture } from '@hollow-finch/core/design/design';
import { laidPicture } from '@hollow-finch/core/mechanisms/pictures';
import { Button, FileButton, Select, UnstyledButton } from '@mantine/core';
import { useEffect, useState } from 'react';
import { AngleField } from '../../../shared/fields/AngleField.tsx';
import { CountField } from '../../../shared/fields/CountField.tsx';
import { LengthField } from '../../../shared/fields/LengthField.tsx';
import { faultWords } from '../../../shared/helper.ts';
import { sayFault } from '../../../shared/sayFault.ts';
import { useJob } from '../../../shared/store/jobStore.ts';
import { useLengths } from '../../../shared/units.ts';
import { besideAll } from '../layout.ts';
import { readImage } from './imageFile.ts';
import { pictureAdded, pictureRemoved, picturesOf } from './pictureEdits.ts';
import { usePictures } from './pictureStore.ts';

/** The measures of one picture. */
function PictureFields({ picture }: { picture: Picture }) {
  const design = useJob((s) => s.calm);
  const [measuredMm, setMeasured] = useState(100);
  const { edit } = useJob.getState();
  const put = (label: string, change: Partial<Picture>) =>
    edit(label, { do: 'put', in: 'pictures', id: picture.id, value: { ...picture, ...change } });
  const laid = laidPicture(design, picture);
  const [x, y] = picture.at;
  return (
    <div className="fields">
      <LengthField
        label="Picture wide"
        valueMm={picture.widthMm}
        minMm={1}
        maxMm={4000}
        onCommit={(widthMm) => put('Scale a picture', { widthMm })}
      />
      {laid && (
        <LengthField
          label="Picture high"
          valueMm={laid.heightMm}
          minMm={1}
          maxMm={4000}
          onCommit={(mm) =>
            put('Scale a picture', {
              widthMm: Math.min(4000, Math.max(1, (picture.widthMm * mm) / laid.heightMm)),
            })
          }
        />
      )}
      <LengthField
        label="Picture middle x"
        valueMm={x}
        onCommit={(mm) => put('Move a picture', { at: [mm, y] })}
      />
      <LengthField
        label="Picture middle y"
        valueMm={y}
        onCommit={(mm) => put('Move a picture', { at: [x, mm] })}
      />
      <AngleField
        label="Picture turned"
        valueDeg={picture.turnDeg}
        onCommit={(turnDeg) => put('Turn a picture', { turnDeg })}
      />
      <CountField
        label="Shown, %"
        min={5}
        max={100}
        value={Math.round(picture.strength * 100)}
        onCommit={(share) => put('How strongly a picture is shown', { strength: share / 100 })}
      />
      <Select
        label="Used as"
        allowDeselect={false}
        value={picture.use}
        data={[
          { value: 'backdrop', label: 'Backdrop to draw after' },
          ...(picture.partId === null ? [] : [{ value: 'artwork', label: 'Artwork, seen in Fold' }]),
        ]}
        onChange={(use) => use && put('What a picture is for', { use: use as Picture['use'] })}
      />
      {picture.partId !== null && (
        <Select
          label="Lies on the"
          allowDeselect={false}
          value={picture.face}
          data={[
            { value: 'front', label: 'Front' },
            { value: 'back', label: 'Back' },
          ]}
          onChange={(face) => face && put('Side of a picture', { face: face as Picture['face'] })}
        />
      )}
      <LengthField
        label="What measures so much"
        hint="Measured on the board, with the measuring tool: a distance in the picture that you know."
        valueMm={measuredMm}
        minMm={0.1}
        maxMm={4000}
        onCommit={setMeasured}
      />
      <LengthField
        key={`${picture.id} ${picture.widthMm} ${measuredMm}`}
        label="Is really so much"
        hint="The picture is scaled so that it is."
        valueMm={measuredMm}
        minMm={0.1}
        maxMm={4000}
        onCommit={(mm) =>
          put('Scale a picture by a known length', {
            widthMm: Math.min(4000, Math.max(1, (picture.widthMm * mm) / measuredMm)),
          })
        }
      />
      <Button
        variant="default"
        onClick={() => {
          edit(`Take ${picture.name} away`, pictureRemoved(useJob.getState().design, picture));
          usePictures.setState({ chosen: null });
        }}
      >
        Take the picture away
      </Button>
    </div>
  );
}

/** Pictures on a part, or on the board: brought in as PNG or JPEG, to draw after or as artwork. */
export default function PictureSection({ partId }: { partId: string | null }) {
  const design = useJob((s) => s.calm);
  const { say } = useLengths();
  const chosen = usePictures((s) => s.chosen);
  const [busy, setBusy] = useState(false);
  const pictures = picturesOf(design, partId);
  useEffect(() => () => usePictures.setState({ chosen: null }), [partId]);
  const bring = async (file: File | null) => {
    if (!file) return;
    setBusy(true);
    try {
      const image = await readImage(file);
      const { design: now, edit } = useJob.getState();
      const beside = besideAll(now, 60);
      const made = pictureAdded(now, partId, image, [beside.x + 60, beside.y + 60]);
      if ('refused' in made) throw new Error(made.refused);
      edit(`Bring in ${image.name}`, made.command);
      usePictures.setState({ chosen: made.id });
    } catch (fault) {
      sayFault(faultWords(fault));
    } finally {
      setBusy(false);
    }
  };
  const one = pictures.find(({ id }) => id === chosen);
  return (
    <section aria-label="Pictures" className="shaping">
      <h3>Pictures</h3>
      {pictures.length > 0 && (
        <ul className="plain-list">
          {pictures.map((picture) => (
            <li key={picture.id}>
              <UnstyledButton
                className="row-button"
                aria-pressed={chosen === picture.id}
                onClick={() => usePictures.setState({ chosen: chosen === picture.id ? null : picture.id })}
              >
                {picture.name}{' '}
                <span className="quiet">
                  {picture.use}, {say(picture.widthMm)} wide
                </span>
              </UnstyledButton>
            </li>
          ))}
        </ul>
      )}
      {one && <PictureFields key={one.id} picture={one} />}
      <FileButton accept="image/png,image/jpeg" onChange={(file) => void bring(file)}>
        {(props) => (
          <Button {...props} size="compact-sm" variant="default" loading={busy}>
            {partId === null ? 'A picture to draw after' : 'Lay a picture on it'}
          </Button>
        )}
      </FileButton>
      <p className="quiet">PNG or JPEG. A picture is looked at, never cut; it stays in this job.</p>
    </section>
  );
}
