import { FAMILIES } from '@hollow-finch/core/mechanisms/registry';
import { STRUCTURES } from '@hollow-finch/core/mechanisms/structures/all';
import { Button, Mark, TextInput } from '@mantine/core';
import { useEffect, useMemo, useState } from 'react';
import { FIRST_JOB, setFirstJobStep } from '../../shared/firstJob.ts';
import { IconSearch } from '../../shared/icons.ts';
import { PageHead } from '../../shared/PageHead.tsx';
import { CHAPTERS, type Chapter } from './chapters.ts';
import { FamilyPage } from './FamilyPage.tsx';
import { FAMILY_NOTES } from './familyNotes.ts';
import '../shelf/shelf.css';
import './help.css';

const ALL = [...FAMILIES, ...STRUCTURES];

/** A text with the words that were searched for marked. */
function Marked({ text, words }: { text: string; words: readonly string[] }) {
  if (words.length === 0) return text;
  const pattern = new RegExp(
    `(${words.map((word) => word.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')).join('|')})`,
    'gi',
  );
  return text.split(pattern).map((piece, i) => (i % 2 === 1 ? <Mark key={i}>{piece}</Mark> : piece));
}

const holds = (text: string, words: readonly string[]): boolean =>
  words.every((word) => text.toLowerCase().includes(word));

function ChapterText({ chapter, words }: { chapter: Chapter; words: readonly string[] }) {
  return (
    <article id={chapter.id} aria-label={chapter.title}>
      <h2>
        <Marked text={chapter.title} words={words} />
      </h2>
      {chapter.paragraphs.map((text) => (
        <p key={text}>
          <Marked text={text} words={words} />
        </p>
      ))}
    </article>
  );
}

const fromAddress = (): string => decodeURIComponent(window.location.hash.slice(1));

/** The help: the craft in a maker’s words, with search; and a page for each mechanism. */
export function Help() {
  const [search, setSearch] = useState('');
  const [place, setPlace] = useState(fromAddress);
  useEffect(() => {
    const moved = () => setPlace(fromAddress());
    window.addEventListener('hashchange', moved);
    return () => window.removeEventListener('hashchange', moved);
  }, []);
  const words = useMemo(() => search.toLowerCase().split(/\s+/).filter(Boolean), [search]);
  const chapters = CHAPTERS.filter(({ title, paragraphs }) => holds([title, ...paragraphs].join(' '), words));
  const families = ALL.filter(({ id, title, purpose, specs }) => {
    const note = FAMILY_NOTES[id];
    return holds(
      [title, purpose, ...specs.map(({ label }) => label), note?.inspect ?? '', note?.wrong ?? ''].join(' '),
      words,
    );
  });
  const family = words.length === 0 ? ALL.find(({ id }) => place === `family-${id}`) : undefined;
  const chapter = words.length === 0 ? CHAPTERS.find(({ id }) => id === place) : undefined;
  return (
    <main className="shelf">
      <PageHead title="Help" />
      <div className="shelf-body help">
        <nav aria-label="Chapters">
          <TextInput
            aria-label="Search the help"
            placeholder="Search"
            leftSection={<IconSearch size={14} />}
            value={search}
            onChange={(event) => setSearch(event.currentTarget.value)}
          />
          <h2>The craft</h2>
          <ul className="plain-list">
            {chapters.map(({ id, title }) => (
              <li key={id}>
                <a
                  href={`#${id}`}
                  aria-current={id === place ? 'true' : undefined}
                  onClick={() => setSearch('')}
                >
                  {title}
                </a>
              </li>
            ))}
          </ul>
          <h2>Mechanisms</h2>
          <ul className="plain-list">
            {families.map(({ id, title }) => (
              <li key={id}>
                <a
                  href={`#family-${id}`}
                  aria-current={place === `family-${id}` ? 'true' : undefined}
                  onClick={() => setSearch('')}
                >
                  {title}
                </a>
              </li>
            ))}
          </ul>
        </nav>
        <div className="help-text">
          {family ? (
            <FamilyPage key={family.id} family={family} />
          ) : chapter ? (
            <ChapterText chapter={chapter} words={[]} />
          ) : words.length > 0 ? (
            <>
              {chapters.length + families.length === 0 && (
                <p className="quiet">Nothing of that is in the help: try another word.</p>
              )}
              {chapters.map((each) => (
                <ChapterText key={each.id} chapter={each} words={words} />
              ))}
              {families.map(({ id, title, purpose }) => (
                <article key={id}>
                  <h2>
                    <a href={`#family-${id}`} onClick={() => setSearch('')}>
                      <Marked text={title} words={words} />
                    </a>
                  </h2>
                  <p>
                    <Marked text={purpose} words={words} />
                  </p>
                </article>
              ))}
            </>
          ) : (
            <>
              <article>
                <h2>A guided first job</h2>
                <p>
                  Ten minutes with “Dome Night”, from its fold to its build sheet. Nothing can be broken: each
                  step can be skipped, and Escape ends it.
                </p>
                <Button component="a" href={`/job/${FIRST_JOB}/draft`} onClick={() => setFirstJobStep(0)}>
                  Begin the first job
                </Button>
              </article>
              {CHAPTERS.map((each) => (
                <ChapterText key={each.id} chapter={each} words={[]} />
              ))}
            </>
          )}
        </div>
      </div>
    </main>
  );
}
