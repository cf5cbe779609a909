/** Drawings by others: what every reader meets, against closed forms and a second reader; broken and hostile files. */
import svgpath from 'svgpath';
import { describe, expect, it } from 'vitest';
import { isClosedPath } from '../../geometry/curve.ts';
import { arcGeometry, boxOfPaths, endOf, flatten, pathLength, type Path } from '../../geometry/path.ts';
import { distance } from '../../geometry/point.ts';
import { ringArea } from '../../geometry/polygon.ts';
import { seededRandom } from '../../geometry/random.ts';
import { NotReadable, type Drawing } from './drawing.ts';
import { indexColour, readDxf } from './dxf.ts';
import { groupsOf, likelyLayer, settled } from './settle.ts';
import { readSvg } from './svg.ts';

const svg = (inside: string, root = 'width="100mm" height="100mm" viewBox="0 0 100 100"') =>
  `<svg xmlns="http://www.w3.org/2000/svg" ${root}>${inside}</svg>`;
const drawn = (inside: string, root?: string): readonly Path[] =>
  readSvg(svg(inside, root)).lines.map(({ path }) => path);
const one = (inside: string, root?: string): Path => drawn(inside, root)[0];
const radii = ({ start, segments }: Path): number[] => {
  let from = start;
  return segments.flatMap((segment) => {
    const arc = segment.kind === 'arc' ? arcGeometry(from, segment.to, segment.bulge) : undefined;
    from = segment.to;
    return arc ? [Math.round(arc.radius * 1e6) / 1e6] : [];
  });
};
const area = (path: Path) => Math.abs(ringArea(flatten(path, 1e-4)));
const why = (read: () => unknown): string => {
  try {
    read();
  } catch (fault) {
    expect(fault).toBeInstanceOf(NotReadable);
    return (fault as Error).message;
  }
  throw new Error('It was read.');
};

describe('path data', () => {
  it('reads every spelling as a second reader does', () => {
    for (const d of [
      'M10 10L20 20H30V40Z',
      'm10-10 5 5.5.5-1-1 1e-1 2',
      'M0 0c10 0 20 10 20 20s10 20 20 20S60 60 70 20',
      'M0 0q10 20 20 0t20 0T60 0',
      'M10,10 l 5,5 m 3 3 l 4 4 z l 9 9',
      'M1.5.5.5-.5L3 3',
      'M0 0S10 10 20 0',
      'M0 0T20 10t5 5',
    ]) {
      const mine = drawn(`<path d="${d}" stroke="red" fill="none"/>`);
      let length = 0;
      let at: [number, number] = [0, 0];
      svgpath(d)
        .abs()
        .unshort()
        .iterate((segment, _i, x, y) => {
          at = [x, y];
          const [kind, ...n] = segment as [string, ...number[]];
          const path: Path | undefined =
            kind === 'L'
              ? { start: at, segments: [{ kind: 'line', to: [n[0], n[1]] }] }
              : kind === 'H'
                ? { start: at, segments: [{ kind: 'line', to: [n[0], y] }] }
                : kind === 'V'
                  ? { start: at, segments: [{ kind: 'line', to: [x, n[0]] }] }
                  : kind === 'C'
                    ? {
                        start: at,
                        segments: [{ kind: 'cubic', c1: [n[0], n[1]], c2: [n[2], n[3]], to: [n[4], n[5]] }],
                      }
                    : kind === 'Q'
                      ? {
                          start: at,
                          segments: [
                            {
                              kind: 'cubic',
                              c1: [x + (2 / 3) * (n[0] - x), y + (2 / 3) * (n[1] - y)],
                              c2: [n[2] + (2 / 3) * (n[0] - n[2]), n[3] + (2 / 3) * (n[1] - n[3])],
                              to: [n[2], n[3]],
                            },
                          ],
                        }
                      : undefined;
          if (path) length += pathLength(path);
        });
      const closing = mine
        .filter((path) => isClosedPath(path) && /z/i.test(d))
        .reduce(
          (sum, { start, segments }) =>
            sum + distance(segments.length > 1 ? segments[segments.length - 2].to : start, start),
          0,
        );
      expect(
        mine.reduce((sum, path) => sum + pathLength(path), 0),
        d,
      ).toBeCloseTo(length + closing, 2);
    }
  });

  it('takes arc flags as single figures, enlarges radii that are too small, and keeps circles', () => {
    expect(endOf(one('<path d="M0 0a5 5 0 0110 0" stroke="red"/>'))).toEqual([
      expect.closeTo(10, 9),
      expect.closeTo(0, 9),
    ]);
    expect(radii(one('<path d="M0 0a5 5 0 0110 0" stroke="red"/>'))[0]).toBeCloseTo(5, 6);
    expect(radii(one('<path d="M0 0A1 1 0 0 1 10 0" stroke="red"/>'))[0]).toBeCloseTo(5, 6);
    expect(pathLength(one('<path d="M0 0A5 5 0 1 1 0.0001 0" stroke="red"/>'))).toBeCloseTo(10 * Math.PI, 3);
    expect(one('<path d="M0 0A0 5 0 0 1 10 0" stroke="red"/>').segments).toEqual([
      { kind: 'line', to: [10, expect.closeTo(0, 9)] },
    ]);
    expect(drawn('<path d="M3 3A5 5 0 0 1 3 3" stroke="red"/>')).toEqual([]);
    expect(radii(one('<path d="M0 0A-5 -5 0 0 1 10 0" stroke="red"/>'))[0]).toBeCloseTo(5, 6);
  });

  it('keeps what precedes an error, and says where it is', () => {
    const read = readSvg(svg('<path d="M0 0L10 0L20 x 5" stroke="red"/>'));
    expect(read.lines[0].path.segments).toHaveLength(1);
    expect(read.notes.join()).toMatch(/breaks off at place/);
    expect(readSvg(svg('<path d="L10 0" stroke="red"/>')).notes.join()).toMatch(/does not begin with a move/);
  });
});

