import { bellyBand } from './bellyBand.ts';
import { bentStand } from './bentStand.ts';
import { crossed } from './crossed.ts';
import { cutInWord } from './cutInWord.ts';
import { easel } from './easel.ts';
import type { Family } from './family.ts';
import { door, liftFlap } from './flaps.ts';
import { flipPanel } from './flipPanel.ts';
import { insert } from './insert.ts';
import { label } from './label.ts';
import { layered } from './layered.ts';
import { mats } from './mats.ts';
import { pendulum } from './pendulum.ts';
import { platform } from './platform.ts';
import { riser } from './riser.ts';
import { sidePull } from './sidePull.ts';
import { slider } from './slider.ts';
import { spinner } from './spinner.ts';
import { standUp } from './standUp.ts';
import { step } from './step.ts';
import { strut } from './strut.ts';
import { uprights } from './uprights.ts';
import { vfold } from './vfold.ts';
import { waterfall } from './waterfall.ts';
import { wheel } from './wheel.ts';
import { zigzag } from './zigzag.ts';

/** Every mechanism family, in the order of the drawer: what the opening drives, what a hand moves, what is layered. */
export const FAMILIES: readonly Family[] = [
  step,
  vfold,
  platform,
  zigzag,
  cutInWord,
  spinner,
  riser,
  uprights,
  standUp,
  crossed,
  sidePull,
  waterfall,
  slider,
  wheel,
  pendulum,
  flipPanel,
  liftFlap,
  door,
  easel,
  bentStand,
  strut,
  label,
  bellyBand,
  layered,
  mats,
  insert,
];

const byId = new Map(FAMILIES.map((family) => [family.id, family]));

/** Adds families that are loaded when they are needed: what stands by itself (structures/all.ts). */
export function enrol(families: readonly Family[]): void {
  for (const family of families) byId.set(family.id, family);
}

/** The family with this id, if the program has it, and it is loaded. */
export const familyById = (id: string): Family | undefined => byId.get(id);
