/** All causes that are weighed, in the order of the catalogue. A new cause is a new file and a line here. */

import { absorptionTooShort } from './absorption-too-short';
import { capacityLost } from './capacity-lost';
import type { Cause } from './cause';
import { chargePathDrop } from './charge-path-drop';
import { chargeVoltageLow } from './charge-voltage-low';
import { fakeFull } from './fake-full';
import { loadNotCounted } from './load-not-counted';
import { loadPathDrop } from './load-path-drop';
import { sourceNotCounted } from './source-not-counted';
import { sourceTooSmall } from './source-too-small';

export const CAUSES: readonly Cause[] = [
  chargeVoltageLow,
  absorptionTooShort,
  sourceTooSmall,
  chargePathDrop,
  fakeFull,
  sourceNotCounted,
  loadNotCounted,
  capacityLost,
  loadPathDrop,
];
