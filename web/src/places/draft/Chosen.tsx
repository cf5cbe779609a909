import { useJob, type Selection } from '../../shared/store/jobStore.ts';
import { InstanceParticulars } from './InstanceParticulars.tsx';
import { LineParticulars } from './LineParticulars.tsx';
import { Several } from './Several.tsx';
import { PartParticulars } from './PartParticulars.tsx';

/** Everything about what is chosen on the board. */
export default function Chosen({ selection }: { selection: NonNullable<Selection> }) {
  const instance = useJob((s) =>
    selection.kind === 'instance' ? s.calm.instances[selection.id] : undefined,
  );
  switch (selection.kind) {
    case 'instance':
      return instance ? <InstanceParticulars instance={instance} /> : null;
    case 'line':
      return (
        <LineParticulars
          key={`${selection.partId}/${selection.id}`}
          partId={selection.partId}
          lineId={selection.id}
        />
      );
    case 'several':
      return <Several selection={selection} />;
    case 'part':
      return <PartParticulars key={selection.id} partId={selection.id} />;
  }
}
