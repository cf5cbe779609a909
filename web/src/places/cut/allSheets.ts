/** All sheets of a design at once: those that are alike are one file, with the number of times that it is cut. */
import { profileIn, toolsOf } from '@hollow-finch/core/cutting/profile';
import { expand } from '@hollow-finch/core/mechanisms/expand';
import { alikeSheets as groupsOfSheets } from '@hollow-finch/core/sheets/leftOver';
import type { Design } from '@hollow-finch/core/design/design';
import type { MarksMade } from '@hollow-finch/core/formats/svgWrite';
import { strToU8, zipSync } from 'fflate';
import { fileNameOf } from '../../shared/fileName.ts';
import { fileTitle, subjectsOf, type Subject } from './subjects.ts';
import { svgOf } from './subjectSvg.ts';

export interface AlikeSheets {
  /** The first of them. */
  readonly subject: Subject;
  /** The numbers of all of them, from 1. */
  readonly numbers: readonly number[];
}

/** Which sheets of a design are cut from one and the same file: alike in every line and place, whichever copies lie there. */
export function alikeSheets(design: Design): AlikeSheets[] {
  const subjects = subjectsOf(design);
  return groupsOfSheets(design.sheetPlan?.sheets ?? []).map((group) => ({
    subject: subjects.find(({ id }) => id === `sheet:${group[0]}`)!,
    numbers: group.map((i) => i + 1),
  }));
}

/** How often a sheet is cut, in words. */
export const timesWords = (count: number): string => (count === 1 ? 'cut once' : `cut ${count} times`);

export interface SheetFile {
  readonly name: string;
  readonly title: string;
  readonly subject: Subject;
  readonly svg: string;
  readonly times: number;
}

/** The files of all sheets, each alike one once. */
export function sheetFiles(
  design: Design,
  revision: number,
  profileId: string,
  marks: MarksMade,
): SheetFile[] {
  const profile = profileIn(expand(design).store, profileId);
  return alikeSheets(design).map(({ subject, numbers }) => {
    const title = `${fileTitle(design, subject)}${numbers.length > 1 ? `, ${timesWords(numbers.length)}` : ''}`;
    return {
      name: `${fileNameOf(`${subject.title} ${timesWords(numbers.length)}`)}.svg`,
      title,
      subject,
      svg: svgOf(subject, { profile, marks }, `${title}, revision ${revision}`),
      times: numbers.length,
    };
  });
}

/** The files in one archive, with a list of what is cut how often. */
export function sheetArchive(design: Design, revision: number, files: readonly SheetFile[]): Uint8Array {
  const list = [
    `${design.name}, revision ${revision}`,
    '',
    ...files.map(({ name, times, title }) => `${name}: ${timesWords(times)} (${title})`),
    '',
  ].join('\r\n');
  return zipSync(
    Object.fromEntries([
      ['cut-list.txt', strToU8(list)],
      ...files.map(({ name, svg }) => [name, strToU8(svg)] as const),
    ]),
  );
}

/**
 * The files of a subject for each tool that has something to make, in the order in which they are run; in one archive with that
 * order as a list.
 */
export function toolArchive(
  design: Design,
  revision: number,
  subject: Subject,
  profileId: string,
  marks: MarksMade,
): { readonly bytes: Uint8Array; readonly tools: readonly string[] } {
  const profile = profileIn(expand(design).store, profileId);
  const title = `${fileTitle(design, subject)}, revision ${revision}`;
  const files = toolsOf(profile).flatMap(({ tool }) => {
    const svg = svgOf(subject, { profile, marks, tool }, `${title}, ${tool}`);
    return /<path /.test(svg.replace(/<g id="registration"[\s\S]*?<\/g>/, '')) ? [{ tool, svg }] : [];
  });
  const named = files.map(({ tool, svg }, i) => [`${i + 1}-${fileNameOf(tool)}.svg`, svg] as const);
  const list = [title, '', ...named.map(([name], i) => `${i + 1}. ${files[i].tool}: ${name}`), ''].join(
    '\r\n',
  );
  return {
    bytes: zipSync(
      Object.fromEntries([
        ['tools.txt', strToU8(list)],
        ...named.map(([name, svg]) => [name, strToU8(svg)] as const),
      ]),
    ),
    tools: files.map(({ tool }) => tool),
  };
}