describe('shapes, transforms and units', () => {
  it('have the areas of their closed forms, round corners and all', () => {
    expect(area(one('<circle cx="50" cy="50" r="20" stroke="red"/>'))).toBeCloseTo(400 * Math.PI, 1);
    expect(area(one('<ellipse cx="50" cy="50" rx="20" ry="10" stroke="red"/>'))).toBeCloseTo(
      200 * Math.PI,
      1,
    );
    expect(area(one('<rect x="1" y="2" width="40" height="30" rx="5" stroke="red"/>'))).toBeCloseTo(
      1200 - (4 - Math.PI) * 25,
      2,
    );
    expect(radii(one('<rect width="40" height="30" ry="5" stroke="red"/>'))).toEqual([5, 5, 5, 5]);
    expect(area(one('<rect width="40" height="10" rx="99" ry="99" stroke="red"/>'))).toBeCloseTo(
      Math.PI * 20 * 5,
      1,
    );
    expect(area(one('<polygon points="0,0 10,0 10,10" stroke="red"/>'))).toBeCloseTo(50, 9);
  });

  it('multiply: uneven scale undone by its inverse gives arcs again, mirrors turn them round', () => {
    const inside = '<circle cx="5" cy="5" r="4" stroke="red"/>';
    const undone = one(
      `<g transform="scale(2 3)"><g transform="scale(.5, .33333333333333333)">${inside}</g></g>`,
    );
    expect(radii(undone)).toEqual([4, 4]);
    expect(radii(one(`<g transform="scale(2 3)">${inside}</g>`))).toEqual([]);
    expect(area(one(`<g transform="scale(2 3)">${inside}</g>`))).toBeCloseTo(6 * 16 * Math.PI, 1);
    const mirrored = one('<g transform="scale(-1 1)"><path d="M0 0A5 5 0 0 1 10 0" stroke="red"/></g>');
    const plain = one('<path d="M0 0A5 5 0 0 1 10 0" stroke="red"/>');
    expect(Math.sign((mirrored.segments[0] as { bulge: number }).bulge)).toBe(
      -Math.sign((plain.segments[0] as { bulge: number }).bulge),
    );
    const [x, y] = one(
      '<g transform="translate(10 20) rotate(90) skewX(0)"><path d="M0 0L5 0" stroke="red"/></g>',
    ).segments[0].to;
    expect([x, y]).toEqual([expect.closeTo(10, 9), expect.closeTo(-25, 9)]);
    expect(endOf(one('<path transform="rotate(90 50 50)" d="M50 50L60 50" stroke="red"/>'))[1]).toBeCloseTo(
      -60,
      9,
    );
    expect(endOf(one('<path transform="rotate(0.25turn)" d="M0 0L10 0" stroke="red"/>'))[1]).toBeCloseTo(
      -10,
      9,
    );
  });

  it('say how large they are, or ask', () => {
    const size = (root: string): Drawing => readSvg(svg('<path d="M0 0L10 0" stroke="red"/>', root));
    const long = (d: Drawing, i = 0) => pathLength(d.lines[0].path) * d.sizes[i].mmPerUnit;
    expect(size('width="50mm" height="50mm" viewBox="0 0 100 100"').sure).toBe(true);
    expect(long(size('width="50mm" height="50mm" viewBox="0 0 100 100"'))).toBeCloseTo(5, 9);
    expect(long(size('width="2in" height="2in" viewBox="0 0 100 100"'))).toBeCloseTo(5.08, 9);
    expect(long(size('width="72pt" height="72pt" viewBox="0 0 72 72"'))).toBeCloseTo(254 / 72, 9);
    const px = size('width="96" height="96" viewBox="0 0 96 96"');
    expect([px.sure, px.sizes.map(({ label }) => label.slice(0, 2))]).toEqual([false, ['96', '72', '90']]);
    expect(long(px)).toBeCloseTo(25.4 / 9.6, 9);
    expect(size('viewBox="0 0 96 96"').sizes.map(({ mmPerUnit }) => mmPerUnit)).toContain(1);
    expect(size('width="100%" height="100%" viewBox="0 0 96 96"').sure).toBe(false);
    expect(size('width="50mm" height="50mm"').sure).toBe(false);
    // Other proportions: evenly, in the middle; or unevenly when the file asks for that.
    const off = size('width="200mm" height="100mm" viewBox="0 0 100 100"');
    expect(off.lines[0].path.start[0]).toBeCloseTo(50, 9);
    const none = readSvg(
      svg(
        '<circle cx="5" cy="5" r="4" stroke="red"/>',
        'width="200mm" height="100mm" viewBox="0 0 100 100" preserveAspectRatio="none"',
      ),
    );
    expect(none.lines[0].path.segments[0].kind).toBe('cubic');
    // Units within a view box are user units.
    expect(pathLength(one('<line x1="0" x2="1in" y1="0" y2="0" stroke="red"/>'))).toBeCloseTo(96, 9);
  });
});

