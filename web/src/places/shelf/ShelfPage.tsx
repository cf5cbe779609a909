import { Studio } from '../../shared/Studio.tsx';
import { Shelf } from './Shelf.tsx';

export function ShelfPage() {
  return (
    <Studio>
      <Shelf />
    </Studio>
  );
}
