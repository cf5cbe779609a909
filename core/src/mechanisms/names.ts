/** What parts and panels are called: as a maker would, no word said twice. */

/** A name without the number that tells it from others of its kind, in the singular. */
const stem = (name: string): string => name.toLowerCase().replace(/ \d+$/, '').replace(/s$/, '');

/** Whether a name says already what a title would add. */
const says = (name: string, title: string): boolean =>
  title === '' || stem(name) === stem(title) || stem(name).endsWith(` ${stem(title)}`);

/** What a part of a mechanism is called: after the mechanism, unless that says it already. */
export function partName(mechanism: string, title: string): string {
  const number = / \d+$/.exec(title)?.[0];
  if (!says(mechanism, title)) return `${mechanism} ${title}`;
  if (!number) return mechanism;
  // One of several: “Sky mats” has “Sky mat 2”; of “Mats 3” it is told apart by a comma.
  return / \d+$/.test(mechanism) ? `${mechanism}, ${title}` : `${mechanism.replace(/s$/, '')}${number}`;
}

/** A part and one of its panels. */
export const panelName = (part: string, panel: string): string =>
  says(part, panel) ? part : `${part}: ${panel}`;
