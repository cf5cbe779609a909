import { describe, expect, it } from 'vitest';
import { seededRandom } from '../geometry/random.ts';
import { editableLength, formatLength, parseLength, roundToRuler } from './length.ts';

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