describe('styles and structure', () => {
  const colours = (inside: string) => readSvg(svg(inside)).lines.map(({ colour }) => colour);

  it('cascade: attributes, then rules by weight, then the style attribute, then what is important', () => {
    const sheet =
      '<style><![CDATA[ .a{stroke:#00ff00} #b{stroke:blue} path.a{stroke:#123456} g > path{stroke:teal!important} ]]></style>';
    expect(colours(`${sheet}<path class="a" stroke="red" d="M0 0L1 1"/>`)).toEqual(['#123456']);
    expect(colours(`${sheet}<path id="b" class="a" stroke="red" d="M0 0L1 1"/>`)).toEqual(['#0000ff']);
    expect(colours(`${sheet}<path id="b" style="stroke:rgb(255,0,0)" d="M0 0L1 1"/>`)).toEqual(['#ff0000']);
    expect(colours(`${sheet}<g><path style="stroke:red" d="M0 0L1 1"/></g>`)).toEqual(['#008080']);
    expect(colours('<g color="lime"><path stroke="currentColor" d="M0 0L1 1"/></g>')).toEqual(['#00ff00']);
    expect(
      colours(
        '<g stroke="red"><path stroke="inherit" d="M0 0L1 1"/><path stroke="#wrong" d="M0 0L1 1"/></g>',
      ),
    ).toEqual(['#ff0000', '#ff0000']);
  });

  it('hide what is hidden, and offer it', () => {
    const read = readSvg(
      svg(`<g display="none"><path d="M0 0L9 0" stroke="red" display="inline" visibility="visible"/></g>
        <g visibility="hidden"><path d="M0 1L9 1" stroke="red"/><path visibility="visible" d="M0 2L9 2" stroke="red"/></g>
        <path d="M0 3L9 3" stroke="red" opacity="0" fill="none"/><path d="M0 4L9 4" stroke="red" stroke-width="0" fill="none"/>
        <path d="M0 5L9 5" fill="none"/>`),
    );
    expect(read.lines).toHaveLength(1);
    expect(read.hidden).toHaveLength(5);
    expect(read.notes.join()).toContain('5 hidden lines');
  });

  it('draw what is used, and not what is only defined; references to themselves end', () => {
    const read = (inside: string) => readSvg(svg(inside));
    expect(
      read('<defs><path id="p" d="M0 0L5 0"/></defs><use href="#p" x="3" y="4" stroke="red"/>').lines[0],
    ).toMatchObject({
      colour: '#ff0000',
      path: { start: [3, -4] },
    });
    expect(
      read(
        '<symbol id="s" viewBox="0 0 10 10"><path d="M0 0L10 0" stroke="red"/></symbol><use href="#s" width="50" height="50"/>',
      ).lines[0].path.segments[0].to[0],
    ).toBeCloseTo(50, 9);
    expect(
      read(
        '<marker><path d="M0 0L5 0" stroke="red"/></marker><clipPath><rect width="5" height="5"/></clipPath>',
      ).lines,
    ).toEqual([]);
    expect(
      read('<g id="a"><use href="#a"/><path d="M0 0L5 0" stroke="red"/></g>').lines.length,
    ).toBeGreaterThan(0);
    expect(
      read('<use href="other.svg#p"/><text>hello</text><script>1</script><image href="x.png"/>').notes,
    ).toHaveLength(4);
    expect(
      read('<g id="Cut lines"><g id="inner"><path d="M0 0L5 0" stroke="red"/></g></g>').lines[0].layer,
    ).toBe('Cut lines');
  });

  it('say dashes in lengths, after the transform', () => {
    const dash = (attributes: string, outer = '') =>
      readSvg(svg(`<g ${outer}><path d="M0 0L50 0" stroke="red" ${attributes}/></g>`)).lines[0].dash;
    expect(dash('stroke-dasharray="3 1"')).toEqual([3, 1]);
    expect(dash('stroke-dasharray="3 1 2"')).toEqual([3, 1, 2, 3, 1, 2]);
    expect(dash('stroke-dasharray="0 0"')).toEqual([]);
    expect(dash('stroke-dasharray="3,1"', 'transform="scale(2)"')).toEqual([6, 2]);
  });

  it('refuse what would grow beyond measure, and read what only looks odd', () => {
    const bomb = `<!DOCTYPE svg [${Array.from({ length: 12 }, (_, i) => `<!ENTITY e${i} "${i === 0 ? 'aaaaaaaaaa' : `&e${i - 1};`.repeat(10)}">`).join('')}]><svg xmlns="http://www.w3.org/2000/svg">&e11;</svg>`;
    expect(why(() => readSvg(bomb))).toContain('beyond all measure');
    expect(why(() => readSvg('<!DOCTYPE svg [<!ENTITY a "&b;"><!ENTITY b "&a;">]><svg>&a;</svg>'))).toContain(
      'contains itself',
    );
    const uses = Array.from(
      { length: 9 },
      (_, i) => `<g id="g${i + 1}">${`<use href="#g${i}"/>`.repeat(10)}</g>`,
    ).join('');
    expect(
      why(() =>
        readSvg(svg(`<defs><path id="g0" d="M0 0L1 0" stroke="red"/>${uses}</defs><use href="#g9"/>`)),
      ),
    ).toContain('when what it refers to is drawn');
    expect(why(() => readSvg(`${'<g>'.repeat(300)}`))).toContain('deep');
    expect(why(() => readSvg('<html></html>'))).toContain('no SVG drawing');
    expect(why(() => readSvg('<svg><path'))).toMatch(/broken|no drawing/);
    const odd = `<?xml version="1.0"?><!DOCTYPE svg PUBLIC "-//W3C//DTD SVG 1.1//EN" "x.dtd" [<!ENTITY ns "http://www.w3.org/2000/svg">]><v:svg xmlns:v="&ns;"><v:path id="__proto__" d="M0 0L5 0" stroke="red"/></v:svg>`;
    expect(readSvg(odd).lines).toHaveLength(1);
  });
});

