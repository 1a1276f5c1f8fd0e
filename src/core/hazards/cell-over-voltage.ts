/** A lithium cell above its limit. */

import { cellNumber } from '../log/channels';
import { MINUTE } from '../quantity/span';
import type { HazardRule } from './hazard';
import { greatestIn, howOften, spells } from './spells';

/** V. Makers of iron phosphate cells give 3.65 V; what a BMS needs to act, and its reading, lie within the rest (common practice). */
const LIMIT = 3.65;
const ALLOWANCE = 0.05;

export const cellOverVoltage: HazardRule = ({ system: { bank }, timeline }) => {
  if (bank.chemistry !== 'lfp') return [];
  return timeline.series.flatMap(({ time, channels }) =>
    Object.entries(channels).flatMap(([name, at]) => {
      const cell = cellNumber(name);
      if (!cell || !at) return [];
      const found = spells(time, (i) => at[i]! > LIMIT + ALLOWANCE, MINUTE);
      if (found.length === 0) return [];
      const most = greatestIn(time, found, (i) => at[i]!);
      return [
        {
          code: 'cell-over-voltage' as const,
          text: `Cell ${cell} stood above ${LIMIT.toFixed(2)} V ${howOften(found)}, at up to ${most.toFixed(2)} V. It is being overcharged: do not charge until the BMS is seen to stop it, and lower the charge voltage until the cells are level.`,
          spans: found,
        },
      ];
    }),
  );
};
