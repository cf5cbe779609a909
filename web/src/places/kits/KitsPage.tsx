import { Studio } from '../../shared/Studio.tsx';
import { Kits } from './Kits.tsx';

export function KitsPage() {
  return (
    <Studio>
      <Kits />
    </Studio>
  );
}
