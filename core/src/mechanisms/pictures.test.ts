/** Pictures as they lie: places of the paper and of the picture, by a second way, on front and back and on turned panels. */
import { expect, it } from 'vitest';
import { readDesign } from '../design/schema.ts';
import { newDesign, type Design, type Picture } from '../design/design.ts';
import { panelPlan } from '../dieline/panels.ts';
import { distance, type Point } from '../geometry/point.ts';
import { areaOfRegions, insideRegion } from '../geometry/polygon.ts';
import { seededRandom } from '../geometry/random.ts';
import { expand } from './expand.ts';
import { newInstance, usualHost } from './instance.ts';
import { artworkOn, laidPicture, pictureShare, pictureWithin } from './pictures.ts';
import { familyById } from './registry.ts';

const DOT =
  'data:image/png;base64,iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';

function withPicture(design: Design, picture: Partial<Picture>): Design {
  const value: Picture = {
    id: 'p',
    name: 'Moth',
    imageId: 'i',
    use: 'artwork',
    partId: 'card',
    face: 'front',
    at: [0, 0],
    widthMm: 60,
    turnDeg: 0,
    strength: 1,
    ...picture,
  };
  return {
    ...design,
    images: { i: { id: 'i', name: 'moth.png', data: DOT, widthPx: 300, heightPx: 200 } },
    pictures: { p: value },
  };
}

it('a place of the paper is the place of the picture that a turn about its middle says', () => {
  const random = seededRandom(6);
  const base = newDesign('Pictures', { closedWidthMm: 150, closedHeightMm: 120 });
  for (let round = 0; round < 100; round++) {
    const at: Point = [80 * random() - 40, 80 * random()];
    const turnDeg = 360 * random();
    const face = random() < 0.5 ? 'front' : 'back';
    const design = withPicture(base, { at: [...at], turnDeg, face });
    expect(readDesign(JSON.parse(JSON.stringify(design))).ok).toBe(true);
    const [laid] = artworkOn(design, 'card');
    expect(laid.heightMm).toBeCloseTo(40, 9);
    const p: Point = [at[0] + 60 * (random() - 0.5), at[1] + 40 * (random() - 0.5)];
    // As it is looked at: from behind, left is right.
    const [dx, dy] = [(face === 'front' ? 1 : -1) * (p[0] - at[0]), p[1] - at[1]];
    const a = (-turnDeg * Math.PI) / 180;
    const own = [dx * Math.cos(a) - dy * Math.sin(a), dx * Math.sin(a) + dy * Math.cos(a)];
    const [u, v] = pictureShare(laid, p);
    expect(u).toBeCloseTo(own[0] / 60 + 0.5, 9);
    expect(v).toBeCloseTo(own[1] / 40 + 0.5, 9);
    expect(distance(laid.corners[0], laid.corners[2])).toBeCloseTo(Math.hypot(60, 40), 9);
  }
});

it('lies on every panel that it covers, and nowhere beyond them', () => {
  const base = newDesign('Pictures', { closedWidthMm: 150, closedHeightMm: 120 });
  const design = withPicture(base, { at: [10, 60], widthMm: 90 });
  const [laid] = artworkOn(design, 'card');
  const { panels } = panelPlan(expand(design).parts[0]);
  const areas = panels.map(({ region }) => areaOfRegions(pictureWithin(laid, region)));
  expect(areas.filter((area) => area > 1)).toHaveLength(2);
  expect(areas.reduce((sum, area) => sum + area, 0)).toBeCloseTo(90 * 60, 1);
  for (const { region } of panels)
    for (const piece of pictureWithin(laid, region))
      expect(
        insideRegion(
          [(piece.outer[0][0] + piece.outer[2][0]) / 2, (piece.outer[0][1] + piece.outer[2][1]) / 2],
          region,
        ),
      ).toBe(true);
});

it('on a mechanism it stays with its panel when the measures change, and is gone with it', () => {
  const base = newDesign('Pictures', { closedWidthMm: 170, closedHeightMm: 150 });
  const family = familyById('step')!;
  const instance = newInstance(family, usualHost(family, expand(base).gutters), 'm', {
    params: { widthMm: 80, depthMm: 40, heightMm: 36 },
  });
  const bare: Design = { ...base, instances: { m: instance } };
  const panelId = Object.keys(expand(bare).panelFrames['m/strip'])[1];
  const design = withPicture(bare, { partId: 'm/strip', panelId, at: [0, 0] });
  const before = laidPicture(design, design.pictures.p)!;
  const taller: Design = {
    ...design,
    instances: { m: { ...instance, params: { ...instance.params, heightMm: 46 } } },
  };
  const after = laidPicture(taller, taller.pictures.p)!;
  const frames = [design, taller].map((each) => expand(each).panelFrames['m/strip'][panelId]);
  for (const k of ['dx', 'dy'] as const)
    expect(after.frame[k] - before.frame[k]).toBeCloseTo(frames[1][k] - frames[0][k], 9);
  expect(laidPicture({ ...design, instances: {} }, design.pictures.p)).toBeUndefined();
  expect(laidPicture({ ...design, images: {} }, design.pictures.p)).toBeUndefined();
});

it('a picture that is an address elsewhere, or no picture, does not enter', () => {
  const design = withPicture(newDesign('Pictures'), {});
  for (const data of [
    'https://example.test/a.png',
    'data:image/svg+xml;base64,PHN2Zy8+',
    'data:text/html;base64,AAAA',
    `data:image/png;base64,${'A'.repeat(300_000)}`,
    'data:image/png;base64,<script>',
  ]) {
    const read = readDesign({ ...design, images: { i: { ...design.images.i, data } } });
    expect(read.ok).toBe(false);
    if (!read.ok) expect(read.message).toMatch(/images/i);
  }
});