/** A DXF drawing of entities, each a list of codes and values. */
const dxf = (entities: readonly (readonly (string | number)[])[], before = ''): string =>
  `${before}0\nSECTION\n2\nENTITIES\n${entities.map((e) => e.join('\n')).join('\n')}${entities.length ? '\n' : ''}0\nENDSEC\n0\nEOF\n`;
const header = (...pairs: (string | number)[]) => `0\nSECTION\n2\nHEADER\n${pairs.join('\n')}\n0\nENDSEC\n`;
const paths = (text: string) => readDxf(text).lines.map(({ path }) => path);

describe('DXF', () => {
  it('reads bulges, arcs, circles, ellipses and lines exactly', () => {
    const [poly] = paths(
      dxf([
        [0, 'LWPOLYLINE', 90, 4, 70, 1, 10, 0, 20, 0, 42, 1, 10, 10, 20, 0, 10, 10, 20, 20, 10, 0, 20, 20],
      ]),
    );
    expect(isClosedPath(poly, 1e-9)).toBe(true);
    expect(area(poly)).toBeCloseTo(200 + 12.5 * Math.PI, 2);
    const [large] = paths(dxf([[0, 'LWPOLYLINE', 70, 0, 10, 0, 20, 0, 42, 2, 10, 10, 20, 0, 42, 5]]));
    expect(pathLength(large)).toBeCloseTo((4 * Math.atan(2) * 10) / 2 / Math.sin(2 * Math.atan(2)), 6);
    const [arc] = paths(dxf([[0, 'ARC', 10, 5, 20, 5, 40, 3, 50, 350, 51, 10]]));
    expect(pathLength(arc)).toBeCloseTo((3 * 20 * Math.PI) / 180, 9);
    expect(radii(paths(dxf([[0, 'CIRCLE', 10, 5, 20, 5, 40, 3]]))[0])).toEqual([3, 3]);
    const [ellipse] = paths(
      dxf([[0, 'ELLIPSE', 10, 0, 20, 0, 11, 20, 21, 0, 40, 0.5, 41, 0, 42, 6.283185307179586]]),
    );
    expect(area(ellipse)).toBeCloseTo(200 * Math.PI, 0);
    const [part] = paths(dxf([[0, 'ELLIPSE', 10, 0, 20, 0, 11, 20, 21, 0, 40, 0.5, 41, 5.5, 42, 0.5]]));
    expect(part.start[0]).toBeCloseTo(20 * Math.cos(5.5), 6);
    expect(endOf(part)[1]).toBeCloseTo(10 * Math.sin(0.5), 6);
  });

  it('reads splines: exactly up to degree three, weighted ones as closely as paper can tell', () => {
    const clamped = [
      0,
      'SPLINE',
      71,
      3,
      40,
      0,
      40,
      0,
      40,
      0,
      40,
      0,
      40,
      1,
      40,
      2,
      40,
      2,
      40,
      2,
      40,
      2,
      10,
      0,
      20,
      0,
      10,
      10,
      20,
      20,
      10,
      20,
      20,
      0,
      10,
      30,
      20,
      20,
      10,
      40,
      20,
      0,
    ];
    const [spline] = paths(dxf([clamped]));
    expect(spline.segments.map(({ kind }) => kind)).toEqual(['cubic', 'cubic']);
    expect([spline.start, endOf(spline)]).toEqual([
      [0, 0],
      [40, 0],
    ]);
    // At the middle knot: de Boor by hand gives ((10,20)/4 + (20,0)/2 + (30,20)/4).
    expect(spline.segments[0].to).toEqual([expect.closeTo(20, 9), expect.closeTo(10, 9)]);
    const w = Math.SQRT1_2;
    const quarter = [
      0,
      'SPLINE',
      71,
      2,
      40,
      0,
      40,
      0,
      40,
      0,
      40,
      1,
      40,
      1,
      40,
      1,
      41,
      1,
      41,
      w,
      41,
      1,
      10,
      10,
      20,
      0,
      10,
      10,
      20,
      10,
      10,
      0,
      20,
      10,
    ];
    for (const p of flatten(paths(dxf([quarter]))[0], 0.001)) expect(Math.hypot(...p)).toBeCloseTo(10, 2);
    expect(readDxf(dxf([[0, 'SPLINE', 71, 3, 10, 0, 20, 0]])).notes.join()).toContain(
      'do not belong together',
    );
  });

  it('places blocks: from their base, made larger, turned, mirrored, in rows and columns, and within blocks', () => {
    const blocks = `0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n2\nB\n10\n1\n20\n1\n0\nLINE\n8\n0\n10\n1\n20\n1\n11\n3\n21\n1\n0\nCIRCLE\n8\nfix\n62\n0\n10\n1\n20\n1\n40\n2\n0\nENDBLK\n0\nENDSEC\n`;
    const insert = (...more: (string | number)[]) =>
      readDxf(dxf([[0, 'INSERT', 2, 'b', 8, 'Fold', 62, 5, 10, 10, 20, 20, ...more]], blocks)).lines;
    const plain = insert();
    expect(plain[0]).toMatchObject({
      layer: 'Fold',
      path: { start: [10, 20], segments: [{ to: [12, 20] }] },
    });
    expect(plain[1]).toMatchObject({ layer: 'fix', colour: '#0000ff' });
    expect(insert(50, 90)[0].path.segments[0].to).toEqual([expect.closeTo(10, 9), expect.closeTo(22, 9)]);
    expect(radii(insert(41, 2, 42, 2)[1].path)).toEqual([4, 4]);
    expect(radii(insert(41, -2, 42, 2)[1].path)).toEqual([4, 4]);
    expect(radii(insert(41, 2, 42, 1)[1].path)).toEqual([]);
    const array = insert(70, 3, 71, 2, 44, 10, 45, 7, 50, 90);
    expect(array).toHaveLength(12);
    expect(array[2].path.start).toEqual([expect.closeTo(3, 9), expect.closeTo(20, 9)]);
    // Seen from behind, x runs the other way.
    expect(insert(230, -1)[0].path.segments[0].to).toEqual([expect.closeTo(-12, 9), expect.closeTo(20, 9)]);
    const back = paths(dxf([[0, 'ARC', 10, 5, 20, 0, 40, 1, 50, 0, 51, 90, 230, -1]]))[0];
    expect(back.start).toEqual([expect.closeTo(-6, 9), expect.closeTo(0, 9)]);
    expect(endOf(back)).toEqual([expect.closeTo(-5, 9), expect.closeTo(1, 9)]);
  });

  it('refuses blocks that are asked for beyond all measure, empty ones too', () => {
    const blocks = '0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n2\nB\n10\n0\n20\n0\n0\nENDBLK\n0\nENDSEC\n';
    const text = dxf([[0, 'INSERT', 2, 'B', 10, 0, 20, 0, 70, 10000, 71, 10000]], blocks);
    expect(why(() => readDxf(text))).toContain('when its blocks are drawn');
  });

  it('knows layers, their colours and dashes, units, and what is off', () => {
    const tables = `0\nSECTION\n2\nTABLES\n0\nLTYPE\n2\nDASHED\n73\n2\n49\n6\n49\n-3\n0\nLAYER\n2\nFold\n62\n3\n6\nDASHED\n0\nLAYER\n2\nOff\n62\n-1\n0\nENDSEC\n`;
    const text = dxf(
      [
        [0, 'LINE', 8, 'fold', 10, 0, 20, 0, 11, 9, 21, 0],
        [0, 'LINE', 8, 'Off', 10, 0, 20, 0, 11, 9, 21, 0],
        [0, 'LINE', 8, 'Fold', 67, 1, 10, 0, 20, 0, 11, 9, 21, 0],
        [0, 'TEXT', 8, 'Fold', 1, 'hello'],
      ],
      header(9, '$INSUNITS', 70, 1, 9, '$LTSCALE', 40, 2) + tables,
    );
    const read = readDxf(text);
    expect(read.lines).toHaveLength(1);
    expect(read.lines[0]).toMatchObject({ colour: '#00ff00', dash: [12, 6] });
    expect(read.hidden).toHaveLength(1);
    expect(read.sizes).toEqual([{ label: 'As the file says', mmPerUnit: 25.4 }]);
    expect(readDxf(dxf([], header(9, '$INSUNITS', 70, 0, 9, '$MEASUREMENT', 70, 0))).sizes[0].mmPerUnit).toBe(
      25.4,
    );
    expect(read.notes.join()).toMatch(/Text was left out.*|paper space/);
    expect([indexColour(1), indexColour(10), indexColour(170)]).toEqual(['#ff0000', '#ff0000', '#0000ff']);
  });

  it('takes any line ending, comments and attached data; says where a file is cut off', () => {
    const text = dxf([[0, 'LINE', 999, 'a comment', 1010, 5, 10, 1, 20, 2, 11, 3, 21, 4]]);
    for (const ending of ['\r\n', '\r']) expect(paths(text.replaceAll('\n', ending))).toEqual(paths(text));
    expect(readDxf(text.replace('0\nEOF\n', '')).notes.join()).toContain('no end mark');
    expect(why(() => readDxf(text.slice(0, text.indexOf('0\nENDSEC'))))).toContain('ENTITIES has no end');
    expect(why(() => readDxf('hello\nworld\n'))).toContain('group code');
    expect(why(() => readDxf('Some Binary DXF\r\n\u001a'))).toContain('binary DXF drawing');
    const [old] = paths(
      dxf([
        [0, 'POLYLINE', 66, 1, 70, 1],
        [0, 'VERTEX', 10, 0, 20, 0],
        [0, 'VERTEX', 10, 9, 20, 9, 70, 16],
        [0, 'VERTEX', 10, 10, 20, 0],
        [0, 'VERTEX', 10, 10, 20, 10],
        [0, 'SEQEND'],
      ]),
    );
    expect(area(old)).toBeCloseTo(50, 9);
  });
});

