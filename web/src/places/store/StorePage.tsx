import { Studio } from '../../shared/Studio.tsx';
import { StorePlace } from './Store.tsx';

export function StorePage() {
  return (
    <Studio>
      <StorePlace />
    </Studio>
  );
}
