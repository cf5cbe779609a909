import type { Sweep } from '@hollow-finch/core/motion/sweep';
import { useReducedMotion } from '@mantine/hooks';
import { useEffect, useState } from 'react';
import { faultWords } from '../../shared/helper.ts';
import { sayFault } from '../../shared/sayFault.ts';
import { useJob } from '../../shared/store/jobStore.ts';
import { reportWorker } from '../../shared/store/reporter.ts';

/** So long it takes to show all freedoms of a loose part once, seconds. */
const SECONDS = 7;

export interface Loose {
  /** What is loose, as an index into the travel's components. */
  readonly component: number;
  readonly sweep: Sweep;
  readonly at: number;
  readonly playing: boolean;
}

/** A loose component shown moving: played to and fro until a hand takes over, gone when the design changes. */
export function useLoose() {
  const version = useJob((s) => s.reportVersion);
  const [loose, setLoose] = useState<(Loose & { version: number }) | null>(null);
  const still = useReducedMotion();
  const current = loose?.version === version ? loose : null;
  const playing = current?.playing ?? false;
  useEffect(() => {
    if (!playing) return;
    let frame = 0;
    let before = performance.now();
    const tick = (now: number) => {
      const by = ((now - before) / 1000 / SECONDS) * 180;
      before = now;
      setLoose((was) => was && { ...was, at: (was.at + by) % 180 });
      frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [playing]);
  return {
    loose: current,
    /** Shows a component of the travel under a driver, held at a place. */
    show: async (driver: number, component: number, place: number): Promise<void> => {
      const sweep = await reportWorker()
        .loose(version, driver, component, place)
        .catch((fault: unknown) => {
          sayFault(faultWords(fault));
          return null;
        });
      if (sweep) setLoose({ version, component, sweep, at: 0, playing: !still });
    },
    /** Goes to a place by hand. */
    go: (at: number) => setLoose((was) => was && { ...was, at, playing: false }),
    stop: () => setLoose(null),
  };
}
