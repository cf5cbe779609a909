/** The written file read back by other means (an XML parser and a path library) and compared with the design. */
import { describe, expect, it } from 'vitest';
import { PROFILES } from '../cutting/profile.ts';
import { newDesign } from '../design/design.ts';
import { cardGutter } from '../design/frames.ts';
import { layerOf, workOf, type Part } from '../dieline/part.ts';
import { turn } from '../geometry/isometry.ts';
import { circle, flatten, placePath, straight, type Path } from '../geometry/path.ts';
import { expand } from '../mechanisms/expand.ts';
import { newInstance } from '../mechanisms/instance.ts';
import { step } from '../mechanisms/step.ts';
import { off, pointsOf, readBack } from './testing/svgReadBack.ts';
import { writePartSvg, writeSvg } from './svgWrite.ts';

describe('SVG cut files', () => {
  it('hold every cut and fold line at its place to 0.01 mm, on its layer, and no guide', () => {
    const design = newDesign('Svg');
    const expanded = expand({ ...design, instances: { m: newInstance(step, cardGutter(design), 'm') } });
    const round: Part = {
      id: 'round',
      name: 'Round & <square>',
      stockId: 'slate-240',
      grainRad: null,
      quantity: 1,
      glueZones: [],
      marks: [],
      lines: [
        { id: 'rim', ...workOf('cut'), path: circle([0, 0], 40) },
        {
          id: 'hole',
          ...workOf('cut'),
          path: {
            start: [5, 0],
            segments: [
              { kind: 'arc', to: [-5, 0], bulge: 0.4 },
              { kind: 'cubic', c1: [-9, -9], c2: [9, -9], to: [5, 0] },
            ],
          },
        },
        { id: 'tear', ...workOf('perforation'), path: straight([-39, 0], [-10, 0]) },
        { id: 'skin', ...workOf('kiss'), path: circle([20, 10], 3) },
      ],
    };
    const all = [...expanded.parts, round].map((part, i) => ({
      part,
      copy: 1,
      placement: turn(0.4 * i, 150 + 40 * i, 120),
    }));
    const svg = writeSvg(all, {
      title: 'Sheet <1> & more',
      widthMm: 420,
      heightMm: 297.5,
      profile: PROFILES[0],
    });
    const read = readBack(svg);
    expect(read.size).toEqual({ width: '420mm', height: '297.5mm', viewBox: '0 0 420 297.5' });
    expect(read.groups).toEqual([
      'score-mountain',
      'score-valley',
      'perforation',
      'kiss',
      'cut',
      'cut-inner',
      'cut-outer',
    ]);
    const group = {
      mountain: ['score-mountain'],
      valley: ['score-valley'],
      perforation: ['perforation'],
      kiss: ['kiss'],
      cut: ['cut-inner', 'cut-outer'],
      score: ['score'],
      mark: [],
    };
    let lines = 0;
    for (const { part, placement } of all)
      for (const line of part.lines) {
        const found = read.paths.filter((p) => p.part === part.id && p.line === line.id);
        expect(found).toHaveLength(line.process === 'mark' ? 0 : 1);
        if (line.process === 'mark') continue;
        lines++;
        expect(group[layerOf(line)] as string[]).toContain(found[0].group);
        const placed = placePath(placement, line.path);
        const written = pointsOf(found[0].d, 297.5);
        expect(off(written, placed)).toBeLessThan(0.01);
        const writtenPath: Path = {
          start: written[0],
          segments: written.slice(1).map((to) => ({ kind: 'line', to })),
        };
        expect(off(flatten(placed), writtenPath)).toBeLessThan(0.03);
      }
    expect(read.paths).toHaveLength(lines);
    const groupOf = (id: string) => read.paths.find((p) => p.part === 'round' && p.line === id)!.group;
    expect([groupOf('hole'), groupOf('rim')]).toEqual(['cut-inner', 'cut-outer']);
  });

  it('export a single part with a border, in true size', () => {
    const part: Part = {
      id: 'p',
      name: 'P',
      stockId: 'slate-240',
      grainRad: null,
      quantity: 1,
      glueZones: [],
      marks: [],
      lines: [{ id: 'o', ...workOf('cut'), path: circle([7, 9], 20) }],
    };
    const read = readBack(writePartSvg(part, 'P', PROFILES[1]));
    expect([parseFloat(read.size.width), parseFloat(read.size.height)]).toEqual([50, 50]);
    expect(read.paths[0].d).toMatch(
      /^M45 25A20 20 0 0 0 25 5A20 20 0 0 0 5 25A20 20 0 0 0 25 45A20 20 0 0 0 45 25$/,
    );
  });
});

describe('names in a cut file', () => {
  /** What a file of XML 1.0 may consist of (its production Char). */
  const ALLOWED = /^(?:[\t\n\r\u0020-\ud7ff\ue000-\ufffd]|[\ud800-\udbff][\udc00-\udfff])*$/;
  it.each([
    ['control characters', 'a\u0000b\u0001c\u001fd'],
    ['markup', '<script>&"\'</script>'],
    ['half a pair', 'x\ud83dy'],
    ['the other half', 'x\ude00y'],
    ['no characters', '\ufffe\uffff'],
    ['a picture', 'moon \ud83c\udf19'],
    ['the end of a title', ']]></title>'],
  ])('may hold %s', (_what, name) => {
    const part: Part = {
      id: name,
      name,
      stockId: 'slate-240',
      grainRad: null,
      quantity: 1,
      glueZones: [],
      marks: [],
      lines: [{ id: name, ...workOf('cut'), path: circle([0, 0], 40) }],
    };
    const svg = writePartSvg(part, name, PROFILES[0]);
    expect(svg).toMatch(ALLOWED);
    // Every tag that is opened is closed, and nothing but the tags has brackets.
    const open: string[] = [];
    const rest = svg
      .replace(/^<\?xml[^>]*\?>/, '')
      .replace(
        /<(\/?)(\w+)((?:\s[\w:-]+="[^"<]*")*)(\/?)>/g,
        (_all, end: string, tag: string, _attributes, single: string) => {
          if (end) expect(open.pop()).toBe(tag);
          else if (!single) open.push(tag);
          return '';
        },
      );
    expect([open, rest]).toEqual([
      [],
      expect.not.stringMatching(/[<>]|&(?!amp;|lt;|gt;|quot;|#39;)/) as string,
    ]);
    // What can be said is said: the name comes back.
    const told = /<title>([^<]*)<\/title>/
      .exec(svg)![1]
      .replace(/&lt;/g, '<')
      .replace(/&gt;/g, '>')
      .replace(/&quot;/g, '"')
      .replace(/&#39;/g, "'")
      .replace(/&amp;/g, '&');
    if (ALLOWED.test(name)) expect(told).toBe(name);
    else expect(told).toContain('\ufffd');
  });
});
