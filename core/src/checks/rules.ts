import type { Rule } from './finding.ts';
import { bandFit } from './bandFit.ts';
import { catching } from './catching.ts';
import { closing } from './closing.ts';
import { closedOverhang } from './closedOverhang.ts';
import { doubledLine } from './doubledLine.ts';
import { envelopeFit } from './envelopeFit.ts';
import { foldFaults } from './foldFaults.ts';
import { glueZones } from './glueZones.ts';
import { measures } from './measures.ts';
import { pivotFit } from './pivotFit.ts';
import { sheetFaults } from './sheetFaults.ts';
import { slotFit } from './slotFit.ts';
import { smallParts } from './smallParts.ts';
import { standsUp } from './standsUp.ts';
import { stops } from './stops.ts';
import { wholePieces } from './wholePieces.ts';
import { glueInTheWay } from './glueInTheWay.ts';
import { glueLanding } from './glueLanding.ts';
import { heldPull } from './heldPull.ts';
import { leftWhole } from './leftWhole.ts';
import { matingEdges } from './matingEdges.ts';
import { motionFaults, motionFaultsLive } from './motionFaults.ts';
import { openOutline } from './openOutline.ts';
import { showThrough } from './showThrough.ts';
import { tabsColliding } from './tabsColliding.ts';
import { thinWeb } from './thinWeb.ts';

/** Every rule, in the order in which findings are worked through. */
export const RULES: readonly Rule[] = [
  openOutline,
  doubledLine,
  wholePieces,
  foldFaults,
  motionFaults,
  closing,
  catching,
  heldPull,
  stops,
  slotFit,
  pivotFit,
  closedOverhang,
  standsUp,
  measures,
  showThrough,
  glueZones,
  glueLanding,
  glueInTheWay,
  tabsColliding,
  matingEdges,
  thinWeb,
  leftWhole,
  sheetFaults,
  bandFit,
  envelopeFit,
  smallParts,
];

/** The rules that are run at every change; what takes longer follows when the hand rests. */
export const LIVE_RULES: readonly Rule[] = RULES.filter((rule) => rule !== heldPull).map((rule) =>
  rule === motionFaults ? motionFaultsLive : rule,
);
