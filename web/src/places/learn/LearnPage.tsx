import { Studio } from '../../shared/Studio.tsx';
import { Learn } from './Learn.tsx';

export function LearnPage() {
  return (
    <Studio>
      <Learn />
    </Studio>
  );
}
