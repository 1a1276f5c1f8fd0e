/** Faults of plain sites: what is changed in a site in good order, and whether that did harm enough that somebody would be called. */

import { CUTTING } from './cutting';
import { DRIFTING } from './drifting';
import type { PlainFault } from './fault';
import { UNDERCHARGING } from './undercharging';

export const PLAIN_FAULTS: readonly PlainFault[] = [...UNDERCHARGING, ...DRIFTING, ...CUTTING];
