import type { ReactNode } from 'react';
import { SchemeSwitch, UnitSwitch } from './Switches.tsx';

/** The head of a page beside the shelf: the way back, what it is, the unit and the light. */
export function PageHead({ title, children }: { title: string; children?: ReactNode }) {
  return (
    <div className="shelf-head">
      <div className="mark">
        <a href="/" className="rail-home">
          <img src="/finch.svg" alt="" width="24" height="24" /> Shelf
        </a>
        <h1>{title}</h1>
      </div>
      <div className="shelf-tools">
        {children}
        <UnitSwitch />
        <SchemeSwitch />
      </div>
    </div>
  );
}
