/** All causes that are weighed, in the order of the catalogue. A new cause is a new file and a line here. */

import type { Cause } from './cause';
import { absorptionTooShort } from './absorption-too-short';
import { capacityLost } from './capacity-lost';
import { chargePathDrop } from './charge-path-drop';
import { chargeVoltageHigh } from './charge-voltage-high';
import { chargeVoltageLow } from './charge-voltage-low';
import { coldChargeBlock } from './cold-charge-block';
import { compensationMissing } from './compensation-missing';
import { compensationWrong } from './compensation-wrong';
import { equalisationOverdue } from './equalisation-overdue';
import { fakeFull } from './fake-full';
import { floatUnsuited } from './float-unsuited';
import { loadNotCounted } from './load-not-counted';
import { loadPathDrop } from './load-path-drop';
import { loadThroughAbsorption } from './load-through-absorption';
import { prematureFloat } from './premature-float';
import { runnerStopsCharge } from './runner-stops-charge';
import { sourceDerated } from './source-derated';
import { sourceNotCounted } from './source-not-counted';
import { sourceTooSmall } from './source-too-small';
import { tailThresholdHigh } from './tail-threshold-high';

export const CAUSES: readonly Cause[] = [
  chargeVoltageLow,
  chargeVoltageHigh,
  absorptionTooShort,
  tailThresholdHigh,
  sourceTooSmall,
  sourceDerated,
  prematureFloat,
  chargePathDrop,
  compensationMissing,
  compensationWrong,
  coldChargeBlock,
  floatUnsuited,
  equalisationOverdue,
  fakeFull,
  runnerStopsCharge,
  loadThroughAbsorption,
  sourceNotCounted,
  loadNotCounted,
  capacityLost,
  loadPathDrop,
];
