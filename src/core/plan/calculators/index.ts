/**
 * The little calculators of the work, one row each. All of them are the core's own functions; the review and the diagnosis use the same ones.
 */

import type { Calculator } from './calculator';
import { CHARGE } from './charge';
import { CONDUCTORS } from './conductors';
import { DISCHARGE } from './discharge';
import { UNITS } from './units';

export * from './calculator';

export const CALCULATORS: readonly Calculator[] = [...DISCHARGE, ...CHARGE, ...CONDUCTORS, ...UNITS];
