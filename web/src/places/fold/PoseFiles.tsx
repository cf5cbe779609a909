import type { Sweep } from '@hollow-finch/core/motion/sweep';
import { Button, Select } from '@mantine/core';
import { useState } from 'react';
import { saidOf } from '../../shared/api.ts';
import { download } from '../../shared/download.ts';
import { fileNameOf } from '../../shared/fileName.ts';
import { IconDownload } from '../../shared/icons.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';

const KINDS = {
  glb: { label: 'glTF (coloured sheets)', type: 'model/gltf-binary' },
  obj: { label: 'OBJ (sheets)', type: 'model/obj' },
  stl: { label: 'STL (plates as thick as the paper)', type: 'model/stl' },
  fold: { label: 'FOLD (creases, and this pose)', type: 'application/json' },
} as const;
type Kind = keyof typeof KINDS;

/** The pose that is seen now, saved for other programs. */
export function PoseFiles({ sweep, deg, placeWords }: { sweep: Sweep; deg: number; placeWords: string }) {
  const [kind, setKind] = useState<Kind>('glb');
  const save = async () => {
    try {
      const write = await import('@hollow-finch/core/formats/poseWrite');
      const { writeFold } = await import('@hollow-finch/core/formats/foldWrite');
      const { design, revision } = useJob.getState();
      const content = {
        glb: () => write.writeGlb(sweep, deg),
        obj: () => write.writeObj(sweep, deg),
        stl: () => write.writeStl(sweep, deg),
        fold: () => writeFold(sweep, deg, design.name),
      }[kind]();
      download(
        `${fileNameOf(`${design.name} at ${placeWords}, revision ${revision}`)}.${kind}`,
        content,
        KINDS[kind].type,
      );
    } catch (fault) {
      sayFault(saidOf(fault), 'No file was made');
    }
  };
  return (
    <>
      <p className="quiet">As it stands now, at {placeWords}: what hangs together, in true size.</p>
      <Select
        label="Format"
        allowDeselect={false}
        value={kind}
        data={Object.entries(KINDS).map(([value, { label }]) => ({ value, label }))}
        onChange={(value) => value && setKind(value as Kind)}
      />
      <Button mt={8} variant="default" leftSection={<IconDownload size={16} />} onClick={() => void save()}>
        Save the pose
      </Button>
    </>
  );
}
