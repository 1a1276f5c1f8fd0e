/** All causes that are weighed, in the order of the catalogue. A new cause is a new file and a line here. */

import { absorptionTooShort } from './absorption-too-short';
import type { Cause } from './cause';
import { chargeVoltageLow } from './charge-voltage-low';
import { sourceTooSmall } from './source-too-small';

export const CAUSES: readonly Cause[] = [chargeVoltageLow, absorptionTooShort, sourceTooSmall];
