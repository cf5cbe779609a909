/** XML of files by others as a tree, read without following anything outside it, within limits. */
import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { NotReadable, READ_LIMITS } from './drawing.ts';

export interface Element {
  readonly name: string;
  readonly attributes: ReadonlyMap<string, string>;
  readonly children: Element[];
  readonly parent: Element | null;
  /** The text that it holds itself, for style sheets. */
  text: string;
}

/** The name without its prefix, in small letters where only those are meant. */
export const localName = (name: string): string => name.slice(name.indexOf(':') + 1);

/** So much may all entities make together, characters. */
const MOST_ENTITY_TEXT = 1_000_000;
const PLAIN_ENTITY = /<!ENTITY\s+([^\s%"'>]+)\s+(?:"([^"]*)"|'([^']*)')\s*>/g;

/** Entities that a document defines for itself, expanded; those that are kept outside, or that contain themselves, are not. */
function entitiesOf(doctype: string): Record<string, string> {
  const raw = new Map<string, string>();
  for (const [, name, double, single] of doctype.matchAll(PLAIN_ENTITY))
    raw.set(name, double ?? single ?? '');
  const out: Record<string, string> = Object.create(null) as Record<string, string>;
  let total = 0;
  const expand = (name: string, within: readonly string[]): string => {
    if (within.includes(name))
      throw new NotReadable(`Its entity “${name}” contains itself: it cannot be read.`);
    const value = raw.get(name) ?? '';
    const made = value.replace(/&([^#;\s]+);/g, (whole, inner: string) =>
      raw.has(inner) ? expand(inner, [...within, name]) : whole,
    );
    total += made.length;
    if (total > MOST_ENTITY_TEXT)
      throw new NotReadable('Its entities grow beyond all measure when they are expanded: it is refused.');
    return made;
  };
  for (const name of raw.keys()) out[name] = expand(name, []);
  return out;
}

/**
 * Reads XML.
 *
 * @returns its root element
 * @throws NotReadable where it is no XML, or too large or too deep
 */
export function readXml(text: string): Element {
  const parser = new SaxesParser({ xmlns: false, fragment: false });
  let [root, current, depth, count]: [Element | null, Element | null, number, number] = [null, null, 0, 0];
  let broken: string | undefined;
  parser.on('doctype', (doctype) => Object.assign(parser.ENTITIES, entitiesOf(doctype)));
  parser.on('error', (error) => {
    // An entity that is not defined is left out; anything else ends the reading.
    if (/undefined entity|namespace|unbound/i.test(error.message)) return;
    broken ??= error.message;
  });
  parser.on('opentag', (tag: SaxesTagPlain) => {
    if (broken !== undefined) return;
    depth += 1;
    count += 1;
    if (depth > READ_LIMITS.depth)
      throw new NotReadable(
        `Its elements lie more than ${READ_LIMITS.depth} deep in each other: it is refused.`,
      );
    if (count > READ_LIMITS.elements)
      throw new NotReadable(
        `It has more than ${READ_LIMITS.elements.toLocaleString('en')} elements: bring in a part of it.`,
      );
    const element: Element = {
      name: tag.name,
      attributes: new Map(Object.entries(tag.attributes)),
      children: [],
      parent: current,
      text: '',
    };
    if (current) current.children.push(element);
    else root ??= element;
    current = element;
  });
  parser.on('closetag', () => {
    depth -= 1;
    current = current?.parent ?? null;
  });
  const words = (more: string): void => {
    if (current) current.text += more;
  };
  parser.on('text', words);
  parser.on('cdata', words);
  parser.write(text).close();
  if (!root) throw new NotReadable(`It is no drawing: ${broken ?? 'there is no element in it'}.`);
  if (broken !== undefined)
    throw new NotReadable(`It is broken: ${broken.replace(/\s+/g, ' ').slice(0, 200)}.`);
  return root;
}
