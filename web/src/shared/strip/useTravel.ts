import type { Catch } from '@hollow-finch/core/motion/catches';
import type { Driver } from '@hollow-finch/core/motion/links';
import { driverValue, restPlace } from '@hollow-finch/core/motion/places';
import type { Sweep } from '@hollow-finch/core/motion/sweep';
import { useJob } from '../store/jobStore.ts';

export interface Travel {
  readonly sweep: Sweep;
  readonly catches: readonly Catch[];
  readonly driver: Driver;
  /** Where it is: 0 to 180. */
  readonly at: number;
}

/**
 * What the strip moves at present: the opening (with a pull held where it was put), or the chosen pull while the design has
 * it. Null until reported.
 */
export function useTravel(): Travel | null {
  const report = useJob((s) => s.report);
  const id = useJob((s) => s.travelId);
  const deg = useJob((s) => s.openingDeg);
  const pullAt = useJob((s) => s.pullAt);
  const held = useJob((s) => s.held);
  if (!report) return null;
  const { drivers } = report.sweep.linkage;
  // Of a flat sheet only pulls move.
  const pull =
    report.pulls.find((p) => drivers[p.sweep.driver].id === id) ??
    (drivers[0].still ? report.pulls[0] : undefined);
  return pull
    ? { sweep: pull.sweep, catches: pull.catches, driver: drivers[pull.sweep.driver], at: pullAt }
    : { ...(held?.opened ?? report), driver: drivers[0], at: deg };
}

/** Goes to a place of whatever the strip moves. */
export function moveTo(travel: Travel | null, at: number): void {
  const held = Math.min(180, Math.max(0, at));
  useJob.getState().setTravel(travel?.driver.id ?? 'opening', held);
}

/** Chooses what the strip moves; a pull starts where it rests. */
export function chooseTravel(drivers: readonly Driver[], id: string): void {
  const driver = drivers.find((d) => d.id === id);
  if (!driver || id === 'opening') useJob.getState().setTravel('opening', useJob.getState().openingDeg);
  else useJob.getState().setTravel(id, restPlace(driver));
}

/** A place in words: degrees, or millimetres of pull. */
export function placeText(driver: Driver, at: number, digits = 0): string {
  const value = driverValue(driver, at);
  return `${value.toFixed(driver.unit === 'mm' ? Math.max(1, digits) : digits)}${driver.unit === 'mm' ? ' mm' : '°'}`;
}
