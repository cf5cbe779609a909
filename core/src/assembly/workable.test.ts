/** Orders of joining against all orders that there are. */
import { expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { lostByWalking, orders, works } from './testing/orders.ts';
import { lostPlaces, workableOrder, type JoinPlace } from './workable.ts';

it('finds an order wherever there is one, among 400 random lots of parts tried in every order', () => {
  const random = seededRandom(14);
  const pick = (n: number) => Math.floor(random() * n);
  let [possible, impossible] = [0, 0];
  for (let round = 0; round < 400; round++) {
    const parts = Array.from({ length: 3 + pick(3) }, (_, i) => `p${i}`);
    const places: JoinPlace[] = Array.from({ length: 3 + pick(4) }, (_, i) => {
      const partId = parts[1 + pick(parts.length - 1)];
      const others = parts.filter((id) => id !== partId);
      const hostPartId = others[pick(others.length)];
      return {
        id: `j${i}`,
        partId,
        hostPartId,
        through: random() < 0.2,
        under: new Map(
          parts
            .filter((id) => id !== partId && id !== hostPartId && random() < 0.3)
            .map((id) => [id, new Set(['j0', 'j1', 'j2', 'j3', 'j4', 'j5'].filter(() => random() < 0.7))]),
        ),
      };
    });
    const found = workableOrder(places);
    expect(new Set(found.order.map(({ id }) => id)).size).toBe(places.length);
    const start = lostByWalking(places, []);
    const any = !start && [...orders(places)].some((order) => works(places, order));
    expect(found.workable).toBe(any);
    expect(works(places, found.order) && !start).toBe(any);
    if (any) possible++;
    else impossible++;
  }
  expect(possible).toBeGreaterThan(40);
  expect(impossible).toBeGreaterThan(40);
});

const alone = (partId: string, placeId: string) => new Map([[partId, new Set([placeId])]]);

it('names what is lost and why', () => {
  const places: JoinPlace[] = [
    { id: 'front', partId: 'front', hostPartId: 'card', through: false, under: new Map() },
    { id: 'arm', partId: 'arm', hostPartId: 'card', through: false, under: alone('front', 'front') },
    { id: 'tongue', partId: 'arm', hostPartId: 'front', through: true, under: new Map() },
  ];
  expect(lostPlaces(places, new Set(['front']))).toEqual([{ place: places[1], over: 'front' }]);
  expect(lostPlaces(places, new Set(['front', 'arm'])).map(({ place }) => place.id)).toEqual(['tongue']);
  // The front comes last; and where each lies over the other, there is no way.
  expect(workableOrder(places).order.at(-1)).toBe(places[0]);
  const both = [{ ...places[0], under: alone('arm', 'arm') }, places[1]];
  expect(workableOrder(both)).toMatchObject({ workable: false });
  expect(workableOrder(places.slice(0, 2)).order.map(({ id }) => id)).toEqual(['arm', 'front']);
});

it('lets a part be swung aside while it is held in one place beyond a fold', () => {
  const strip = { partId: 'strip', hostPartId: 'card', through: false, under: new Map() };
  const places: JoinPlace[] = [
    { id: 'left', ...strip },
    { id: 'right', ...strip },
    { id: 'arm', partId: 'arm', hostPartId: 'card', through: false, under: new Map([['strip', new Set()]]) },
  ];
  expect(lostPlaces(places, new Set(['left']))).toEqual([]);
  expect(lostPlaces(places, new Set(['left', 'right'])).map(({ place }) => place.id)).toEqual(['arm']);
});

it('is quick where nothing lies over anything, however many places there are', () => {
  const places: JoinPlace[] = Array.from({ length: 200 }, (_, i) => ({
    id: `j${i}`,
    partId: `p${i}`,
    hostPartId: i === 0 ? 'card' : `p${i - 1}`,
    through: false,
    under: new Map(),
  }));
  expect(workableOrder(places).order.map(({ id }) => id)).toEqual(places.map(({ id }) => id));
});
