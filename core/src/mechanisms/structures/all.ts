import type { Family } from '../family.ts';
import { enrol } from '../registry.ts';
import { bag } from './bag.ts';
import { envelope } from './envelope.ts';
import { envelopeBox } from './envelopeBox.ts';
import { explodingBox } from './explodingBox.ts';
import { petalBox } from './petalBox.ts';
import { pillowBox } from './pillowBox.ts';
import { rolledCone } from './rolledCone.ts';
import { sidedBox } from './sidedBox.ts';
import { slideSleeve } from './slideSleeve.ts';
import { trayAndLid } from './trayAndLid.ts';
import { twistedPrism } from './twistedPrism.ts';
import { tuckBox } from './tuckBox.ts';
import { wallet } from './wallet.ts';

/** What stands by itself, in the order of the drawer. Known to designs once this is loaded: a page of a card does without. */
export const STRUCTURES: readonly Family[] = [
  envelope,
  envelopeBox,
  wallet,
  trayAndLid,
  slideSleeve,
  tuckBox,
  sidedBox,
  pillowBox,
  petalBox,
  bag,
  explodingBox,
  twistedPrism,
  rolledCone,
];

enrol(STRUCTURES);
