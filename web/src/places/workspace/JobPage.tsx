import { Studio } from '../../shared/Studio.tsx';
import { Workspace } from './Workspace.tsx';

export function JobPage({ id }: { id: string }) {
  return (
    <Studio>
      <Workspace id={id} />
    </Studio>
  );
}
