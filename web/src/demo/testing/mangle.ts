/** Designs changed at random places, as a bad disk or a hasty hand changes them: for tests of what is refused and what is shown. */
import { seededRandom } from '@hollow-finch/core/geometry/random';
import { demoJobs } from '../jobs.ts';

type Json = null | boolean | number | string | Json[] | { [key: string]: Json };
type Holder = Record<string, Json>;

const NUMBERS = [0, -1, 1, 1e-9, -1e-9, 1e9, -1e9, 1e308, -1e308, 4000, -4000, 0.5, 181, 500, 1e-300];
const TEXTS = ['', 'x', 'card', 'gutter', '__proto__', 'constructor', 'a/b', '\u0000', 'ä'.repeat(400)];

/** Every place in a document, as the object or list that holds it and the key. */
function placesIn(holder: Json, found: [Holder, string][] = []): [Holder, string][] {
  if (typeof holder !== 'object' || holder === null) return found;
  for (const key of Object.keys(holder)) {
    found.push([holder as Holder, key]);
    placesIn((holder as Holder)[key], found);
  }
  return found;
}

/** Changes one place: a number becomes an odd one, a text another's, a branch another branch; or it is gone, or there twice. */
function mangle(document: Json, random: () => number): void {
  const places = placesIn(document).filter(([, key]) => key !== 'schemaVersion');
  const any = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)];
  const [holder, key] = any(places);
  const value = holder[key];
  const others = places.map(([one, at]) => one[at]).filter((other) => typeof other === typeof value);
  if (random() < 0.05) {
    if (Array.isArray(holder)) (holder as Json[]).splice(Number(key), 1);
    else delete holder[key];
  } else if (typeof value === 'number')
    holder[key] = random() < 0.5 ? any(NUMBERS) : value * (random() * 4 - 2);
  else if (typeof value === 'boolean') holder[key] = !value;
  else if (typeof value === 'string') holder[key] = random() < 0.7 ? any(others) : any(TEXTS);
  else if (Array.isArray(value)) value.push(...(structuredClone(value) as Json[]).slice(0, 50));
  else holder[key] = structuredClone(any(others));
}

/** So many mangled designs, each one to three changes away from a demo job's, as JSON has them. The same seed gives the same. */
export function* mangledDesigns(seed: number, count: number): Generator<unknown> {
  const random = seededRandom(seed);
  const jobs = demoJobs();
  for (let n = 0; n < count; n++) {
    const document = structuredClone(jobs[n % jobs.length].design) as unknown as Json;
    for (let times = 1 + Math.floor(random() * 3); times > 0; times--) mangle(document, random);
    yield JSON.parse(JSON.stringify(document));
  }
}
