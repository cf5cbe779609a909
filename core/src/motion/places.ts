/** The places of a travel, and a driver's values at them: light enough for a strip that only shows them. */
import type { Driver } from './links.ts';

/** Places of a travel, from the one end (0) to the other. */
export const POSES = 181;

/** The place of a driver's travel nearest to where it is so much. */
export const placeOf = ({ from, to }: Driver, value: number): number =>
  Math.min(POSES - 1, Math.max(0, Math.round(((value - from) / (to - from || 1)) * (POSES - 1))));

/** The place of a driver's travel nearest to where it rests. */
export const restPlace = (driver: Driver): number => placeOf(driver, driver.rest);

/** A driver's value at a place of its travel (0 to 180): degrees or mm. */
export const driverValue = (driver: Driver, t: number): number =>
  driver.from + ((driver.to - driver.from) * t) / (POSES - 1);
