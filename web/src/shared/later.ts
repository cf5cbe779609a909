/** Parts of a page that are loaded when they are first shown. */
import { lazy, type ComponentType } from 'react';

/** While the server is away it is asked again so often, ms, and so many times. */
const AGAIN_MS = 1000;
const TRIES = 30;

/**
 * What is loaded, asked for again where it did not come: a server that is away for a moment takes nothing from the page.
 *
 * @throws what went wrong at last
 */
export async function loaded<T>(load: () => Promise<T>, againMs = AGAIN_MS, tries = TRIES): Promise<T> {
  for (let k = 1; ; k++)
    try {
      return await load();
    } catch (fault) {
      if (k >= tries) throw fault;
      await new Promise((resolve) => setTimeout(resolve, againMs));
    }
}

/** As `lazy`, of what may not come at once. */
// eslint-disable-next-line @typescript-eslint/no-explicit-any -- as React's own: a component of any properties.
export const later = <T extends ComponentType<any>>(load: () => Promise<{ default: T }>) =>
  lazy(() => loaded(load));
