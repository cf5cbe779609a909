/** What alone is printed of a page (brief.css). */
const ALONE = 'print-alone';

/** Prints one section of the page, in place of what else would be printed of it. */
export function printAlone(section: Element): void {
  const others = [...document.querySelectorAll(`.${ALONE}`)].filter((other) => other !== section);
  const swap = (on: Element[], off: Element[]) => {
    for (const element of off) element.classList.remove(ALONE);
    for (const element of on) element.classList.add(ALONE);
  };
  swap([section], others);
  window.print();
  swap(others, [section]);
}