describe('made into die lines', () => {
  const settle = (drawing: Drawing, more: Partial<Parameters<typeof settled>[1]> = {}) =>
    settled(drawing, {
      mmPerUnit: drawing.sizes[0].mmPerUnit,
      layers: Object.fromEntries(
        groupsOf([...drawing.lines, ...drawing.hidden]).map((group) => [group.key, likelyLayer(group)]),
      ),
      withHidden: false,
      joinMm: 0.05,
      dropDoubles: true,
      findArcs: true,
      ...more,
    });

  it('joins loose ends in the middle, drops doubles of one kind, and tells all of it', () => {
    const drawing = readSvg(
      svg(`<g stroke="red" fill="none"><path d="M0 0H40"/><path d="M40 0.03V30"/><path d="M40 30H0"/><path d="M0 30V0"/>
      <path d="M40 30H0"/><path d="M0 30H40"/></g><path stroke="blue" stroke-dasharray="2 2" d="M20 0V30" fill="none"/><path stroke="blue" stroke-dasharray="2 2" d="M5 5V5"/>`),
    );
    const made = settle(drawing);
    expect(made.lines.map(({ layer }) => layer).sort()).toEqual(['cut', 'mountain']);
    const outline = made.lines.find(({ layer }) => layer === 'cut')!.path;
    expect(isClosedPath(outline, 1e-9)).toBe(true);
    expect(made.report.join(' ')).toMatch(
      /2 lines lay on another.*1 outline is closed now.*1 gap was closed, the widest 0\.030 mm/,
    );
    expect(made.loose).toEqual([]);
    expect([made.widthMm, made.heightMm]).toEqual([expect.closeTo(40, 1), expect.closeTo(30, 1)]);
    expect(settle(drawing, { joinMm: 0 }).lines.length).toBeGreaterThan(4);
    expect(settle(drawing, { dropDoubles: false }).report.join()).toContain('cut twice');
  });

  it('leaves wide gaps and says where they are; lines in two colours are never taken for doubles', () => {
    const gap = settle(
      readSvg(
        svg(
          '<path stroke="red" fill="none" d="M0 0H40V30H0.4"/><path stroke="red" fill="none" d="M0 30V0"/>',
        ),
      ),
    );
    expect(gap.report.join()).toContain('still loose');
    expect(gap.loose[0].gapMm).toBeCloseTo(0.4, 6);
    const two = settle(
      readSvg(
        svg('<path stroke="red" fill="none" d="M0 0H40"/><path stroke="blue" fill="none" d="M0 0H40"/>'),
      ),
    );
    expect(two.lines).toHaveLength(2);
    expect(two.report.join()).toContain('may be meant');
  });

  it('finds flattened arcs again where asked, and takes no polygon for one', () => {
    const flat = flatten(one('<rect x="2" y="2" width="60" height="40" rx="8" stroke="red"/>'), 0.001)
      .map(([x, y]) => `${x},${-y}`)
      .join(' ');
    const drawing = readSvg(svg(`<polygon stroke="red" fill="none" points="${flat}"/>`));
    expect(settle(drawing).lines[0].path.segments.filter(({ kind }) => kind === 'arc')).toHaveLength(4);
    expect(
      settle(drawing, { findArcs: false }).lines[0].path.segments.every(({ kind }) => kind === 'line'),
    ).toBe(true);
    const hexagon = readSvg(
      svg('<polygon stroke="red" fill="none" points="10,0 5,8.66 -5,8.66 -10,0 -5,-8.66 5,-8.66"/>'),
    );
    expect(settle(hexagon).lines[0].path.segments).toHaveLength(6);
  });

  it('takes 5,000 lines in at one go, as long as they were', () => {
    const random = seededRandom(3);
    const rows = Array.from(
      { length: 5000 },
      () =>
        `M${(1000 * random()).toFixed(3)} ${(1000 * random()).toFixed(3)}l${(20 * random()).toFixed(3)} ${(20 * random()).toFixed(3)}`,
    );
    const made = settle(
      readSvg(
        svg(
          `<path stroke="red" fill="none" d="${rows.join('')}"/>`,
          'width="1000mm" height="1000mm" viewBox="0 0 1000 1000"',
        ),
      ),
    );
    expect(made.lines.length).toBeGreaterThan(4900);
    const box = boxOfPaths(made.lines.map(({ path }) => path));
    expect([box.minX, box.minY]).toEqual([expect.closeTo(0, 9), expect.closeTo(0, 9)]);
  });
});

