import type { LengthUnit } from '@hollow-finch/core/units/length';
import { formatArea, formatLength, formatLong, sentenceIn } from '@hollow-finch/core/units/length';
import { useLocalStorage } from '@mantine/hooks';

/** The person's choice of unit, kept in this browser. */
export function useUnit(): [LengthUnit, (unit: LengthUnit) => void] {
  const [unit, setUnit] = useLocalStorage<LengthUnit>({
    key: 'hollow-finch:unit',
    defaultValue: 'mm',
    getInitialValueInEffect: false,
  });
  return [unit === 'in' ? 'in' : 'mm', setUnit];
}

/** How lengths read: in the person's unit, as short as is exact enough for paper; and sentences with lengths in them. */
export function useLengths(): {
  unit: LengthUnit;
  say: (mm: number) => string;
  /** Such as a kerf: to the hundredth of a mm. */
  sayFine: (mm: number) => string;
  sayLong: (mm: number) => string;
  inUnit: (sentence: string) => string;
  area: (mm2: number) => string;
} {
  const [unit] = useUnit();
  return {
    unit,
    say: (mm) => formatLength(mm, unit, { decimals: 1 }),
    sayFine: (mm) => formatLength(mm, unit, { decimals: unit === 'mm' ? 2 : 3 }),
    sayLong: (mm) => formatLong(mm, unit),
    inUnit: (sentence) => sentenceIn(sentence, unit),
    area: (mm2) => formatArea(mm2, unit),
  };
}
