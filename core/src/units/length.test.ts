import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { editableLength, formatLength, formatLong, parseLength, roundToRuler, sentenceIn } from './length.ts';

const mm = (text: string, unit: 'mm' | 'in' = 'mm'): number => {
  const result = parseLength(text, unit);
  if (!result.ok) throw new Error(`${text}: ${result.message}`);
  return result.mm;
};

describe('parseLength', () => {
  it.each([
    ['12.5', 12.5],
    ['12,5 mm', 12.5],
    ['12.5 cm', 125],
    ['4 3/8in - 2mm', 4.375 * 25.4 - 2],
    ['3 7/16"', 3.4375 * 25.4],
    ['1/16in + 2mm', 25.4 / 16 + 2],
    ['4½in', 4.5 * 25.4],
    ["1' 2", NaN],
    ['1ft + 2in', 14 * 25.4],
    ['148mm / 2', 74],
    ['2 x (3cm + 5) - -1', 71],
    ['(1 + 2) in', 3 * 25.4],
    ['72pt', 25.4],
    ['148 / 2', 74],
    ['10 3/4', 10.75],
  ])('reads %s', (text, wanted) => {
    if (Number.isNaN(wanted)) expect(parseLength(text).ok).toBe(false);
    else expect(mm(text)).toBeCloseTo(wanted, 9);
  });

  it('takes bare numbers in the reader’s unit', () => {
    expect(mm('3 7/16', 'in')).toBeCloseTo(3.4375 * 25.4, 9);
    expect(mm('3 7/16 + 1mm', 'in')).toBeCloseTo(3.4375 * 25.4 + 1, 9);
  });

  it.each([
    ['', 0],
    ['4 furlongs', 2],
    ['3mm * 2mm', 6],
    ['5 / 0', 4],
    ['1/0 in', 0],
    ['(3', 2],
    ['3 4', 2],
    ['3mm mm', 4],
    ['3 +', 3],
    ['2 # 3', 2],
    ['('.repeat(100), 100],
  ])('refuses %j and says where', (text, at) => {
    const result = parseLength(text);
    expect(result.ok).toBe(false);
    if (!result.ok) {
      expect(result.at).toBe(at);
      expect(result.message).toMatch(/[A-Za-z].*\.$/);
    }
  });

  it('agrees with plain arithmetic on random sums', () => {
    const random = seededRandom(1);
    const units = [
      ['mm', 1],
      ['cm', 10],
      ['in', 25.4],
      ['', 1],
    ] as const;
    for (let i = 0; i < 500; i++) {
      let [text, wanted] = ['', 0];
      const terms = 1 + Math.floor(random() * 4);
      for (let k = 0; k < terms; k++) {
        const [unit, factor] = units[Math.floor(random() * units.length)];
        const value = Math.round(random() * 1000) / 8;
        const minus = k > 0 && random() < 0.5;
        text += `${k > 0 ? (minus ? ' - ' : ' + ') : ''}${value}${unit}`;
        wanted += (minus ? -1 : 1) * value * factor;
      }
      expect(mm(text)).toBeCloseTo(wanted, 8);
    }
  });
});

describe('printing lengths', () => {
  it('types back to the same length', () => {
    const random = seededRandom(2);
    for (let i = 0; i < 500; i++) {
      const length = (random() - 0.3) * 400;
      for (const unit of ['mm', 'in'] as const)
        expect(Math.abs(mm(editableLength(length, unit), unit) - length)).toBeLessThan(0.001);
    }
  });

  it('shows fractions, and says when they are not exact', () => {
    expect(formatLength(4.375 * 25.4, 'in')).toBe('4 3/8 in');
    expect(formatLength(100, 'in', { denominator: 16 })).toBe('~3 15/16 in');
    expect(formatLength(-12.7, 'in')).toBe('-1/2 in');
    expect(formatLength(0, 'in')).toBe('0 in');
    expect(formatLength(12.50001, 'mm')).toBe('12.5 mm');
    expect(formatLength(-0.001, 'mm')).toBe('0 mm');
  });

  it('rounds to ruler marks with the error', () => {
    expect(roundToRuler(10.3, 'mm')).toEqual({ mm: 10.5, errorMm: expect.closeTo(0.2, 12) });
    const inch = roundToRuler(100, 'in', { denominator: 32 });
    expect(inch.mm / 25.4).toBeCloseTo(126 / 32, 12);
    expect(Math.abs(inch.errorMm)).toBeLessThanOrEqual(25.4 / 64);
  });
});

describe('small inches', () => {
  it('are said in thousandths where no fraction is near, and never as nothing', () => {
    expect(formatLength(0.05, 'in')).toBe('0.002 in');
    expect(formatLength(-0.3, 'in')).toBe('-0.012 in');
    expect(formatLength(0.01, 'in')).toBe('0.0004 in');
    expect(formatLength(25.4 / 64, 'in')).toBe('1/64 in');
    expect(formatLength(1.6, 'in')).toBe('~1/16 in');
  });

  it('are typed back as they were, to a micrometre', () => {
    for (const value of [0.05, 0.31, 1.2, -0.7, 1.5875, 0.396875])
      expect(Math.abs(mm(editableLength(value, 'in'), 'in') - value)).toBeLessThan(1e-3);
  });
});

describe('what is long', () => {
  it('is said in metres or feet from two metres on, and as any length below', () => {
    expect(formatLong(74_095.4, 'mm')).toBe('74.1 m');
    expect(formatLong(1999.94, 'mm')).toBe('1999.9 mm');
    expect(formatLong(2000, 'mm')).toBe('2.0 m');
    expect(formatLong(74_095.4, 'in')).toBe('243.1 ft');
    expect(formatLong(254, 'in')).toBe('10 in');
  });
});

describe('a sentence in inches', () => {
  it.each([
    [
      'Closed, Step pokes out 12.7 mm over the open edge.',
      'Closed, Step pokes out 1/2 in over the open edge.',
    ],
    ['The next line end is 0.8 mm away.', 'The next line end is 0.031 in away.'],
    [
      'At most 148 mm, the panel is 76.2 mm deep, 2 mm margin.',
      'At most ~5 53/64 in, the panel is 3 in deep, ~5/64 in margin.',
    ],
    ['Folded, 12.7 of the 25.4 mm are seen.', 'Folded, 1/2 of the 1 in are seen.'],
    ['A fold ends at (50.8, -25.4), 12.7 mm short.', 'A fold ends at (2.00, -1.00), 1/2 in short.'],
    ['C6 (114.3 mm x 158.75 mm)', 'C6 (4 1/2 in x 6 1/4 in)'],
  ])('%s', (said, wanted) => {
    expect(sentenceIn(said, 'in')).toBe(wanted);
    expect(sentenceIn(said, 'mm')).toBe(said);
  });

  it('leaves what is no length: angles, areas, weights, counts, names', () => {
    for (const said of [
      'From 12° to 40° 3 panels of Card 7 catch.',
      'Of 240 g/m2, an area of 12 mm2 or 12 mm² is free.',
      'Slate 240 wants 5 layers.',
      '3 of 5 joined.',
    ])
      expect(sentenceIn(said, 'in')).toBe(said);
  });
});
