import type { Family } from './family.ts';
import { platform } from './platform.ts';
import { cutInWord } from './cutInWord.ts';
import { spinner } from './spinner.ts';
import { riser } from './riser.ts';
import { uprights } from './uprights.ts';
import { standUp } from './standUp.ts';
import { crossed } from './crossed.ts';
import { step } from './step.ts';
import { zigzag } from './zigzag.ts';
import { vfold } from './vfold.ts';

/** Every mechanism family, in the order of the drawer. */
export const FAMILIES: readonly Family[] = [step, vfold, platform, zigzag, cutInWord, spinner, riser, uprights, standUp, crossed];

/** The family with this id, if the program has it. */
export const familyById = (id: string): Family | undefined => FAMILIES.find((family) => family.id === id);