it('10,000 mangled drawings: each is read or refused in words, none ends otherwise', () => {
  const random = seededRandom(99);
  const bases = [
    svg(
      '<style>.a{stroke:red} #b,path:hover{fill:none}</style><g id="Cut" transform="rotate(30) scale(2 -1)"><path class="a" d="M0 0c1 2 3 4 5 6s7 8 9 1A5 5 0 0110 0z"/><rect x="1" y="2" width="30" height="9" rx="3"/><use href="#b" x="4"/></g><defs><circle id="b" r="4" stroke-dasharray="2 1"/></defs>',
    ),
    dxf(
      [
        [0, 'LWPOLYLINE', 8, 'Cut', 70, 1, 10, 0, 20, 0, 42, 0.5, 10, 9, 20, 0, 10, 9, 20, 9],
        [
          0,
          'SPLINE',
          71,
          3,
          40,
          0,
          40,
          0,
          40,
          0,
          40,
          0,
          40,
          1,
          40,
          1,
          40,
          1,
          40,
          1,
          10,
          0,
          20,
          0,
          10,
          1,
          20,
          2,
          10,
          3,
          20,
          2,
          10,
          4,
          20,
          0,
        ],
        [0, 'INSERT', 2, 'B', 10, 1, 20, 1, 41, 2, 42, 2, 70, 2, 44, 5],
      ],
      `${header(9, '$INSUNITS', 70, 4)}0\nSECTION\n2\nBLOCKS\n0\nBLOCK\n2\nB\n10\n0\n20\n0\n0\nCIRCLE\n10\n1\n20\n1\n40\n2\n0\nENDBLK\n0\nENDSEC\n`,
    ),
  ];
  const bits = [
    '"',
    '<',
    '>',
    '&',
    '/',
    '\0',
    '1e999',
    '-',
    '.',
    'NaN',
    '999999999999',
    '\n',
    '0\n',
    'url(#b)',
    '&amp;',
    ']]>',
    '{',
    '}',
    'z',
    '#',
    '70\n-1\n',
  ];
  let read = 0;
  for (let n = 0; n < 10_000; n++) {
    let text = bases[n % 2];
    for (let k = 1 + Math.floor(4 * random()); k > 0; k--) {
      const [i, j] = [Math.floor(random() * text.length), Math.floor(random() * 12)];
      const bit =
        random() < 0.6
          ? bits[Math.floor(random() * bits.length)]
          : text.slice(Math.floor(random() * text.length)).slice(0, 20);
      text = random() < 0.3 ? text.slice(0, i) : text.slice(0, i) + bit + text.slice(i + j);
    }
    try {
      const drawing = n % 2 === 0 ? readSvg(text) : readDxf(text);
      for (const { path } of drawing.lines)
        for (const p of flatten(path))
          if (!p.every(Number.isFinite)) throw new Error(`not a number: ${text}`);
      read += 1;
    } catch (fault) {
      if (!(fault instanceof NotReadable)) throw new Error(`${String(fault)} in ${text}`, { cause: fault });
      expect(fault.message.length).toBeGreaterThan(10);
    }
  }
  expect(read).toBeGreaterThan(1000);
});

it('a path that begins beyond all measure begins where it can, and that is told', () => {
  const drawing = readSvg(
    '<svg xmlns="http://www.w3.org/2000/svg" width="9mm" height="9mm" viewBox="0 0 9 9"><path d="M1e999 4 L5 6 7 8 A5 5 0 0 1 3 3 z"/><path d="M1 1 A1e200 1 0 0 1 2 2 C1e9 0 0 0 3 3 L4 4"/></svg>',
  );
  const points = drawing.lines.map(({ path }) => flatten(path));
  for (const p of points.flat()) expect(p.every(Number.isFinite)).toBe(true);
  expect(points[0][0]).toEqual([5, -6]);
  expect(points[0].at(-1)).toEqual([5, -6]);
  expect(points[1]).toEqual([
    [1, -1],
    [4, -4],
  ]);
  expect(drawing.notes.join(' ')).toMatch(/beyond all measure/);
});
