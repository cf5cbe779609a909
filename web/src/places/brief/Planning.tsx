import { Accordion } from '@mantine/core';
import { Suspense, useState, type ReactNode } from 'react';
import { useJob } from '../../shared/store/jobStore.ts';
import { later } from '../../shared/later.ts';
import CuttingList from './CuttingList.tsx';
import MatsSection from './MatsSection.tsx';
import PostSection from './PostSection.tsx';
import SizesSection from './SizesSection.tsx';

const Holders = later(() => import('./Holders.tsx'));

/** What follows from the brief: mats, a list to cut by, the sizes that suit, what holds it, and how it is posted. */
export default function Planning() {
  const kind = useJob((s) => s.shown.base.kind);
  const [open, setOpen] = useState<string[]>([]);
  const sections: readonly (readonly [string, string, ReactNode])[] = [
    ['list', 'Cutting list', <CuttingList key="list" />],
    ...(kind === 'structure' ? [] : ([['mats', 'Mats of every panel', <MatsSection key="mats" />]] as const)),
    ...(kind === 'card' ? ([['sizes', 'Which sizes it suits', <SizesSection key="sizes" />]] as const) : []),
    [
      'holders',
      'What holds it',
      <Suspense key="holders" fallback={<p className="quiet">One moment…</p>}>
        <Holders />
      </Suspense>,
    ],
    ['post', 'Post', <PostSection key="post" />],
  ];
  return (
    <Accordion multiple variant="default" order={2} className="planning" value={open} onChange={setOpen}>
      {sections.map(([value, title, content]) => (
        <Accordion.Item key={value} value={value} data-section={value}>
          <Accordion.Control>
            <span className="section-title title-face">{title}</span>
          </Accordion.Control>
          <Accordion.Panel>{open.includes(value) && content}</Accordion.Panel>
        </Accordion.Item>
      ))}
    </Accordion>
  );
}
