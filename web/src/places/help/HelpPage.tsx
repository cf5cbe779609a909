import { Studio } from '../../shared/Studio.tsx';
import { Help } from './Help.tsx';

export function HelpPage() {
  return (
    <Studio>
      <Help />
    </Studio>
  );
}
