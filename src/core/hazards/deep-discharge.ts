/** A battery that was emptied beyond what it stands: lead sulphates, a lithium cell may be damaged for good. */

import { batteryLog, type Timeline } from '../log/timeline';
import { cellNumber } from '../log/channels';
import { HOUR, MINUTE } from '../quantity/span';
import { volts } from '../quantity/text';
import { blocksInSeries, isLead } from '../system/chemistry';
import type { KnownBank } from '../system/known';
import type { Hazard, HazardRule } from './hazard';
import { greatestIn, howOften, spells } from './spells';

/** V of a lithium cell, far under what a BMS stops at (common practice, no source); less than the second is a loose wire. */
const CELL = { limit: 2.3, loose: 0.5 };
/** V a 12 V block of lead for so long: 1.75 V a cell is the end of a discharge (common practice, no source); less is a dead bus. */
const BLOCK = { limit: 10.5, dead: 6, forMs: HOUR };

export const deepDischarge: HazardRule = ({ system: { bank }, timeline }) =>
  isLead(bank.chemistry) ? leadBelow(bank, timeline) : cellsBelow(timeline);

function leadBelow(bank: KnownBank, timeline: Timeline): Hazard[] {
  const log = batteryLog(timeline, 'battery_voltage');
  if (!log) return [];
  const blocks = blocksInSeries(bank);
  const at = log.channels.battery_voltage!;
  const isLow = (i: number) => at[i]! < BLOCK.limit * blocks && at[i]! > BLOCK.dead * blocks;
  const found = spells(log.time, isLow, BLOCK.forMs);
  if (found.length === 0) return [];
  const lowest = -greatestIn(log.time, found, (i) => -at[i]!);
  return [
    {
      code: 'deep-discharge',
      text: `The battery stood under ${volts(BLOCK.limit * blocks)} ${howOften(found)}, down to ${volts(lowest)}. Plates that stay empty sulphate, and an empty battery freezes. Charge it soon, slowly at first and with fresh air, and see why nothing cut the loads off before.`,
      spans: found,
    },
  ];
}

const cellsBelow = ({ series }: Timeline): Hazard[] =>
  series.flatMap(({ time, channels }) =>
    Object.entries(channels).flatMap(([name, at]): Hazard[] => {
      const cell = cellNumber(name);
      if (!cell || !at) return [];
      const found = spells(time, (i) => at[i]! < CELL.limit && at[i]! > CELL.loose, MINUTE);
      if (found.length === 0) return [];
      const lowest = -greatestIn(time, found, (i) => -at[i]!);
      return [
        {
          code: 'deep-discharge',
          text: `Cell ${cell} stood under ${volts(CELL.limit)} ${howOften(found)}, down to ${volts(lowest)}. It may be damaged for good, and be dangerous to charge: do not charge it at a full current, and ask its maker before it is charged at all.`,
          spans: found,
        },
      ];
    }),
  );
